import { attempt, formatNumber, marginsOf, Problem } from '@nailset/core';
import { useId, useMemo, useState } from 'react';
import {
  BodeAxes,
  type BodeCurve,
  bodeFrame,
  type BodeScale,
  bodeScale,
  levelAt,
  MarginMarks,
} from '../frequency/BodeAxes';
import { CurvePath } from '../frequency/BodePlot';
import { marginMarks } from '../frequency/frequencyData';
import { PlotFrame } from '../plot/PlotFrame';
import { useDrag } from '../plot/useDrag';
import { useSize } from '../plot/useSize';
import type { Drawn } from './drawn';
import { levelsOf, spanOf } from './frequencies';
import type { PaneProps } from './panes';
import { Toggle } from './PlanePane';
import { useHeld } from './useHeld';

const halves = ['magnitude', 'phase'] as const;

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
export function BodePane({ drawn, chosen, kept, fits, className }: PaneProps) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const [units, setUnits] = useState({ ratio: false, hertz: false });
  const [withMargins, setWithMargins] = useState(false);
  const [at, setAt] = useState<number>();
  const [{ span, frame }, , fit] = useHeld(drawn.length > 0, fits, () => {
    const span = spanOf(drawn);
    return { span, frame: frameOf(shownOf(drawn, span), span) };
  });
  const all = shownOf(drawn, span);
  const present = all.find(({ each }) => each.id === chosen?.id);
  const scale = useMemo(() => bodeScale(frame, units, width, height), [frame, units, width, height]);
  const words = all.map(({ each, curve }) => `${each.label} from ${decibels(curve, 0)} to ${decibels(curve, -1)}`);
  return (
    <PlotFrame
      title="Bode"
      onFit={fit}
      className={className}
      table={() => ({
        heads: ['ω, rad/s', ...all.flatMap(({ each }) => [`${each.label}, dB`, `${each.label}, °`])],
        rows: Array.from({ length: 24 }, (_, k) => 10 * k).map((k) => [
          all[0]?.curve.omegas[k] ?? null,
          ...all.flatMap(({ curve }) => [curve.magnitudesDb[k] ?? null, curve.phasesDegrees[k] ?? null]),
        ]),
      })}
      tools={
        <>
          {at !== undefined && present && <span className="text-copper">{readingAt(present, at)}</span>}
          <Toggle on={withMargins} onChange={setWithMargins} words="Margins" />
          <button type="button" className="link" onClick={() => setUnits({ ...units, ratio: !units.ratio })}>
            {units.ratio ? 'ratio' : 'dB'}
          </button>
          <button type="button" className="link" onClick={() => setUnits({ ...units, hertz: !units.hertz })}>
            {units.hertz ? 'Hz' : 'rad/s'}
          </button>
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] ${className}`}>
        {width > 0 && (
          <Drawing
            {...{ all, scale, frame, units, at, withMargins, present }}
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
  onAt,
}: {
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
}) {
  const clip = useId();
  const { width, height, left, right, top, half, lower, bottom, x } = scale;
  const hover = useDrag<never>({
    take: () => undefined,
    drag: () => undefined,
    hover: ({ px }) => {
      const omega = x.invert(px);
      onAt(omega >= frame.from && omega <= frame.to ? omega : undefined);
    },
  });
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={summary}
      className="block text-[11px] select-none"
      {...hover}
      onPointerLeave={() => onAt(undefined)}
    >
      <defs>
        {halves.map((of) => (
          <clipPath key={of} id={`${clip}-${of}`}>
            <rect
              x={left}
              y={of === 'magnitude' ? top : lower}
              width={Math.max(0, width - left - right)}
              height={half}
            />
          </clipPath>
        ))}
      </defs>
      <BodeAxes {...{ scale, frame, units }} />
      {halves.map((of) => (
        <g key={of} clipPath={`url(#${clip}-${of})`} className="fill-none" strokeLinejoin="round">
          {kept.map(({ each, curve }) => (
            <CurvePath key={`kept ${each.id}`} {...{ curve, of, scale }} className="stroke-ghost" strokeWidth={1.3} />
          ))}
          {all.map(({ each: { id, stroke }, curve }) => (
            <CurvePath
              key={id}
              {...{ curve, of, scale }}
              className={stroke.className}
              strokeWidth={id === present?.each.id ? 2.6 : 1.8}
              dash={stroke.dash}
              name={`${of} ${id}`}
            />
          ))}
        </g>
      ))}
      {withMargins && present && <Margins present={present} scale={scale} ratio={units.ratio} />}
      {at !== undefined && <line x1={x(at)} x2={x(at)} y1={top} y2={bottom} className="stroke-copper/60" />}
    </svg>
  );
}

/** Of the chosen system as the open loop. */
function Margins({ present, scale, ratio }: { present: Shown; scale: BodeScale; ratio: boolean }) {
  const { transfer } = present.each;
  const margins = useMemo(() => attempt(() => marginsOf(transfer)), [transfer]);
  if (margins instanceof Problem) return null;
  return <MarginMarks marks={marginMarks(margins, ratio)} curve={present.curve} scale={scale} stable />;
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

function readingAt({ each, curve }: Shown, omega: number): string {
  const phase = levelAt({ ...curve, magnitudesDb: curve.phasesDegrees }, omega);
  return `${each.label} at ${formatNumber(omega)} rad/s: ${formatNumber(levelAt(curve, omega))} dB, ${formatNumber(phase)}°`;
}
