import { type Curve, formatNumber } from '@nailset/core';
import type { scaleLinear } from 'd3-scale';
import { memo } from 'react';
import { type PlotCurve, type Stroke, strokes } from './curves';
import type { Frame } from './frame';
import { clamp } from './frame';
import type { Limit } from './limits';
import type { MeasureBand, MeasureMark } from './measureMarks';
import { Pen } from './pen';
import { useTimeUnit } from './timeUnit';

export type Scale = ReturnType<typeof scaleLinear<number, number>>;

interface Geometry {
  frame: Frame;
  right: number;
  bottom: number;
}

/** Scales are made anew on every drawing; what they draw changes only with frame and size. */
const sameGeometry = (a: Geometry, b: Geometry): boolean =>
  a.frame === b.frame && a.right === b.right && a.bottom === b.bottom;

/** One curve; ghosts and the class stay as they are while the present curve moves. */
export const CurvePath = memo(
  function CurvePath({
    id,
    curve: { times, values },
    look,
    stroke,
    x,
    y,
    onPick,
  }: PlotCurve & Geometry & { x: Scale; y: Scale; onPick: ((id: string) => void) | undefined }) {
    const { className, width, dash } = stroke ?? strokes[look];
    const pen = new Pen();
    for (let k = 0; k < times.length; k++) pen.to(x(times[k]!), clamp(y(values[k]!), -1e4, 1e4));
    return (
      <path
        d={pen.written}
        data-curve={id}
        className={`fill-none ${className} ${onPick ? 'cursor-pointer' : ''}`}
        strokeWidth={width}
        strokeDasharray={dash}
        strokeLinejoin="round"
        strokeLinecap="round"
        onClick={onPick && (() => onPick(id))}
      />
    );
  },
  (a, b) =>
    a.curve === b.curve && a.look === b.look && a.stroke === b.stroke && a.onPick === b.onPick && sameGeometry(a, b),
);

/** What drives the system: thin and dotted, steps as steps. */
export const InputLine = memo(
  function InputLine({ curve: { times, values }, frame, x, y }: { curve: Curve } & Geometry & { x: Scale; y: Scale }) {
    const last = times.length - 1;
    if (last < 0) return null;
    const pen = new Pen();
    const to = (time: number, value: number) => pen.to(x(Math.min(time, frame.tMax)), clamp(y(value), -1e4, 1e4));
    for (let k = 0; k <= last; k++) to(times[k]!, values[k]!);
    // The last value is kept up to the edge of the frame.
    to(frame.tMax, values[last]!);
    return <path d={pen.written} className="fill-none stroke-ink" strokeWidth="1" strokeDasharray="1 3" />;
  },
  (a, b) => a.curve === b.curve && sameGeometry(a, b),
);

/** The settling band around the final value. */
export function Band({ band, x, y, frame }: { band: MeasureBand; x: Scale; y: Scale; frame: Frame }) {
  const [top, bottom] = [clamp(band.high, frame.yMin, frame.yMax), clamp(band.low, frame.yMin, frame.yMax)];
  return (
    <rect
      x={x(frame.tMin ?? 0)}
      y={y(top)}
      width={x(frame.tMax) - x(frame.tMin ?? 0)}
      height={Math.max(1, y(bottom) - y(top))}
      className="fill-plum/12"
    />
  );
}

/** Where a measure is read: a thin line with its words. */
export function Mark({ mark, x, y, frame }: { mark: MeasureMark; x: Scale; y: Scale; frame: Frame }) {
  const within = (t: number) => x(clamp(t, frame.tMin ?? 0, frame.tMax));
  const level = (value: number) => y(clamp(value, frame.yMin, frame.yMax));
  const { from, to, words, isMissed } = mark;
  const upright = from.t === to.t;
  if (from.t > frame.tMax || to.t < (frame.tMin ?? 0)) return null;
  return (
    <g className={isMissed ? 'fill-brick stroke-brick' : 'fill-plum stroke-plum'}>
      <line
        x1={within(from.t)}
        x2={within(to.t)}
        y1={level(from.y)}
        y2={level(to.y)}
        strokeWidth="1"
        strokeDasharray="3 2"
      />
      {words && (
        <text
          x={within(upright ? to.t : from.t) + 4}
          y={upright && mark.id !== 'peak' ? level(from.y) - (mark.id === 'settled' ? 18 : 4) : level(to.y) - 4}
          strokeWidth="3"
          className="stroke-sheet/80 [paint-order:stroke]"
        >
          {words}
        </text>
      )}
    </g>
  );
}

export const Axes = memo(function Axes({
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
  const unit = useTimeUnit();
  const times = x.ticks(right - margin.left > 420 ? 8 : 4);
  const levels = y.ticks(bottom - margin.top > 200 ? 6 : bottom - margin.top > 90 ? 4 : 2);
  return (
    <g>
      {times.map((time) => (
        <g key={time}>
          <line x1={x(time)} x2={x(time)} y1={margin.top} y2={bottom} className="stroke-grid" />
          <text x={x(time)} y={bottom + 15} textAnchor="middle" className="fill-slate">
            {formatNumber(time)}
            {time === times[times.length - 1] && ` ${unit}`}
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
}, sameGeometry);

export function Ground({ limit, x, y, fill, frame }: { limit: Limit; x: Scale; y: Scale; fill: string; frame: Frame }) {
  const within = (t: number) => clamp(t, frame.tMin ?? 0, frame.tMax);
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
export function Pin({ limit, x, y, right, frame }: { limit: Limit; x: Scale; y: Scale; right: number; frame: Frame }) {
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

export function EdgeArrow({
  curve,
  frame,
  x,
  top,
  bottom,
  stroke,
}: {
  curve: Curve;
  frame: Frame;
  x: Scale;
  top: number;
  bottom: number;
  stroke: Stroke;
}) {
  const outside = firstOutside(curve, frame);
  if (!outside) return null;
  const px = clamp(x(outside.time), 50, Infinity);
  const tip = outside.up ? top + 2 : bottom - 2;
  const back = outside.up ? 9 : -9;
  return (
    <g className={stroke.text}>
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
