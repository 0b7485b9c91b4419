import { formatNumber, orProblem, Problem, type Settings, withUnit } from '@nailset/core';
import { type ReactNode, useMemo, useState } from 'react';
import type { GainsOf, LoopResponse } from '../loop/loopResponse';
import type { HeldRatios } from '../loop/ratios';
import { type Kept, useKept, useKeptView } from '../loop/useKept';
import { handlesOf, moved } from '../plane/handles';
import { bodeFrame } from './BodeAxes';
import { BodePlot } from './BodePlot';
import { closeUp, frequencyOf, type FrequencyResponse, marginMarks } from './frequencyData';
import { nyquistFrame } from './NyquistPicture';
import { NyquistPlot } from './NyquistPlot';
import { readAt, type ReadSystem, useFrequencyReadings } from './readings';

/** Classes that give each plot its height, alone or beside the other. */
export interface FrequencyHeights {
  readonly bode: string;
  readonly bodeBesideNyquist: string;
  readonly nyquist: string;
  readonly nyquistBesideBode: string;
}

/**
 * Bode and Nyquist plots of a part's open loop, linked by the frequency that is pointed at: Bode in the left column of
 * the bench, Nyquist in the right one below the response, so that all three are seen at once.
 */
export default function FrequencyPane({
  part,
  settings,
  response,
  first,
  held,
  onSettings,
  head,
  show,
  heights,
  kept,
}: {
  part: GainsOf;
  settings: Settings;
  response: LoopResponse;
  first: LoopResponse | undefined;
  held?: HeldRatios | undefined;
  onSettings: (settings: Settings) => void;
  /** Above the first plot. */
  head: ReactNode;
  show: readonly ('bode' | 'nyquist')[];
  heights: FrequencyHeights;
  kept: Kept;
}) {
  const now = useMemo(() => tryFrequency(response), [response]);
  const before = useMemo(() => (first ? tryFrequency(first) : undefined), [first]);
  const bode = useKeptView(kept, 'bode frame', () => (now instanceof Problem ? undefined : bodeFrame(now)));
  const plane = useKeptView(kept, 'nyquist frame', () => nyquistFrame);
  const frame = bode.view;
  const [units, setUnits] = useKept(kept, 'units', () => ({ hertz: false, ratio: false }));
  const [at, setAt] = useState<number>();
  const readings = useFrequencyReadings(useKept<readonly number[]>(kept, 'frequency readings', () => []));
  const curve = useMemo(
    () => (now instanceof Problem || !frame ? undefined : closeUp(now, response.loop, frame)),
    [now, response, frame],
  );
  if (now instanceof Problem || !frame)
    return (
      <div className="min-w-0 @min-[620px]:col-start-1 @min-[620px]:row-span-2">
        {head}
        <p className="text-slate">{(now as Problem).message}</p>
      </div>
    );
  const { delayMargin } = now.margins;
  const system: ReadSystem = { label: 'L', at: (omega) => readAt(now.exactly, omega) };
  const marks = marginMarks(now.margins, units.ratio);
  const handles = handlesOf(part, settings);
  const both = show.length > 1;
  const nyquist = (className: string) => (
    <NyquistPlot
      {...{ at, className, readings, system }}
      response={now}
      frame={plane.view}
      onFrame={plane.set}
      onBack={plane.back}
      onAt={setAt}
    />
  );
  return (
    <>
      <div className="min-w-0 @min-[620px]:col-start-1 @min-[620px]:row-span-2">
        {head}
        {!show.includes('bode') && nyquist(heights.nyquist)}
        {show.includes('bode') && (
          <BodePlot
            {...{ frame, units, at, readings, system }}
            className={both ? heights.bodeBesideNyquist : heights.bode}
            curve={curve ?? now}
            asymptote={now.asymptote}
            before={before instanceof Problem || !before || !first ? undefined : closeUp(before, first.loop, frame)}
            marks={marks}
            stable={now.margins.closedLoopStable}
            summary={`Frequency response of the open loop. ${marks
              .map(({ kind, omega, words }) => `${kind} margin ${words} at ${formatNumber(omega)} rad/s`)
              .join('; ')}. ${now.count}`}
            onUnits={setUnits}
            onAt={setAt}
            onFit={() => bode.set(bodeFrame(now))}
            onView={bode.set}
            onBack={bode.back}
            corners={handles.map(({ name, kind, re, im }) => ({ name, kind, omega: Math.hypot(re, im) }))}
            onCorner={(name, omega) => {
              const handle = handles.find((each) => each.name === name)!;
              const factor = omega / (Math.hypot(handle.re, handle.im) || 1);
              const to = { re: (handle.re || -1) * factor, im: handle.im * factor };
              onSettings(moved(part, settings, handle, to, held));
            }}
          />
        )}
        <p className="mt-1 text-note text-slate">
          {now.count}
          {delayMargin !== null && Number.isFinite(delayMargin) && ` Delay margin ${withUnit(delayMargin, 's')}.`}
          {at !== undefined && ` At ${formatNumber(at)} rad/s.`}
        </p>
      </div>
      {both && (
        <div className="min-w-0 @min-[620px]:col-start-2 @min-[620px]:row-start-2">
          {nyquist(heights.nyquistBesideBode)}
        </div>
      )}
    </>
  );
}

function tryFrequency({ loop }: LoopResponse): FrequencyResponse | Problem {
  return orProblem(() => frequencyOf(loop));
}
