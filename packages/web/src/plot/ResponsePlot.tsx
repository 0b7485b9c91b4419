import type { Curve } from '@nailset/core';
import { formatNumber } from '@nailset/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { memo, useId, useState } from 'react';
import { type Frame, spread, valueAt } from './frame';
import type { Limit } from './limits';
import { useSize } from './useSize';

export type CurveLook = 'now' | 'second' | 'first' | 'ghost' | 'held' | 'missed';

/** A point on a curve that is pointed out. */
export interface Reading {
  readonly time: number;
  readonly value: number;
  readonly words: string;
}

/** One response on the plot; `label` stands at its end. */
export interface PlotCurve {
  readonly id: string;
  readonly curve: Curve;
  readonly look: CurveLook;
  readonly label?: string;
}

const strokes: Record<CurveLook, { className: string; width: number; dash?: string; text: string }> = {
  now: { className: 'stroke-petrol', width: 2.4, text: 'fill-petrol font-semibold' },
  second: { className: 'stroke-copper', width: 2.4, text: 'fill-copper font-semibold' },
  first: { className: 'stroke-slate', width: 1.4, dash: '2 3', text: 'fill-slate' },
  ghost: { className: 'stroke-ghost', width: 1.1, text: 'fill-slate' },
  held: { className: 'stroke-petrol/55', width: 1.1, text: 'fill-petrol' },
  missed: { className: 'stroke-slate/60', width: 1.1, dash: '4 3', text: 'fill-slate' },
};

/**
 * Responses over time on axes that hold still. Limits are hatched with their nails on them; a curve that leaves the
 * frame is told by an arrow at the edge; everything is also there as a table and as a sentence.
 */
export function ResponsePlot({
  title,
  frame,
  curves,
  limits = [],
  readings = [],
  reference,
  onFit,
  onPick,
  summary,
  className = 'h-[330px]',
}: {
  title: string;
  frame: Frame;
  curves: readonly PlotCurve[];
  limits?: readonly Limit[];
  reference?: number;
  /** Readings on the curves, with their words. */
  readings?: readonly Reading[];
  onFit?: () => void;
  onPick?: (id: string) => void;
  summary: string;
  className?: string;
}) {
  const [asTable, setAsTable] = useState(false);
  const titleId = useId();
  return (
    <figure className="min-w-0" aria-labelledby={titleId}>
      <figcaption className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
        <span id={titleId} className="caption">
          {title}
        </span>
        <span className="flex gap-2 text-[13px] text-slate">
          {onFit && (
            <>
              Axes held ·
              <button type="button" className="link" onClick={onFit}>
                Fit
              </button>
              ·
            </>
          )}
          <button type="button" className="link" aria-pressed={asTable} onClick={() => setAsTable(!asTable)}>
            {asTable ? 'Plot' : 'Table'}
          </button>
        </span>
      </figcaption>
      {asTable ? (
        <CurveTable curves={curves} frame={frame} className={className} />
      ) : (
        <Drawing {...{ frame, curves, limits, readings, reference, onPick, summary, className }} />
      )}
    </figure>
  );
}

function Drawing({
  frame,
  curves,
  limits,
  readings,
  reference,
  onPick,
  summary,
  className,
}: {
  frame: Frame;
  curves: readonly PlotCurve[];
  limits: readonly Limit[];
  readings: readonly Reading[];
  reference: number | undefined;
  onPick: ((id: string) => void) | undefined;
  summary: string;
  className: string;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const clip = useId();
  const hatch = useId();
  const labelled = curves.filter((curve) => curve.label);
  const margin = { left: 38, right: labelled.length > 0 ? (width < 480 ? 74 : 96) : 12, top: 8, bottom: 22 };
  const right = Math.max(width - margin.right, margin.left + 10);
  const bottom = Math.max(height - margin.bottom, margin.top + 10);
  const x = scaleLinear().domain([0, frame.tMax]).range([margin.left, right]);
  const y = scaleLinear().domain([frame.yMin, frame.yMax]).range([bottom, margin.top]);
  const path = line<number>();
  const drawn = ({ times, values }: Curve): string =>
    path.x((k) => x(times[k]!)).y((k) => clamp(y(values[k]!), -1e4, 1e4))(Array.from(times.keys())) ?? '';

  const ends = labelled.map(({ curve }) => clamp(y(valueAt(curve, frame.tMax)), margin.top, bottom));
  const referenceAt = reference === undefined ? [] : [y(reference)];
  const labelAt = spread([...ends, ...referenceAt], 15, margin.top + 4, bottom);

  return (
    <div ref={place} className={`relative ${className}`}>
      {width > 0 && (
        <svg width={width} height={height} role="img" aria-label={summary} className="block text-[11px]">
          <defs>
            <clipPath id={clip}>
              <rect x={margin.left} y={margin.top} width={right - margin.left} height={bottom - margin.top} />
            </clipPath>
            <pattern id={hatch} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <line x1="0" y1="0" x2="0" y2="7" className="stroke-copper/25" strokeWidth="1" />
            </pattern>
          </defs>
          <rect
            x={margin.left}
            y={margin.top}
            width={right - margin.left}
            height={bottom - margin.top}
            className="fill-sheet"
          />
          <Axes frame={frame} x={x} y={y} right={right} bottom={bottom} margin={margin} />
          <g clipPath={`url(#${clip})`}>
            {limits.map((limit) => (
              <Ground key={limit.id} limit={limit} x={x} y={y} fill={`url(#${hatch})`} frame={frame} />
            ))}
            {reference !== undefined && (
              <line
                x1={margin.left}
                x2={right}
                y1={y(reference)}
                y2={y(reference)}
                className="stroke-ink"
                strokeWidth="1"
                strokeDasharray="1 3"
              />
            )}
            {curves.map(({ id, curve, look }) => {
              const { className: stroke, width: thick, dash } = strokes[look];
              return (
                <path
                  key={id}
                  d={drawn(curve)}
                  data-curve={id}
                  className={`fill-none ${stroke} ${onPick ? 'cursor-pointer' : ''}`}
                  strokeWidth={thick}
                  strokeDasharray={dash}
                  strokeLinejoin="round"
                  onClick={onPick && (() => onPick(id))}
                />
              );
            })}
          </g>
          {limits.map((limit) => (
            <Pin key={limit.id} limit={limit} x={x} y={y} right={right} frame={frame} />
          ))}
          {readings.map(({ time, value, words }) => (
            <g key={words} className="fill-petrol">
              <circle cx={x(time)} cy={clamp(y(value), margin.top, bottom)} r="3.2" />
              <text
                x={x(time) + 8}
                y={clamp(y(value) - 8, margin.top + 12, bottom)}
                strokeWidth="3"
                className="stroke-sheet/80 [paint-order:stroke]"
              >
                {words}
              </text>
            </g>
          ))}
          {labelled.map(({ id, look, label }, k) => (
            <text key={id} x={right + 8} y={labelAt[k]! + 4} className={strokes[look].text}>
              {label}
            </text>
          ))}
          {reference !== undefined && (
            <text x={right + 8} y={labelAt[labelled.length]! + 4} className="fill-slate">
              reference
            </text>
          )}
          {curves
            .filter(({ look }) => look === 'now' || look === 'second')
            .map(({ id, curve, look }) => (
              <EdgeArrow key={id} curve={curve} frame={frame} x={x} top={margin.top} bottom={bottom} look={look} />
            ))}
        </svg>
      )}
    </div>
  );
}

type Scale = ReturnType<typeof scaleLinear<number, number>>;

const Axes = memo(
  function Axes({
    frame,
    x,
    y,
    right,
    bottom,
    margin,
  }: {
    frame: Frame;
    x: Scale;
    y: Scale;
    right: number;
    bottom: number;
    margin: { left: number; top: number };
  }) {
    const times = x.ticks(right - margin.left > 420 ? 8 : 4);
    const levels = y.ticks(bottom - margin.top > 200 ? 6 : 4);
    return (
      <g>
        {times.map((time) => (
          <g key={time}>
            <line x1={x(time)} x2={x(time)} y1={margin.top} y2={bottom} className="stroke-grid" />
            <text x={x(time)} y={bottom + 15} textAnchor="middle" className="fill-slate">
              {formatNumber(time)}
              {time === times[times.length - 1] && ' s'}
            </text>
          </g>
        ))}
        {levels.map((level) => (
          <g key={level}>
            <line x1={margin.left} x2={right} y1={y(level)} y2={y(level)} className="stroke-grid" />
            <text x={margin.left - 7} y={y(level) + 4} textAnchor="end" className="fill-slate">
              {formatNumber(level)}
            </text>
          </g>
        ))}
        <line x1={margin.left} x2={margin.left} y1={margin.top} y2={bottom} className="stroke-ink" />
        <line
          x1={margin.left}
          x2={right}
          y1={y(Math.max(0, frame.yMin))}
          y2={y(Math.max(0, frame.yMin))}
          className="stroke-ink"
        />
      </g>
    );
  },
  // Scales are made anew on every drawing; the axes only change with frame and size.
  (a, b) => a.frame === b.frame && a.right === b.right && a.bottom === b.bottom,
);

function Ground({ limit, x, y, fill, frame }: { limit: Limit; x: Scale; y: Scale; fill: string; frame: Frame }) {
  const within = (t: number) => clamp(t, 0, frame.tMax);
  const level = (value: number) => clamp(value, frame.yMin, frame.yMax);
  const { ground, edge, met } = limit;
  const stroke = met ? 'stroke-moss' : 'stroke-brick';
  return (
    <g>
      {ground && (
        <rect
          x={x(within(ground.t0))}
          y={y(level(ground.y1))}
          width={Math.max(0, x(within(ground.t1)) - x(within(ground.t0)))}
          height={Math.max(0, y(level(ground.y0)) - y(level(ground.y1)))}
          fill={fill}
        />
      )}
      <line
        x1={x(within(edge.t0))}
        x2={x(within(edge.t1))}
        y1={y(level(edge.y0))}
        y2={y(level(edge.y1))}
        className={stroke}
        strokeWidth="1.2"
      />
    </g>
  );
}

/** A nail on the plot: driven in when it holds, standing proud and hollow when not. */
function Pin({ limit, x, y, right, frame }: { limit: Limit; x: Scale; y: Scale; right: number; frame: Frame }) {
  const { pin, met, words } = limit;
  if (pin.t > frame.tMax || pin.y > frame.yMax || pin.y < frame.yMin) return null;
  const px = x(pin.t);
  const py = y(pin.y);
  const reach = (met ? 12 : 18) * (pin.up ? -1 : 1);
  const leftward = px + 8 + words.length * 6 > right;
  return (
    <g className={met ? 'stroke-moss' : 'stroke-brick'}>
      <line x1={px} x2={px} y1={py} y2={py + reach} strokeWidth="1.6" />
      <circle cx={px} cy={py + reach} r="4.2" strokeWidth="1.6" className={met ? 'fill-moss' : 'fill-sheet'} />
      {right > roomForWords && (
        <text
          x={px + (leftward ? -9 : 9)}
          y={py + reach + 4}
          textAnchor={leftward ? 'end' : 'start'}
          strokeWidth="3"
          className={`stroke-sheet/80 [paint-order:stroke] ${met ? 'fill-moss' : 'fill-brick'}`}
        >
          {words}
        </text>
      )}
    </g>
  );
}

/** Below this width the pins stand without words; the rail has them. */
const roomForWords = 300;

function EdgeArrow({
  curve,
  frame,
  x,
  top,
  bottom,
  look,
}: {
  curve: Curve;
  frame: Frame;
  x: Scale;
  top: number;
  bottom: number;
  look: CurveLook;
}) {
  const outside = firstOutside(curve, frame);
  if (!outside) return null;
  const px = clamp(x(outside.time), 50, Infinity);
  const tip = outside.up ? top + 2 : bottom - 2;
  const back = outside.up ? 9 : -9;
  return (
    <g className={strokes[look].text}>
      <path d={`M${px} ${tip}l6 ${back}h-12z`} />
      <text x={px + 10} y={tip + (outside.up ? 10 : -3)}>
        leaves the frame
      </text>
    </g>
  );
}

function firstOutside(curve: Curve, frame: Frame): { time: number; up: boolean } | undefined {
  // A curve that runs along the edge, but for rounding or the width of its line, is still inside.
  const slack = 0.004 * (frame.yMax - frame.yMin);
  for (let k = 0; k < curve.values.length && curve.times[k]! <= frame.tMax; k++) {
    const value = curve.values[k]!;
    const up = value > frame.yMax + slack;
    if (up || value < frame.yMin - slack) return { time: curve.times[k]!, up };
  }
  return undefined;
}

function CurveTable({ curves, frame, className }: { curves: readonly PlotCurve[]; frame: Frame; className: string }) {
  const shown = curves.filter(({ label }) => label).slice(0, 4);
  const times = Array.from({ length: 21 }, (_, k) => (k * frame.tMax) / 20);
  return (
    <div
      className={`overflow-y-auto border-t border-rule ${className}`}
      tabIndex={0}
      role="region"
      aria-label="Values of the curves"
    >
      <table className="w-full text-right text-note">
        <thead className="sticky top-0 bg-paper text-slate">
          <tr>
            <th className="px-2 py-1 font-normal">time, s</th>
            {shown.map(({ id, label }) => (
              <th key={id} className="px-2 py-1 font-normal">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {times.map((time) => (
            <tr key={time} className="border-t border-grid">
              <td className="px-2 py-0.5">{formatNumber(time)}</td>
              {shown.map(({ id, curve }) => (
                <td key={id} className="px-2 py-0.5">
                  {formatNumber(valueAt(curve, time))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));
