import { must, type Part } from '@nailset/core';
import { Statement } from '../statement/Statement';
import { choiceCounts, type PartAnswer } from './summary';

/** How many chose each option. */
export function ChoiceCounts({
  part,
  answers,
}: {
  part: Extract<Part, { kind: 'choice' }>;
  answers: readonly PartAnswer[];
}) {
  const counts = choiceCounts(part, answers);
  const most = Math.max(1, ...counts);
  return (
    <section aria-label="What was chosen">
      <h2 className="caption mb-1">Chosen</h2>
      <ul>
        {part.options.map(({ id, text }, k) => (
          <li key={id} className="grid grid-cols-[1fr_120px_28px] items-center gap-x-3 border-t border-grid py-1.5">
            <Statement text={text} />
            <span className="h-1.5 bg-grid" aria-hidden="true">
              <span
                className="block h-full origin-left bg-petrol"
                style={{ transform: `scaleX(${must(counts[k]) / most})` }}
              />
            </span>
            <b className="text-right font-medium">{counts[k]}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}
