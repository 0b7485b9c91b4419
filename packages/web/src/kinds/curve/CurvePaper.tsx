import { type Paper, type SeenOf } from '@nailset/core';
import { inputLine } from '@nailset/core';
import { useMemo } from 'react';
import { frameFor } from '../../plot/frame';
import { ResponsePlot } from '../../plot/ResponsePlot';
import { curveFrom } from '../../plot/samples';
import { SettingBoxes } from '../onPaper';
import { knobsOf } from '../students';

/** The part on paper: the curve to be met, what drove it, and a frame for each setting. */
export function CurvePaper({ part, series }: { part: SeenOf<'curve'>; series: Paper['series'] }) {
  const target = useMemo(() => curveFrom(part.target), [part.target]);
  const input = useMemo(() => curveFrom(inputLine(part.input, series, part.horizon)), [part, series]);
  return (
    <div className="break-inside-avoid">
      <ResponsePlot
        title={part.output}
        frame={frameFor(part.horizon, [target], [0, ...input.values])}
        curves={[{ id: 'given', curve: target, look: 'now', label: part.target.label }]}
        reference={input}
        referenceName="input"
        summary={`${part.output}: the given curve over ${part.horizon} s.`}
        className="h-[62mm]"
      />
      <SettingBoxes names={knobsOf(part).map(({ name }) => name)} />
    </div>
  );
}
