import { type FrequencyTable, formatNumber } from '@nailset/core';
import { type KeyboardEvent, type PointerEvent, memo, useId, useMemo, useRef } from 'react';
import { flushSync } from 'react-dom';
import { tenths } from '../plot/frame';
import { placeOn } from '../plot/pointer';
import { PlotFrame } from '../plot/PlotFrame';
import { useSize } from '../plot/useSize';
import {
  BodeAxes,
  type BodeCurve,
  type BodeFrame,
  type BodeScale,
  type BodeUnits,
  MarginMarks,
  bodeScale,
  levelAt,
} from './BodeAxes';
import type { MarginMark } from './frequencyData';

/** A term whose corner frequency is dragged along the axis. */
export interface Corner {
  readonly name: string;
  readonly kind: 'zero' | 'pole';
  /** In rad/s. */
  readonly omega: number;
}

type Held = Corner | { readonly level: number; readonly from: number };

/**
 * Magnitude above phase over one logarithmic frequency axis, with every margin and straight lines, or with measured
 * points. Terms that the student sets are dragged along the axis by their corner frequency, the level up and down.
 */
export function BodePlot({
  curve,
  asymptote,
  before,
  data,
  marks = [],
  stable = true,
  summary,
  frame,
  units,
  onUnits,
  onFit,
  corners,
  onCorner,
  onLevel,
  at,
  onAt,
  className,
}: {
  curve: BodeCurve;
  /** Straight lines from corner to corner. */
  asymptote: readonly { readonly omega: number; readonly db: number }[];
  /** Where the work began. */
  before?: BodeCurve | undefined;
  data?: FrequencyTable;
  marks?: readonly MarginMark[];
  /** Whether the closed loop is. */
  stable?: boolean;
  summary: string;
  frame: BodeFrame;
  units: BodeUnits;
  onUnits: (units: BodeUnits) => void;
  onFit: () => void;
  corners: readonly Corner[];
  onCorner: (name: string, omega: number) => void;
  /** Raises the whole curve by so many decibels. */
  onLevel?: (db: number) => void;
  /** Frequency that is pointed at in any of the linked plots. */
  at: number | undefined;
  onAt: (omega: number | undefined) => void;
  className: string;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const clip = useId();
  const held = useRef<Held>(undefined);
  const scale = useMemo(() => bodeScale(frame, units, width, height), [frame, units, width, height]);
  const { left, right, top, half, lower, bottom, x, db, phase } = scale;
  const grabbed = (event: PointerEvent<SVGSVGElement>) => {
    const { px, py } = placeOn(event.currentTarget, event);
    return { omega: x.invert(px), px, py };
  };
  const levelX = left + 10;
  const levelY = db(levelAt(curve, x.invert(levelX)));
  const begin = (event: PointerEvent<SVGSVGElement>) => {
    const { px, py } = grabbed(event);
    const corner = corners.find(({ omega }) => Math.hypot(x(omega) - px, db(levelAt(curve, omega)) - py) < 14);
    const level = onLevel && Math.hypot(levelX - px, levelY - py) < 14 ? { level: 0, from: db.invert(py) } : undefined;
    held.current = corner ?? level;
    if (held.current) event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    const { omega, py } = grabbed(event);
    const grip = held.current;
    if (!grip) return onAt(omega >= frame.from && omega <= frame.to ? omega : undefined);
    if ('name' in grip) return flushSync(() => onCorner(grip.name, omega));
    const level = db.invert(py) - grip.from;
    flushSync(() => onLevel?.(level - grip.level));
    held.current = { ...grip, level };
  };
  const slide = (change: (steps: number) => void) => (event: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    change(way * (event.shiftKey ? 10 : 1));
  };
  const dots = (values: readonly number[], y: (value: number) => number, what: string) => (
    <g className="fill-ink" data-mark={what}>
      {data!.omegas.map((omega, k) => (
        <circle key={omega} cx={x(omega)} cy={y(values[k]!)} r="2" />
      ))}
    </g>
  );

  return (
    <PlotFrame
      title="Bode"
      onFit={onFit}
      className={className}
      table={() => ({
        heads: ['ω, rad/s', 'magnitude, dB', 'phase, °'],
        rows: Array.from(curve.omegas)
          .map((omega, k) => [omega, curve.magnitudesDb[k]!, curve.phasesDegrees[k]!])
          .filter((_, k) => k % 10 === 0),
      })}
      tools={
        <>
          <button type="button" className="link" onClick={() => onUnits({ ...units, ratio: !units.ratio })}>
            {units.ratio ? 'ratio' : 'dB'}
          </button>
          <button type="button" className="link" onClick={() => onUnits({ ...units, hertz: !units.hertz })}>
            {units.hertz ? 'Hz' : 'rad/s'}
          </button>
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] ${className}`}>
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="group"
            aria-label={summary}
            className="block touch-none text-[11px] select-none"
            onPointerDown={begin}
            onPointerMove={move}
            onPointerUp={() => (held.current = undefined)}
            onPointerLeave={() => onAt(undefined)}
          >
            <defs>
              {(['magnitude', 'phase'] as const).map((of) => (
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
            {(['magnitude', 'phase'] as const).map((of) => (
              <g key={of} clipPath={`url(#${clip}-${of})`} className="fill-none" strokeLinejoin="round">
                {of === 'magnitude' && (
                  <path
                    d={asymptote
                      .map(({ omega, db: level }, k) => `${k ? 'L' : 'M'}${tenths(x(omega))} ${tenths(db(level))}`)
                      .join('')}
                    data-mark="asymptote"
                    className="stroke-slate"
                    strokeDasharray="5 4"
                  />
                )}
                {before && (
                  <CurvePath curve={before} of={of} scale={scale} className="stroke-ghost" strokeWidth={1.4} />
                )}
                <CurvePath curve={curve} of={of} scale={scale} className="stroke-petrol" strokeWidth={2} name={of} />
                {of === 'magnitude' && data && dots(data.magnitudesDb, db, 'magnitudes')}
                {of === 'phase' && data?.phasesDegrees && dots(data.phasesDegrees, phase, 'phases')}
              </g>
            ))}
            <MarginMarks {...{ marks, curve, scale, stable }} />
            {at !== undefined && at >= frame.from && at <= frame.to && (
              <line x1={x(at)} x2={x(at)} y1={top} y2={bottom} className="stroke-copper/60" />
            )}
            {onLevel && (
              <Grip
                label="Level K"
                name="K"
                value={levelAt(curve, x.invert(levelX))}
                words={`${formatNumber(levelAt(curve, x.invert(levelX)))} dB`}
                x={levelX}
                y={levelY}
                className="cursor-ns-resize"
                onKeyDown={slide((steps) => onLevel(steps / 10))}
              />
            )}
            {corners.map(({ name, kind, omega }) =>
              omega < frame.from || omega > frame.to ? null : (
                <Grip
                  key={name}
                  label={`Corner of ${kind} ${name}`}
                  name={name.replace(/r$/, '').replace('w', 'ω')}
                  corner={name}
                  value={omega}
                  words={`${formatNumber(omega)} rad/s`}
                  x={x(omega)}
                  y={db(levelAt(curve, omega))}
                  isBelow={kind === 'pole'}
                  className="cursor-ew-resize"
                  onKeyDown={slide((steps) => onCorner(name, omega * 1.02 ** steps))}
                />
              ),
            )}
          </svg>
        )}
      </div>
    </PlotFrame>
  );
}

/** Magnitude or phase of one response; it stays as it is while another is dragged. */
const CurvePath = memo(function CurvePath({
  curve,
  of,
  scale: { x, db, phase },
  className,
  strokeWidth,
  name,
}: {
  curve: BodeCurve;
  of: 'magnitude' | 'phase';
  scale: BodeScale;
  className: string;
  strokeWidth: number;
  /** Given to the response that is worked on. */
  name?: string;
}) {
  const [values, y] = of === 'magnitude' ? [curve.magnitudesDb, db] : [curve.phasesDegrees, phase];
  let text = '';
  for (let k = 0; k < curve.omegas.length; k++) {
    if (!Number.isFinite(curve.magnitudesDb[k]!)) continue;
    const py = y(values[k]!);
    if (Math.abs(py) < 5e3) text += `${text ? 'L' : 'M'}${tenths(x(curve.omegas[k]!))} ${tenths(py)}`;
  }
  return <path data-curve={name} d={text} className={className} strokeWidth={strokeWidth} />;
});

/** A ring on the curve that is dragged, and a slider for the keyboard. */
function Grip({
  label,
  name,
  corner,
  value,
  words,
  x,
  y,
  isBelow = false,
  className,
  onKeyDown,
}: {
  label: string;
  name: string;
  corner?: string;
  value: number;
  words: string;
  x: number;
  y: number;
  /** Whether its name stands below, so that the names of a zero and a pole side by side keep apart. */
  isBelow?: boolean;
  className: string;
  onKeyDown: (event: KeyboardEvent) => void;
}) {
  return (
    <g
      data-corner={corner}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={Number(value.toPrecision(4))}
      aria-valuetext={words}
      onKeyDown={onKeyDown}
      className={`outline-none [&:focus-visible>circle]:stroke-[3] ${className}`}
    >
      <circle cx={x} cy={y} r="8" className="fill-copper/15 stroke-copper" strokeWidth="1.4" />
      <text
        x={x}
        y={isBelow ? y + 20 : y - 12}
        textAnchor="middle"
        strokeWidth="3"
        className="fill-copper stroke-sheet/85 [paint-order:stroke]"
      >
        {name}
      </text>
    </g>
  );
}
