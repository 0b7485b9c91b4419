import { Problem, type Settings, formatNumber, withUnit } from '@nailset/core';
import { useMemo, useState } from 'react';
import type { GainsOf, LoopResponse } from '../bench/loopResponse';
import { handlesOf, moved } from '../plane/handles';
import { bodeFrame } from './BodeAxes';
import { BodePlot } from './BodePlot';
import { type FrequencyResponse, frequencyOf, marginMarks } from './frequencyData';
import { NyquistPlot, nyquistFrame } from './NyquistPlot';

/** Bode and Nyquist plots of a part's open loop, linked by the frequency that is pointed at. */
export default function FrequencyPane({
  part,
  settings,
  response,
  first,
  onSettings,
  show,
  className,
  lower,
}: {
  part: GainsOf;
  settings: Settings;
  response: LoopResponse;
  first: LoopResponse | undefined;
  onSettings: (settings: Settings) => void;
  show: readonly ('bode' | 'nyquist')[];
  className: string;
  /** Of the Nyquist plot. */
  lower: string;
}) {
  const now = useMemo(() => tryFrequency(response), [response]);
  const before = useMemo(() => (first ? tryFrequency(first) : undefined), [first]);
  const [frame, setFrame] = useState(() => (now instanceof Problem ? undefined : bodeFrame(now)));
  const [plane, setPlane] = useState(nyquistFrame);
  const [units, setUnits] = useState({ hertz: false, ratio: false });
  const [at, setAt] = useState<number>();
  if (now instanceof Problem || !frame) return <p className={`text-slate ${className}`}>{(now as Problem).message}</p>;
  const { delayMargin } = now.margins;
  const marks = marginMarks(now.margins, units.ratio);
  const handles = handlesOf(part, settings);
  return (
    <div className="grid min-w-0 content-start gap-1.5">
      {show.includes('bode') && (
        <BodePlot
          {...{ frame, units, at, className }}
          curve={now}
          asymptote={now.asymptote}
          before={before instanceof Problem ? undefined : before}
          marks={marks}
          stable={now.margins.closedLoopStable}
          summary={`Frequency response of the open loop. ${marks
            .map(({ kind, omega, words }) => `${kind} margin ${words} at ${formatNumber(omega)} rad/s`)
            .join('; ')}. ${now.count}`}
          onUnits={setUnits}
          onAt={setAt}
          onFit={() => setFrame(bodeFrame(now))}
          corners={handles.map(({ name, kind, re, im }) => ({ name, kind, omega: Math.hypot(re, im) }))}
          onCorner={(name, omega) => {
            const handle = handles.find((each) => each.name === name)!;
            const factor = omega / (Math.hypot(handle.re, handle.im) || 1);
            const to = { re: (handle.re || -1) * factor, im: handle.im * factor };
            onSettings(moved(part, settings, handle, to));
          }}
        />
      )}
      {show.includes('nyquist') && (
        <NyquistPlot response={now} frame={plane} onFrame={setPlane} at={at} onAt={setAt} className={lower} />
      )}
      <p className="text-note text-slate">
        {now.count}
        {delayMargin !== null && Number.isFinite(delayMargin) && ` Delay margin ${withUnit(delayMargin, 's')}.`}
        {at !== undefined && ` At ${formatNumber(at)} rad/s.`}
      </p>
    </div>
  );
}

function tryFrequency({ loop }: LoopResponse): FrequencyResponse | Problem {
  try {
    return frequencyOf(loop);
  } catch (error) {
    if (error instanceof Problem) return error;
    throw error;
  }
}
