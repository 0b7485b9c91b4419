import { type Attempt, type Bench, formatNumber, type SeenOf } from '@nailset/core';
import { Reveal } from '../Reveal';
import { TriedResponses } from '../TriedResponses';

/** Ranges of a gain, as they are written. */
export function RangeBench({
  part,
  text,
  last,
  solution,
  together,
  onChange,
}: {
  part: SeenOf<'range'>;
  text: string;
  last: Attempt | undefined;
  solution: Bench['solutions'][number] | undefined;
  together: boolean;
  onChange: (text: string) => void;
}) {
  return (
    <div className="max-w-3xl">
      <label htmlFor={`range-${part.id}`} className={together ? 'sr-only' : 'label mb-1'}>
        {part.title}
      </label>
      <input
        id={`range-${part.id}`}
        autoComplete="off"
        spellCheck={false}
        value={text}
        maxLength={2000}
        onChange={(event) => onChange(event.target.value)}
        aria-describedby={`range-form-${part.id}`}
        className="input px-3 py-2 text-[20px]"
      />
      <p id={`range-form-${part.id}`} className="mt-2 text-note text-slate">
        For example 0 &lt; K &lt; 42, or K &gt; 3; several with “or”; “none” if there is none. Ends within{' '}
        {formatNumber(part.tolerancePercent)} % count.
      </p>
      <TriedResponses verdict={last?.verdict} />
      {solution && <Reveal solution={solution} />}
    </div>
  );
}
