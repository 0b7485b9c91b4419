import { numberIn } from '@nailset/core';
import { memo, useState } from 'react';
import { NumberIn } from '../../shared/NumberIn';

const steps = 400;

/** A range round a number, from 0 or from its mirror image: four times as far, on two digits. */
function rangeAbout(value: number): Range {
  if (value === 0) return { low: -1, high: 1 };
  const far = Number((4 * value).toPrecision(2));
  return value > 0 ? { low: 0, high: far } : { low: far, high: 0 };
}

/** The number of a line under a hand: it slides through a range whose ends are typed. */
export function NumberSlider({ name, text, onText }: { name: string; text: string; onText: (text: string) => void }) {
  const value = numberIn(text);
  const [range, setRange] = useState(() => rangeAbout(value));
  const { low, high } = range;
  return (
    <p className="flex items-center gap-2 text-slate">
      <RangeEnd end="low" {...{ name, range, setRange }} />
      <input
        type="range"
        aria-label={`${name}, slid`}
        className="min-w-0 flex-1 accent-petrol"
        min={low}
        max={high}
        step={(high - low) / steps}
        value={Math.min(high, Math.max(low, value))}
        onChange={(event) => onText(String(Number(Number(event.target.value).toPrecision(4))))}
      />
      <RangeEnd end="high" {...{ name, range, setRange }} />
    </p>
  );
}

interface Range {
  readonly low: number;
  readonly high: number;
}

/** One end of a range; it stays as it is while the number slides. */
const RangeEnd = memo(function RangeEnd({
  end,
  name,
  range,
  setRange,
}: {
  end: keyof Range;
  name: string;
  range: Range;
  setRange: (range: Range) => void;
}) {
  const isOrdered = (next: number) => (end === 'low' ? next < range.high : next > range.low);
  return (
    <NumberIn
      words=""
      label={`${name}, ${end === 'low' ? 'from' : 'to'}`}
      value={range[end]}
      isFine={(next) => isOrdered(next) && Math.abs(next) <= 1e9}
      onChange={(next) => setRange({ ...range, [end]: next ?? range[end] })}
    />
  );
});
