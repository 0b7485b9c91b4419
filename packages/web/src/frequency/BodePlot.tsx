import { formatNumber } from '@nailset/core';
import { scaleLinear, scaleLog } from 'd3-scale';
import { type KeyboardEvent, type PointerEvent, useId, useRef } from 'react';
import { flushSync } from 'react-dom';
import { PlotFrame } from '../plot/PlotFrame';
import { useSize } from '../plot/useSize';
import type { Handle } from '../plane/handles';
import { type FrequencyResponse, marginMarks } from './frequencyData';

/** What the axes show; it changes only when someone asks for it. */
export interface BodeFrame {
  /** In rad/s. */
  readonly from: number;
  readonly to: number;
  readonly dbLow: number;
  readonly dbHigh: number;
  readonly phaseLow: number;
  readonly phaseHigh: number;
}

export interface BodeUnits {
  readonly hertz: boolean;
  readonly ratio: boolean;
}

const turn = 2 * Math.PI;

/** A frame in which a response fits, ends on round numbers. */
export function bodeFrame({ omegas, magnitudesDb, phasesDegrees }: FrequencyResponse): BodeFrame {
  const finite = (values: Float64Array): number[] => Array.from(values).filter(Number.isFinite);
  const [db, phase] = [finite(magnitudesDb), finite(phasesDegrees)];
  return {
    from: omegas[0]!,
    to: omegas.at(-1)!,
    dbLow: Math.max(-100, 20 * Math.floor(Math.min(-20, ...db) / 20)),
    dbHigh: Math.min(120, 20 * Math.ceil(Math.max(20, ...db) / 20)),
    phaseLow: Math.max(-540, 45 * Math.floor((Math.min(-190, ...phase) - 5) / 45)),
    phaseHigh: 45 * Math.ceil((Math.max(0, ...phase) + 5) / 45),
  };
}

/**
 * Magnitude above phase over one logarithmic frequency axis, with every margin and straight lines. Zeros and poles that
 * the student sets are dragged along the axis by their corner frequency.
 */
export function BodePlot({
  response,
  before,
  frame,
  units,
  onUnits,
  onFit,
  handles,
  onHandle,
  at,
  onAt,
  className,
}: {
  response: FrequencyResponse;
  /** Where the work began. */
  before: FrequencyResponse | undefined;
  frame: BodeFrame;
  units: BodeUnits;
  onUnits: (units: BodeUnits) => void;
  onFit: () => void;
  handles: readonly Handle[];
  onHandle: (handle: Handle, to: { re: number; im: number }) => void;
  /** Frequency that is pointed at in any of the linked plots. */
  at: number | undefined;
  onAt: (omega: number | undefined) => void;
  className: string;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const clip = useId();
  const held = useRef<Handle>(undefined);
  const [left, right, top, between, foot] = [54, 14, 8, 16, 24];
  const half = (height - top - between - foot) / 2;
  const x = scaleLog()
    .domain([frame.from, frame.to])
    .range([left, Math.max(left + 10, width - right)]);
  const db = scaleLinear()
    .domain([frame.dbLow, frame.dbHigh])
    .range([top + half, top]);
  const phase = scaleLinear()
    .domain([frame.phaseLow, frame.phaseHigh])
    .range([height - foot, top + half + between]);
  const powers = powersIn(frame.from / (units.hertz ? turn : 1), frame.to / (units.hertz ? turn : 1)).map(
    (value) => value * (units.hertz ? turn : 1),
  );
  const path = (
    { omegas, magnitudesDb }: FrequencyResponse,
    values: Float64Array,
    y: (value: number) => number,
  ): string => {
    let text = '';
    for (let k = 0; k < omegas.length; k++) {
      if (!Number.isFinite(magnitudesDb[k]!)) continue;
      const py = y(values[k]!);
      if (Math.abs(py) < 5e3) text += `${text ? 'L' : 'M'}${x(omegas[k]!).toFixed(1)} ${py.toFixed(1)}`;
    }
    return text;
  };
  const dbAt = (omega: number): number => valueAt(response.omegas, response.magnitudesDb, omega);
  const marks = marginMarks(response.margins, units.ratio);
  const grabbed = (event: PointerEvent<SVGSVGElement>) => {
    const { left: edge, top: upper } = event.currentTarget.getBoundingClientRect();
    const [px, py] = [event.clientX - edge, event.clientY - upper];
    return { omega: x.invert(px), px, py };
  };
  const toCorner = (handle: Handle, omega: number) => {
    const size = Math.hypot(handle.re, handle.im) || 1;
    const scale = omega / size;
    onHandle(handle, { re: (handle.re || -1) * scale, im: handle.im * scale });
  };
  const stable = response.margins.closedLoopStable;
  const summary = `Frequency response of the open loop. ${marks
    .map(({ kind, omega, words }) => `${kind} margin ${words} at ${formatNumber(omega)} rad/s`)
    .join('; ')}. ${response.count}`;

  return (
    <PlotFrame
      title="Bode"
      onFit={onFit}
      className={className}
      table={() => ({
        heads: ['ω, rad/s', 'magnitude, dB', 'phase, °'],
        rows: Array.from(response.omegas.keys())
          .filter((k) => k % 10 === 0)
          .map((k) => [response.omegas[k]!, response.magnitudesDb[k]!, response.phasesDegrees[k]!]),
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
      <div ref={place} className={`relative ${className}`}>
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="group"
            aria-label={summary}
            className="block touch-none text-[11px] select-none"
            onPointerDown={(event) => {
              const { px, py } = grabbed(event);
              held.current = handles.find(
                ({ re, im }) => Math.hypot(x(Math.hypot(re, im)) - px, db(dbAt(Math.hypot(re, im))) - py) < 14,
              );
              if (held.current) event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={(event) => {
              const { omega } = grabbed(event);
              const grip = held.current;
              if (grip) flushSync(() => toCorner(grip, omega));
              else onAt(omega >= frame.from && omega <= frame.to ? omega : undefined);
            }}
            onPointerUp={() => (held.current = undefined)}
            onPointerLeave={() => onAt(undefined)}
          >
            <defs>
              <clipPath id={clip}>
                <rect x={left} y={top} width={Math.max(0, width - left - right)} height={half} />
                <rect x={left} y={top + half + between} width={Math.max(0, width - left - right)} height={half} />
              </clipPath>
            </defs>
            {[top, top + half + between].map((y) => (
              <rect
                key={y}
                x={left}
                y={y}
                width={Math.max(0, width - left - right)}
                height={half}
                className="fill-sheet"
              />
            ))}
            {powers.map((omega) => (
              <g key={omega}>
                <line x1={x(omega)} x2={x(omega)} y1={top} y2={height - foot} className="stroke-grid" />
                <text x={x(omega)} y={height - 8} textAnchor="middle" className="fill-slate">
                  {formatNumber(omega / (units.hertz ? turn : 1))}
                </text>
              </g>
            ))}
            <text x={width - right} y={height - 8} textAnchor="end" className="fill-slate">
              {units.hertz ? 'Hz' : 'rad/s'}
            </text>
            {db.ticks(5).map((value) => (
              <g key={value}>
                <line
                  x1={left}
                  x2={width - right}
                  y1={db(value)}
                  y2={db(value)}
                  className={value === 0 ? 'stroke-ink' : 'stroke-grid'}
                />
                <text x={left - 6} y={db(value) + 4} textAnchor="end" className="fill-slate">
                  {units.ratio
                    ? formatNumber(Number((10 ** (value / 20)).toPrecision(2)))
                    : `${formatNumber(value)} dB`}
                </text>
              </g>
            ))}
            {phaseTicks(frame).map((value) => (
              <g key={value}>
                <line
                  x1={left}
                  x2={width - right}
                  y1={phase(value)}
                  y2={phase(value)}
                  className={value === -180 ? 'stroke-ink' : 'stroke-grid'}
                />
                <text x={left - 6} y={phase(value) + 4} textAnchor="end" className="fill-slate">
                  {formatNumber(value)}°
                </text>
              </g>
            ))}
            <g clipPath={`url(#${clip})`} className="fill-none" strokeLinejoin="round">
              <path
                d={response.asymptote
                  .map(({ omega, db: level }, k) => `${k ? 'L' : 'M'}${x(omega).toFixed(1)} ${db(level).toFixed(1)}`)
                  .join('')}
                data-mark="asymptote"
                className="stroke-slate"
                strokeDasharray="5 4"
              />
              {before && (
                <g className="stroke-ghost" strokeWidth="1.4">
                  <path d={path(before, before.magnitudesDb, db)} />
                  <path d={path(before, before.phasesDegrees, phase)} />
                </g>
              )}
              <g className="stroke-petrol" strokeWidth="2">
                <path data-curve="magnitude" d={path(response, response.magnitudesDb, db)} />
                <path data-curve="phase" d={path(response, response.phasesDegrees, phase)} />
              </g>
            </g>
            {marks.map(({ kind, omega, words, decides }) => {
              const isGain = kind === 'gain';
              const y = isGain ? db(dbAt(omega)) : phase(nearestTurn(response, omega));
              const zero = isGain ? db(0) : phase(nearestTurn(response, omega) - degreesOf(words));
              const inside = x(omega) > left && x(omega) < width - right;
              return (
                inside && (
                  <g
                    key={`${kind} ${omega}`}
                    data-margin={kind}
                    className={stable ? 'fill-moss stroke-moss' : 'fill-brick stroke-brick'}
                  >
                    <line x1={x(omega)} x2={x(omega)} y1={y} y2={zero} strokeWidth={decides ? 2.4 : 1.2} />
                    <circle cx={x(omega)} cy={y} r={decides ? 3.2 : 2.2} />
                    <text
                      x={x(omega) + 6}
                      y={(y + zero) / 2 + 4}
                      strokeWidth="3"
                      className={`stroke-sheet/85 [paint-order:stroke] ${decides ? 'font-bold' : ''}`}
                    >
                      {words}
                    </text>
                  </g>
                )
              );
            })}
            {at !== undefined && at >= frame.from && at <= frame.to && (
              <line x1={x(at)} x2={x(at)} y1={top} y2={height - foot} className="stroke-copper/60" />
            )}
            {handles.map((handle) => {
              const omega = Math.hypot(handle.re, handle.im);
              if (omega < frame.from || omega > frame.to) return null;
              const keys = (event: KeyboardEvent) => {
                const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
                if (!way) return;
                event.preventDefault();
                event.stopPropagation();
                toCorner(handle, omega * 1.02 ** (way * (event.shiftKey ? 10 : 1)));
              };
              return (
                <g
                  key={handle.name}
                  data-corner={handle.name}
                  role="slider"
                  tabIndex={0}
                  aria-label={`Corner of ${handle.kind} ${handle.name}`}
                  aria-valuenow={Number(omega.toPrecision(4))}
                  aria-valuetext={`${formatNumber(omega)} rad/s`}
                  onKeyDown={keys}
                  className="cursor-ew-resize outline-none [&:focus-visible>circle]:stroke-[3]"
                >
                  <circle
                    cx={x(omega)}
                    cy={db(dbAt(omega))}
                    r="8"
                    className="fill-copper/15 stroke-copper"
                    strokeWidth="1.4"
                  />
                  <text x={x(omega)} y={db(dbAt(omega)) - 12} textAnchor="middle" className="fill-copper">
                    {handle.name.replace(/r$/, '')}
                  </text>
                </g>
              );
            })}
          </svg>
        )}
      </div>
    </PlotFrame>
  );
}

const degreesOf = (words: string): number => Number(words.replace('−', '-').replace(/[^\d.e-]/g, '')) || 0;

/** The phase of the curve as it is drawn, continuous. */
const nearestTurn = ({ omegas, phasesDegrees }: FrequencyResponse, omega: number): number =>
  valueAt(omegas, phasesDegrees, omega);

function valueAt(omegas: Float64Array, values: Float64Array, omega: number): number {
  let [low, high] = [0, omegas.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (omegas[middle]! <= omega) low = middle;
    else high = middle;
  }
  const share = Math.log(omega / omegas[low]!) / (Math.log(omegas[high]! / omegas[low]!) || 1);
  return values[low]! + share * (values[high]! - values[low]!);
}

function powersIn(from: number, to: number): number[] {
  const first = Math.ceil(Math.log10(from) - 1e-9);
  const last = Math.floor(Math.log10(to) + 1e-9);
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, k) => Number(`1e${first + k}`));
}

function phaseTicks({ phaseLow, phaseHigh }: BodeFrame): number[] {
  const step = phaseHigh - phaseLow > 270 ? 90 : 45;
  const first = Math.ceil(phaseLow / step);
  return Array.from({ length: Math.floor(phaseHigh / step) - first + 1 }, (_, k) => (first + k) * step);
}
