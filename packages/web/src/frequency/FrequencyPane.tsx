import { Problem, type Settings, formatNumber, withUnit } from '@nailset/core';
import { useMemo, useState } from 'react';
import type { GainsOf, LoopResponse } from '../bench/loopResponse';
import { handlesOf, moved } from '../plane/handles';
import { BodePlot, bodeFrame } from './BodePlot';
import { type FrequencyResponse, frequencyOf } from './frequencyData';
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
  return (
    <div className="grid min-w-0 content-start gap-1.5">
      {show.includes('bode') && (
        <BodePlot
          {...{ frame, units, at, className }}
          response={now}
          before={before instanceof Problem ? undefined : before}
          onUnits={setUnits}
          onAt={setAt}
          onFit={() => setFrame(bodeFrame(now))}
          handles={handlesOf(part, settings)}
          onHandle={(handle, to) => onSettings(moved(part, settings, handle, to))}
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
