import { formatNumber, marginsOf, orProblem, Problem, type TimeUnit } from '@nailset/core';
import { useMemo, useState } from 'react';
import {
  type BodeCurve,
  type BodeFrame,
  bodeFrame,
  type BodeScale,
  bodeScale,
  levelAt,
  MarginMarks,
} from '../../frequency/BodeAxes';
import { BodePicture, type Half } from '../../frequency/BodePicture';
import { CurvePath } from '../../frequency/BodePlot';
import { marginMarks } from '../../frequency/frequencyData';
import { PlotFrame } from '../../plot/PlotFrame';
import { placeOn } from '../../plot/pointer';
import { useTimeUnit } from '../../plot/timeUnit';
import { markAt, sliderProps, useDrag } from '../../plot/useDrag';
import { useSize } from '../../plot/useSize';
import { Toggle } from '../fields/Toggle';
import type { Drawn } from '../sheet/drawn';
import { levelsOf, spanOf } from '../sheet/frequencies';
import { AxesMenu, type Axis } from './AxesMenu';
import type { FrequencyData, FrequencyProps, FrequencyReadings } from './paneProps';
import { useHeld } from './useHeld';

interface Shown {
  readonly each: Drawn;
  readonly curve: BodeCurve;
}

const shownOf = (drawn: readonly Drawn[], span: readonly [number, number]): Shown[] =>
  drawn.flatMap((each) => {
    const curve = levelsOf(each.transfer, span);
    return curve ? [{ each, curve }] : [];
  });

/** Magnitude above phase of every system, the margins of the chosen one, and the frequency that is pointed at. */
export default function BodePane({ drawn, chosen, kept, fits, className, tools, readings, data }: FrequencyProps) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const [units, setUnits] = useState({ ratio: false, hertz: false });
  const [withMargins, setWithMargins] = useState(false);
  const [at, setAt] = useState<number>();
  const unit = useTimeUnit();
  const held = useHeld(drawn.length > 0, fits, () => {
    const span = spanOf(drawn);
    return frameOf(shownOf(drawn, span), span);
  });
  const frame = held.axes;
  const span = [frame.from, frame.to] as const;
  const all = shownOf(drawn, span);
  const present = all.find(({ each }) => each.id === chosen?.id);
  const scale = useMemo(() => bodeScale(frame, units, width, height), [frame, units, width, height]);
  const words = all.map(({ each, curve }) => `${each.label} from ${decibels(curve, 0)} to ${decibels(curve, -1)}`);
  return (
    <PlotFrame
      title="Bode"
      onFit={held.fit}
      className={className}
      table={() => ({
        heads: [`ω, rad/${unit}`, ...all.flatMap(({ each }) => [`${each.label}, dB`, `${each.label}, °`])],
        rows: Array.from({ length: 24 }, (_, k) => 10 * k).map((k) => [
          all[0]?.curve.omegas[k] ?? null,
          ...all.flatMap(({ curve }) => [curve.magnitudesDb[k] ?? null, curve.phasesDegrees[k] ?? null]),
        ]),
      })}
      tools={
        <>
          {at !== undefined && present && <span className="text-copper">{readingAt(present, at, unit)}</span>}
          <Toggle on={withMargins} onChange={setWithMargins} words="Margins" />
          <AxesMenu axes={axesOf(frame, unit)} onChange={(axis, ends) => held.set(withAxis(frame, axis, ends))}>
            <p className="flex gap-4">
              <button type="button" className="link" onClick={() => setUnits({ ...units, ratio: !units.ratio })}>
                {units.ratio ? 'in dB' : 'as a ratio'}
              </button>
              <button type="button" className="link" onClick={() => setUnits({ ...units, hertz: !units.hertz })}>
                {units.hertz ? `in rad/${unit}` : unit === 's' ? 'in Hz' : `in 1/${unit}`}
              </button>
            </p>
          </AxesMenu>
          {tools}
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] ${className}`}>
        {width > 0 && (
          <Drawing
            {...{ all, scale, frame, units, at, withMargins, present, readings, data }}
            onView={held.set}
            onBack={held.back}
            kept={shownOf(kept, span)}
            summary={`Frequency response, ${words.join('; ') || 'none'}.`}
            onAt={setAt}
          />
        )}
      </div>
    </PlotFrame>
  );
}

function Drawing({
  all,
  kept,
  scale,
  frame,
  units,
  at,
  present,
  withMargins,
  summary,
  readings,
  data,
  onAt,
  onView,
  onBack,
}: Pick<FrequencyProps, 'readings' | 'data'> & {
  all: readonly Shown[];
  kept: readonly Shown[];
  scale: BodeScale;
  frame: ReturnType<typeof bodeFrame>;
  units: { ratio: boolean; hertz: boolean };
  at: number | undefined;
  present: Shown | undefined;
  withMargins: boolean;
  summary: string;
  onAt: (omega: number | undefined) => void;
  onView: (frame: BodeFrame) => void;
  onBack: () => void;
}) {
  const { x } = scale;
  const inside = (px: number): number | undefined => {
    const omega = x.invert(px);
    return omega >= frame.from && omega <= frame.to ? omega : undefined;
  };
  const drag = useDrag<number>({
    take: (at) => markAt(at, readings.omegas, (omega) => ({ px: x(omega), py: at.py })),
    drag: (omega, { px }) => {
      const next = inside(px) ?? omega;
      readings.move(omega, next);
      return next;
    },
    hover: ({ px }) => onAt(inside(px)),
  });
  return (
    <BodePicture
      {...{ scale, frame, units, summary, at, drag, onView, onBack, onAt }}
      wheel="always"
      onClick={(event) => {
        const place = placeOn(event.currentTarget, event);
        const omega = inside(place.px);
        const isOne = markAt(place, readings.omegas, (each) => ({ px: x(each), py: place.py })) !== undefined;
        if (omega !== undefined && !isOne) readings.add(omega);
      }}
      curvesIn={(half) => (
        <>
          {kept.map(({ each, curve }) => (
            <CurvePath
              key={`kept ${each.id}`}
              {...{ curve, of: half, scale }}
              className="stroke-ghost"
              strokeWidth={1.3}
            />
          ))}
          {data.map((points) => (
            <DataDots key={points.name} points={points} of={half} scale={scale} />
          ))}
          {all.map(({ each: { id, stroke }, curve }) => (
            <CurvePath
              key={id}
              {...{ curve, of: half, scale }}
              className={stroke.className}
              strokeWidth={id === present?.each.id ? 2.6 : 1.8}
              dash={stroke.dash}
              name={`${half} ${id}`}
            />
          ))}
        </>
      )}
    >
      {withMargins && present && <Margins present={present} scale={scale} ratio={units.ratio} />}
      {present && <BodeReadings {...{ readings, present, scale, frame, ratio: units.ratio }} />}
    </BodePicture>
  );
}

/** Of the chosen system as the open loop. */
function Margins({ present, scale, ratio }: { present: Shown; scale: BodeScale; ratio: boolean }) {
  const { transfer } = present.each;
  const margins = useMemo(() => orProblem(() => marginsOf(transfer)), [transfer]);
  if (margins instanceof Problem) return null;
  return <MarginMarks marks={marginMarks(margins, ratio)} curve={present.curve} scale={scale} stable />;
}

/** Measured points. */
function DataDots({ points, of, scale }: { points: FrequencyData; of: Half; scale: BodeScale }) {
  const [values, y] = of === 'magnitude' ? [points.magnitudesDb, scale.db] : [points.phasesDegrees ?? [], scale.phase];
  return (
    <g data-dots={points.name} className="fill-ink/70">
      {Array.from(values, (value, k) => (
        <circle key={k} cx={scale.x(points.omegas[k] ?? NaN)} cy={y(value)} r="2.2" />
      ))}
    </g>
  );
}

/** Frequencies that someone set, with level and phase of the chosen system. */
function BodeReadings({
  readings,
  present: { each, curve },
  scale,
  frame,
  ratio,
}: {
  readings: FrequencyReadings;
  present: Shown;
  scale: BodeScale;
  frame: BodeFrame;
  ratio: boolean;
}) {
  const unit = useTimeUnit();
  const { x, db, phase, top, bottom, width, right } = scale;
  return readings.omegas
    .filter((omega) => omega >= frame.from && omega <= frame.to)
    .map((omega) => {
      const level = levelAt(curve, omega);
      const degrees = levelAt({ ...curve, magnitudesDb: curve.phasesDegrees }, omega);
      const size = ratio ? formatNumber(10 ** (level / 20)) : `${formatNumber(level)} dB`;
      const leftward = x(omega) > width - right - 70;
      const text = { x: x(omega) + (leftward ? -7 : 7), textAnchor: leftward ? ('end' as const) : ('start' as const) };
      return (
        <g
          key={omega}
          data-reading={each.label}
          className="cursor-ew-resize fill-plum outline-none [&:focus-visible>circle]:stroke-ink"
          {...sliderProps({
            ...{ label: 'Reading at a frequency', value: omega },
            words: `${each.label} at ${formatNumber(omega)} rad/${unit}: ${size}, ${formatNumber(degrees)}°`,
            onStep: ({ right: steps, up }) =>
              readings.move(omega, omega * (frame.to / frame.from) ** ((steps + up) / 200)),
            onRemove: () => readings.remove(omega),
          })}
        >
          <line x1={x(omega)} x2={x(omega)} y1={top} y2={bottom} className="stroke-plum/50" strokeDasharray="3 2" />
          <circle cx={x(omega)} cy={db(level)} r="3.4" strokeWidth="2" className="stroke-sheet" />
          <circle cx={x(omega)} cy={phase(degrees)} r="3.4" strokeWidth="2" className="stroke-sheet" />
          <g strokeWidth="3" className="stroke-sheet/85 [paint-order:stroke]">
            <text {...text} y={top + 12}>
              {formatNumber(omega)} rad/{unit}
            </text>
            <text {...text} y={db(level) - 7}>
              {size}
            </text>
            <text {...text} y={phase(degrees) - 7}>
              {formatNumber(degrees)}°
            </text>
          </g>
        </g>
      );
    });
}

const axesOf = ({ from, to, dbLow, dbHigh, phaseLow, phaseHigh }: BodeFrame, unit: TimeUnit): Axis[] => [
  { name: 'frequency', unit: `rad/${unit}`, from, to, above: 1e-12 },
  { name: 'magnitude', unit: 'dB', from: dbLow, to: dbHigh },
  { name: 'phase', unit: '°', from: phaseLow, to: phaseHigh },
];

function withAxis(frame: BodeFrame, axis: number, { from, to }: { from: number; to: number }): BodeFrame {
  if (axis === 0) return { ...frame, from, to };
  return axis === 1 ? { ...frame, dbLow: from, dbHigh: to } : { ...frame, phaseLow: from, phaseHigh: to };
}

/** A frame in which every curve fits. */
function frameOf(shown: readonly Shown[], [from, to]: readonly [number, number]) {
  const frames = shown.map(({ curve }) => bodeFrame(curve));
  const least = (of: (frame: ReturnType<typeof bodeFrame>) => number, otherwise: number) =>
    Math.min(...(frames.length > 0 ? frames.map(of) : [otherwise]));
  const most = (of: (frame: ReturnType<typeof bodeFrame>) => number, otherwise: number) =>
    Math.max(...(frames.length > 0 ? frames.map(of) : [otherwise]));
  return {
    ...{ from, to },
    dbLow: least(({ dbLow }) => dbLow, -40),
    dbHigh: most(({ dbHigh }) => dbHigh, 20),
    phaseLow: least(({ phaseLow }) => phaseLow, -180),
    phaseHigh: most(({ phaseHigh }) => phaseHigh, 0),
  };
}

const decibels = ({ magnitudesDb }: BodeCurve, at: number): string =>
  `${formatNumber(Array.from(magnitudesDb).at(at) ?? NaN)} dB`;

function readingAt({ each, curve }: Shown, omega: number, unit: TimeUnit): string {
  const phase = levelAt({ ...curve, magnitudesDb: curve.phasesDegrees }, omega);
  return `${each.label} at ${formatNumber(omega)} rad/${unit}: ${formatNumber(levelAt(curve, omega))} dB, ${formatNumber(phase)}°`;
}
