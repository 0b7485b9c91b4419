import { formatNumber, marginsOf, orProblem, Problem, type TimeUnit } from '@nailset/core';
import { useMemo, useState } from 'react';
import {
  type BodeCurve,
  bodeEnds,
  type BodeFrame,
  bodeFrame,
  type BodeScale,
  bodeScale,
  bodeWith,
  MarginMarks,
} from '../../frequency/BodeAxes';
import { BodePicture, type Half } from '../../frequency/BodePicture';
import { CurvePath } from '../../frequency/BodePlot';
import { marginMarks } from '../../frequency/frequencyData';
import { BodeReadings, readingAt } from '../../frequency/FrequencyReadings';
import type { ReadSystem } from '../../frequency/readings';
import { AxesMenu } from '../../plot/AxesMenu';
import { PlotFrame } from '../../plot/PlotFrame';
import { useTimeUnit } from '../../plot/timeUnit';
import { useDrag } from '../../plot/useDrag';
import { useSize } from '../../plot/useSize';
import { Toggle } from '../../shared/Toggle';
import type { Drawn } from '../sheet/drawn';
import { levelsOf, readingOf, spanOf } from '../sheet/frequencies';
import type { FrequencyData, FrequencyProps } from './paneProps';
import { useHeld } from './useHeld';

interface Shown {
  readonly each: Drawn;
  readonly curve: BodeCurve;
}

const shownOf = (drawn: readonly Drawn[], span: readonly [number, number]): Shown[] =>
  drawn.flatMap((each) => {
    const curve = levelsOf(each, span);
    return curve ? [{ each, curve }] : [];
  });

const tableRows = 25;

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
  const words = all.map(
    ({ each, curve }) => `${each.label} from ${decibels(curve, 0)} to ${decibels(curve, curve.omegas.length - 1)}`,
  );
  return (
    <PlotFrame
      title="Bode"
      onFit={held.fit}
      className={className}
      table={() => ({
        heads: [`ω, rad/${unit}`, ...all.flatMap(({ each }) => [`${each.label}, dB`, `${each.label}, °`])],
        rows: Array.from({ length: tableRows }, (_, k) => {
          const omega = frame.from * (frame.to / frame.from) ** (k / (tableRows - 1));
          const read = all.map(({ each }) => readingOf(each).at(omega));
          return [omega, ...read.flatMap((level) => [level?.db ?? null, level?.degrees ?? null])];
        }),
      })}
      tools={
        <>
          {at !== undefined && present && (
            <span className="text-copper">{wordsAt(readingOf(present.each), at, unit)}</span>
          )}
          <Toggle on={withMargins} onChange={setWithMargins} words="Margins" />
          <AxesMenu
            axes={bodeEnds(frame, units, unit)}
            wheel="always"
            reads
            onChange={(axis, ends) => held.set(bodeWith(frame, units, axis, ends))}
          >
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
  frame: BodeFrame;
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
    take: (at) => readingAt(readings, at, scale),
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
      onRead={readings.add}
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
      {present && <BodeReadings {...{ readings, scale, frame }} system={readingOf(present.each)} ratio={units.ratio} />}
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

const decibels = ({ magnitudesDb }: BodeCurve, at: number): string => `${formatNumber(magnitudesDb[at] ?? NaN)} dB`;

function wordsAt({ label, at }: ReadSystem, omega: number, unit: TimeUnit): string {
  const read = at(omega);
  return `${label} at ${formatNumber(omega)} rad/${unit}: ${read ? `${formatNumber(read.db)} dB, ${formatNumber(read.degrees)}°` : 'none'}`;
}
