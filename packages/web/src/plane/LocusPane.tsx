import {
  type Branch,
  formatNumber,
  formatPoint,
  numberIn,
  openGains,
  orProblem,
  Problem,
  type Settings,
} from '@nailset/core';
import { useMemo } from 'react';
import type { GainsOf, LoopResponse, LoopResponses } from '../loop/loopResponse';
import type { HeldRatios } from '../loop/ratios';
import { type Kept, useKept, useKeptView } from '../loop/useKept';
import { mostReadings } from '../plot/mostReadings';
import { useSame } from '../shared/useSame';
import { type Handle, handlesOf, moved } from './handles';
import { factorOf, frameAround, locusOf, openLoopOf, promisedOvershoot, regionOf, tryLocus } from './locus';
import type { Layers } from './LocusLayers';
import { LocusPlot } from './LocusPlot';
import { type PlaneReading, readingsOn, type SetReading } from './readings';
import { sweepGain, sweepOver } from './sweep';

const firstLayers: Layers = {
  ...{ axis: true, asymptotes: false, breaks: false, crossings: false, angles: false, grid: false, region: true },
};

/** The locus of a part's loop with everything that is done on it. */
export default function LocusPane({
  part,
  settings,
  responses,
  response,
  first,
  held,
  onSettings,
  kept,
  className,
}: {
  part: GainsOf;
  settings: Settings;
  responses: LoopResponses;
  response: LoopResponse;
  first: LoopResponse | undefined;
  held?: HeldRatios | undefined;
  onSettings: (settings: Settings) => void;
  kept: Kept;
  className: string;
}) {
  const factor = factorOf(part);
  // The locus changes with everything but the factor itself.
  // What is not allowed is not drawn: the plane stays as it was.
  const rest = useSame<Settings>({ ...response.settings, ...(factor ? { [factor]: '1' } : {}) });
  const open = useMemo(() => orProblem(() => openLoopOf(responses.model, rest, factor)), [responses, rest, factor]);
  const { view: frame, set: setFrame, back } = useKeptView(kept, 'plane frame', () => startFrame(part, response, open));
  const [layers, setLayers] = useKept(kept, 'layers', () => firstLayers);
  const choices = [
    ...openGains(part.controller).flatMap(({ name }) =>
      settings[name] !== undefined && name !== factor ? [name] : [],
    ),
    ...part.families.map(({ parameter }) => parameter),
  ];
  const [chosen, setOver] = useKept(kept, 'locus over', () => '');
  const over = choices.includes(chosen) ? chosen : '';
  const [set, setReadings] = useKept<readonly SetReading[]>(kept, 'readings', () => []);
  const { locus, words } = useMemo(
    () => (open instanceof Problem ? { words: open.message } : tryLocus(() => open && locusOf(open, frame))),
    [open, frame],
  );
  const region = useMemo(() => regionOf(part.nails), [part.nails]);
  const gain = factor ? numberIn(settings[factor]) : null;
  const now = useSame(settings);
  const swept = useMemo(
    () => (over ? orProblem(() => sweepOver(over, part, responses, now, frame)) : null),
    [over, part, responses, now, frame],
  );
  if (!locus) return <p className={`text-slate ${className}`}>{words}</p>;
  const sweep = swept && !(swept instanceof Problem) ? swept : sweepGain(locus.branches, responses, settings, factor);
  const readings = readingsOn(sweep, set);
  const handle = (which: Handle, to: { re: number; im: number }) => onSettings(moved(part, settings, which, to, held));
  const addReading = (value: number, branch: number) =>
    setReadings((old) => [
      ...old.slice(1 - mostReadings),
      { id: 1 + Math.max(0, ...old.map(({ id }) => id)), gain: sweep.snapped(value), branch },
    ]);
  const warning = swept instanceof Problem ? swept.message : warningOf(part, response);
  return (
    <div className="grid min-w-0 content-start gap-1.5">
      <LocusPlot
        {...{ locus, sweep, frame, layers, region, readings, className }}
        poles={response.poles}
        hidden={response.hidden}
        before={first?.poles ?? []}
        gain={gain}
        handles={handlesOf(part, settings)}
        onLayers={setLayers}
        onFrame={setFrame}
        onBack={back}
        onFit={() => setFrame(frameAround([...locus.poles, ...locus.zeros, ...response.poles]))}
        onGain={(value) => factor && onSettings({ ...settings, [factor]: String(Number(value.toPrecision(4))) })}
        onHandle={handle}
        onAddReading={addReading}
        onReading={(id, value, branch) =>
          setReadings((old) =>
            old.map((reading) => (reading.id === id ? { id, gain: sweep.snapped(value), branch } : reading)),
          )
        }
        onRemoveReading={(id) => setReadings((old) => old.filter((reading) => reading.id !== id))}
      />
      <p className="flex flex-wrap items-baseline gap-x-4 text-note text-slate">
        {sweep.now !== null && (
          <button type="button" className="link" onClick={() => addReading(sweep.now!, upperBranch(sweep.branches))}>
            Read here
          </button>
        )}
        <label>
          Locus over{' '}
          <select
            aria-label="Locus over"
            className="bg-transparent text-petrol"
            value={over}
            onChange={(event) => {
              setReadings([]);
              setOver(event.target.value);
            }}
          >
            <option value="">the gain</option>
            {choices.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        {warning && <span className="text-brick">{warning}</span>}
      </p>
      {readings.length > 0 && <Readings name={sweep.name} readings={readings} />}
    </div>
  );
}

const upperBranch = (branches: readonly Branch[]): number =>
  Math.max(
    0,
    branches.findIndex(({ im }) => im.some((value) => value > 0)),
  );

function Readings({ name, readings }: { name: string; readings: readonly PlaneReading[] }) {
  const cell = (value: number | null, unit = '') => (value === null ? '–' : `${formatNumber(value)}${unit}`);
  return (
    <div className="overflow-x-auto">
      <table aria-label="Readings on the locus" className="w-full text-right text-note">
        <thead className="text-slate">
          <tr>
            <td />
            {['pole', 'ζ', 'ωn', 'rule', 'response', name].map((head) => (
              <th key={head} className="px-1.5 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {readings.map(({ id, gain, re, im, dampingRatio, naturalFrequency, promised, actual }) => (
            <tr key={id} className="border-t border-grid">
              <td className="px-1.5 text-copper">{id}</td>
              <td className="px-1.5 whitespace-nowrap">{formatPoint({ re, im })}</td>
              <td className="px-1.5">{cell(dampingRatio)}</td>
              <td className="px-1.5">{cell(naturalFrequency)}</td>
              <td className="px-1.5">{cell(promised, ' %')}</td>
              <td className="px-1.5">{cell(actual, ' %')}</td>
              <td className="px-1.5">{cell(gain)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The second-order rule for the slowest pole that is seen, against the response, where they part. */
function warningOf(part: GainsOf, { poles, measures }: LoopResponse): string | undefined {
  const asked = part.nails.some((nail) => 'quantity' in nail && nail.quantity === 'overshootPercent');
  const slowest = [...poles].sort((a, b) => b.re - a.re)[0];
  if (!asked || !slowest || measures.overshootPercent === null) return undefined;
  const promised = promisedOvershoot(slowest);
  if (Math.abs(promised - measures.overshootPercent) < 3) return undefined;
  return `The second-order rule predicts ${formatNumber(promised)} %, the response overshoots ${formatNumber(
    measures.overshootPercent,
  )} %: zeros or other poles are too near for it.`;
}

function startFrame(part: GainsOf, response: LoopResponse, open: ReturnType<typeof openLoopOf> | Problem) {
  const locus = open && !(open instanceof Problem) ? locusOf(open, { re: 0, im: 0, reach: 1 }) : undefined;
  const places = openGains(part.controller)
    .filter(({ name }) => name !== 'K' && /^[zp]/.test(name))
    .map(({ start }) => ({ re: start, im: 0 }));
  return frameAround([...response.poles, ...(locus?.poles ?? []), ...(locus?.zeros ?? []), ...places]);
}
