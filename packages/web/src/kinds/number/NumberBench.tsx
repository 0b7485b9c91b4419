import { type Bench, formatNumber, quantities, type QuantityName, type SeenOf, withUnit } from '@nailset/core';
import { Reveal } from '../Reveal';

/** A number, typed; the expected one and its response appear once the exercise shows them. */
export function NumberBench({
  part,
  text,
  answer,
  solution,
  together,
  onChange,
}: {
  part: SeenOf<'number'>;
  text: string;
  /** What was handed in last, as a number. */
  answer: number | undefined;
  solution: Bench['solutions'][number] | undefined;
  together: boolean;
  onChange: (text: string) => void;
}) {
  const quantity = part.quantity === undefined ? undefined : quantities[part.quantity as QuantityName];
  const within =
    part.toleranceAbsolute === undefined
      ? `${formatNumber(part.tolerancePercent)} %`
      : withUnit(part.toleranceAbsolute, part.unit);
  return (
    <div className="max-w-3xl">
      <label htmlFor={`number-${part.id}`} className={together && !quantity ? 'sr-only' : 'label mb-1'}>
        {quantity?.label ?? part.title}
      </label>
      <div className="flex items-baseline gap-2">
        <input
          id={`number-${part.id}`}
          autoComplete="off"
          value={text}
          maxLength={200}
          onChange={(event) => onChange(event.target.value)}
          aria-describedby={`definition-${part.id}`}
          className="input w-40 px-3 py-2 text-[20px]"
        />
        <span className="text-[18px] text-slate">{part.unit}</span>
      </div>
      <p id={`definition-${part.id}`} className="mt-2 text-note text-slate">
        {quantity && `${quantity.definition} `}
        {(part.toleranceAbsolute ?? part.tolerancePercent) > 0 && `Within ${within} counts.`}
      </p>
      {solution && (
        <Reveal
          solution={solution}
          {...(quantity ? { read: { quantity: part.quantity, unit: part.unit, answer } } : {})}
        />
      )}
    </div>
  );
}
