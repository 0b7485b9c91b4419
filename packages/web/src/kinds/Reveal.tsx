import { type Bench, type Curve, numberFromText, orElse, quantities, type QuantityName, withUnit } from '@nailset/core';
import { useMemo, useState } from 'react';
import { frameFor } from '../plot/frame';
import { type MeasureMark, placeOf } from '../plot/measureMarks';
import { ResponsePlot } from '../plot/ResponsePlot';
import { curveFrom } from '../plot/samples';
import { Formula } from '../shared/Formula';

/** A quantity that is read off the response: the value typed for it, if one was. */
interface Read {
  readonly quantity: string | undefined;
  readonly unit: string;
  readonly answer: number | undefined;
}

/** What was expected, with the response that it belongs to; and where on it both it and the typed number lie. */
export function Reveal({
  solution,
  isFormula = false,
  read,
}: {
  solution: Bench['solutions'][number];
  isFormula?: boolean;
  read?: Read;
}) {
  const curve = useMemo(() => solution.curve && curveFrom(solution.curve), [solution.curve]);
  const marks = useMemo(() => (curve && read ? marksOf(read, solution.text, curve) : []), [curve, read, solution.text]);
  const tMax = curve?.times[curve.times.length - 1] ?? 1;
  const [frame, setFrame] = useState(() => frameFor(tMax, curve ? [curve] : []));
  return (
    <div className="mt-6">
      <p className="mb-3 border-l-2 border-moss py-1 pl-4">
        {isFormula ? (
          <>
            <span className="label mb-1">Expected</span>
            <Formula latex={solution.text} display />
          </>
        ) : (
          `Expected ${solution.text}.`
        )}
      </p>
      {curve && (
        <ResponsePlot
          title="Response to a unit step"
          frame={frame}
          onFit={() => setFrame(frameFor(tMax, [curve]))}
          curves={[{ id: 'now', curve, look: 'now', label: 'response' }]}
          marks={marks}
          summary={['The step response that the question was about.', ...marks.map(({ words }) => words)].join(' ')}
          className="h-[300px]"
        />
      )}
    </div>
  );
}

function marksOf({ quantity, unit, answer }: Read, expected: string, curve: Curve): MeasureMark[] {
  if (quantity === undefined || !(quantity in quantities)) return [];
  const name = quantity as QuantityName;
  const right = orElse(undefined, () => numberFromText(expected, unit));
  const mark = (id: string, value: number | undefined, lead: string, isMissed: boolean): MeasureMark[] => {
    const place = value === undefined ? undefined : placeOf(name, value, curve);
    return place && value !== undefined ? [{ id, ...place, words: `${lead} ${withUnit(value, unit)}`, isMissed }] : [];
  };
  const isOff = answer !== undefined && right !== undefined && Math.abs(answer - right) > 1e-3 * Math.abs(right);
  return [...mark('right', right, 'expected', false), ...(isOff ? mark('own', answer, 'yours', true) : [])];
}
