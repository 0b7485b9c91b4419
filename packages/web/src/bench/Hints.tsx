import { type Bench, inPoints, type StudentPart } from '@nailset/core';
import { useTakeHint } from '../api/learning';
import { Statement } from '../statement/Statement';

/** Hints that were asked for, and the next one with what it costs. */
export function Hints({ bench, part }: { bench: Bench; part: StudentPart }) {
  const take = useTakeHint(bench.exerciseId);
  const told = bench.hints.find(({ partId }) => partId === part.id)?.texts ?? [];
  const cost = part.hints?.[told.length];
  return (
    <div className="mt-4 max-w-3xl">
      {told.map((text, k) => (
        <div key={k} className="mt-2 border-l-2 border-plum pl-4">
          <span className="label">Hint {k + 1}</span>
          <Statement text={text} />
        </div>
      ))}
      {cost !== undefined && (
        <p className="mt-2 text-[13px]">
          <button
            type="button"
            className="link"
            disabled={take.isPending}
            onClick={() => take.mutate({ partId: part.id, number: told.length + 1 })}
          >
            {told.length === 0 ? 'A hint' : 'Another hint'}
            {cost > 0 && `, for ${inPoints(cost)}`}
          </button>
          {take.error && (
            <span role="alert" className="ml-3 text-brick">
              {take.error.message}
            </span>
          )}
        </p>
      )}
    </div>
  );
}
