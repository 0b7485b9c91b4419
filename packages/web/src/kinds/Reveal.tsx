import type { Bench } from '@nailset/core';
import { useMemo, useState } from 'react';
import { frameFor } from '../plot/frame';
import { ResponsePlot } from '../plot/ResponsePlot';
import { curveFrom } from '../plot/samples';
import { Formula } from '../shared/Formula';

/** What was expected, with the response that it belongs to. */
export function Reveal({ solution, isFormula = false }: { solution: Bench['solutions'][number]; isFormula?: boolean }) {
  const curve = useMemo(() => solution.curve && curveFrom(solution.curve), [solution.curve]);
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
          summary="The step response that the question was about."
          className="h-[300px]"
        />
      )}
    </div>
  );
}
