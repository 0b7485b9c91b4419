import type { Samples, ShownPlot, Verdict } from '@nailset/core';
import { optionFrame, OptionPlot } from '../plot/OptionPlot';

/** What was tried to see whether an answer holds, each with its response to a step. */
export function TriedResponses({ verdict }: { verdict: Verdict | null | undefined }) {
  const responses = verdict?.responses ?? [];
  if (responses.length === 0) return null;
  return (
    <section aria-label="What was tried" className="@container mt-4 max-w-3xl">
      <div className="grid grid-cols-1 gap-4 @min-[560px]:grid-cols-2">
        {responses.map((samples) => {
          const plot = plotOf(samples);
          return <OptionPlot key={samples.label} title={samples.label} plot={plot} frame={optionFrame([plot])} />;
        })}
      </div>
    </section>
  );
}

const plotOf = ({ times, values }: Samples): ShownPlot => ({
  kind: 'step',
  lines: [{ x: [...times], y: [...values] }],
  marks: [],
});
