import { must } from '@nailset/core';
import { Statement } from '../statement/Statement';
import { sharesOf, type VoteOption, type Votes, withVote } from './votes';

/** Options with the hands raised for each, counted by − and + or typed; after the reveal the right ones are marked. */
export function VoteList({
  options,
  votes,
  right,
  onChange,
}: {
  options: readonly VoteOption[];
  votes: Votes;
  /** Ids of what is right, once revealed. */
  right: readonly string[] | undefined;
  onChange: (votes: Votes) => void;
}) {
  const shares = sharesOf(options, votes);
  const step = (id: string, by: number) => onChange(withVote(votes, id, (votes[id] ?? 0) + by));
  return (
    <ul aria-label="Show of hands" className="grid gap-2">
      {options.map(({ id, text }, k) => (
        <li
          key={id}
          data-option={id}
          className="grid grid-cols-[1fr_auto] items-center gap-x-3 border-t border-rule pt-1.5"
        >
          <span className={right?.includes(id) ? 'font-medium text-moss' : ''}>
            <Statement text={right?.includes(id) ? `✓ ${text}` : text} />
          </span>
          <span className="flex items-center gap-1">
            <button
              type="button"
              className="link px-1.5"
              aria-label={`One hand less for ${text}`}
              onClick={() => step(id, -1)}
            >
              −
            </button>
            <input
              aria-label={`Hands for ${text}`}
              inputMode="numeric"
              className="input w-12 px-1 py-0.5 text-center"
              value={votes[id] ?? 0}
              onChange={(event) => onChange(withVote(votes, id, Number(event.target.value)))}
            />
            <button
              type="button"
              className="link px-1.5"
              aria-label={`One hand more for ${text}`}
              onClick={() => step(id, 1)}
            >
              +
            </button>
          </span>
          <span className="col-span-2 mt-1 h-1.5 bg-grid" aria-hidden="true">
            <span className="block h-full origin-left bg-petrol" style={{ transform: `scaleX(${must(shares[k])})` }} />
          </span>
        </li>
      ))}
    </ul>
  );
}
