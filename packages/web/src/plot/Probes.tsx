import { type Curve, formatNumber, withUnit } from '@nailset/core';
import { type PointerEvent, useRef } from 'react';
import { clamp, type Frame, valueAt } from './frame';
import type { Scale } from './marks';
import { placeOn } from './pointer';
import { useTimeUnit } from './timeUnit';
import { sliderProps } from './useDrag';

/** A point asked on the present curve, moved along it by pointer or keys. */
export interface Probe {
  readonly id: number;
  readonly time: number;
}

/** What a reader does with the readings of a plot. */
export interface ProbeActions {
  readonly onMove: (id: number, time: number) => void;
  readonly onRemove: (id: number) => void;
}

/** The readings on a curve: a dot with time and value, several at once. */
export function Probes({
  probes,
  curve,
  frame,
  x,
  y,
  top,
  bottom,
  right,
  onMove,
  onRemove,
}: ProbeActions & {
  probes: readonly Probe[];
  curve: Curve;
  frame: Frame;
  x: Scale;
  y: Scale;
  top: number;
  bottom: number;
  right: number;
}) {
  const unit = useTimeUnit();
  const dragged = useRef<number>(undefined);
  const first = frame.tMin ?? 0;
  const timeAt = (event: PointerEvent<SVGElement>): number => {
    const { px } = placeOn(event.currentTarget.ownerSVGElement!, event);
    return clamp(x.invert(px), first, frame.tMax);
  };
  const seen = probes.filter(({ time }) => time >= first && time <= frame.tMax);
  return seen.map(({ id, time }) => {
    const value = valueAt(curve, time);
    const [px, py] = [x(time), clamp(y(value), top, bottom)];
    const words = `${formatNumber(value)} at ${withUnit(time, unit)}`;
    const leftward = px + 8 + words.length * 6 > right;
    return (
      <g
        key={id}
        {...sliderProps({
          ...{ label: 'Reading on the curve', value: time, words, range: { from: first, to: frame.tMax } },
          onStep: ({ right }) => onMove(id, clamp(time + (right * (frame.tMax - first)) / 200, first, frame.tMax)),
          onRemove: () => onRemove(id),
        })}
        className="cursor-ew-resize touch-none fill-plum focus-visible:outline-none [&:focus-visible>circle]:stroke-ink"
        onPointerDown={(event) => {
          dragged.current = id;
          event.currentTarget.setPointerCapture(event.pointerId);
          event.stopPropagation();
        }}
        onPointerMove={(event) => dragged.current === id && onMove(id, timeAt(event))}
        onPointerUp={() => (dragged.current = undefined)}
        onPointerCancel={() => (dragged.current = undefined)}
        onClick={(event) => event.stopPropagation()}
        onDoubleClick={() => onRemove(id)}
      >
        <line x1={px} x2={px} y1={py} y2={bottom} className="stroke-plum/40" strokeDasharray="2 3" />
        <circle cx={px} cy={py} r="13" className="fill-transparent" />
        <circle cx={px} cy={py} r="4" strokeWidth="2" className="stroke-sheet" />
        <text
          x={px + (leftward ? -8 : 8)}
          y={clamp(py + 16, top + 12, bottom - 3)}
          textAnchor={leftward ? 'end' : 'start'}
          strokeWidth="3"
          className="stroke-sheet/80 [paint-order:stroke]"
        >
          {words}
        </text>
      </g>
    );
  });
}
