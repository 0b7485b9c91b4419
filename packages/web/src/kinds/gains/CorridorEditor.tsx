import { type CorridorNail, inPoints, must } from '@nailset/core';
import { useState } from 'react';
import { stepFor } from '../../plane/LocusLayers';
import { markAt, type Place, sliderProps, useDrag } from '../../plot/useDrag';
import { useSize } from '../../plot/useSize';
import { DecimalField } from '../../shared/DecimalField';
import { RemoveButton } from '../../shared/fields';
import { useTellUnread, useUnreadText } from '../../shared/unread';
import { type Bound, cornerAdded, cornerMoved, type Corridor, corridorFromText, corridorText, same } from './corridor';

/** A corridor for y, drawn: its corners are dragged, added and taken out, or typed. */
export function CorridorEditor({
  nail: { corridor, points },
  horizon,
  onChange,
  onRemove,
}: {
  nail: CorridorNail;
  /** How far the plot reaches, in seconds. */
  horizon: number;
  onChange: (change: Partial<CorridorNail>) => void;
  onRemove: (() => void) | undefined;
}) {
  const left = useUnreadText('Corridor');
  // What is typed stays as it is while it says what the corridor is, or cannot be read yet.
  const [typed, setTyped] = useState<{ text: string; is: Corridor | undefined } | undefined>(
    left === undefined ? undefined : { text: left, is: undefined },
  );
  const bad = typed !== undefined && !typed.is;
  const text = typed && (bad || same(must(typed.is), corridor)) ? typed.text : corridorText(corridor);
  useTellUnread('Corridor', text, bad ? 'A corridor is two lines or more: time, lowest, highest.' : undefined);
  const set = (next: Corridor) => {
    setTyped(undefined);
    onChange({ corridor: [...next] });
  };
  return (
    <div className="grid grid-cols-[1fr_52px_24px] items-center gap-x-1 gap-y-1.5">
      <span className="text-[13px]">Corridor of y</span>
      <DecimalField
        label="Corridor, points"
        unit="pt"
        min={0}
        max={100}
        value={points}
        onChange={(next) => onChange({ points: next })}
      />
      {onRemove ? (
        <RemoveButton
          label="Remove the corridor"
          ask={`Its corners and its ${inPoints(points)} go.`}
          onClick={onRemove}
        />
      ) : (
        <span />
      )}
      <CorridorPlot corridor={corridor} horizon={horizon} onChange={set} />
      <label className="col-span-3 text-note text-slate">
        Corridor of y: time, lowest, highest; – for no bound
        <textarea
          className="input font-mono text-[13px]"
          rows={Math.max(3, corridor.length)}
          value={text}
          aria-invalid={bad}
          onChange={(event) => {
            const is = corridorFromText(event.target.value);
            setTyped({ text: event.target.value, is });
            if (is) onChange({ corridor: [...is] });
          }}
        />
      </label>
    </div>
  );
}

const height = 150;
const edge = { left: 30, right: 8, top: 6, bottom: 18 };
interface Held {
  readonly index: number;
  readonly bound: Bound;
}

interface Frame {
  readonly low: number;
  readonly high: number;
  readonly end: number;
}

/** Every corner, zero and one, with some air. */
function frameAround(corridor: Corridor, horizon: number): Frame {
  const bounds = corridor.flatMap(({ low, high }) => [low ?? 0, high ?? 0]);
  const [low, high] = [Math.min(0, ...bounds), Math.max(1, ...bounds)];
  const air = 0.15 * (high - low);
  return {
    ...{ low: low < 0 ? low - air : 0, high: high + air },
    end: Math.max(horizon, must(corridor[corridor.length - 1]).time),
  };
}

/** The two bounds with a corner each, as far as there is one. */
const handlesOf = (corridor: Corridor) =>
  corridor.flatMap((corner, index) =>
    (['low', 'high'] as const).flatMap((bound) => {
      const value = corner[bound];
      return value === null ? [] : [{ index, bound, time: corner.time, value }];
    }),
  );

function CorridorPlot({
  corridor,
  horizon,
  onChange,
}: {
  corridor: Corridor;
  horizon: number;
  onChange: (corridor: Corridor) => void;
}) {
  const [place, { width }] = useSize<HTMLDivElement>();
  // While a corner is held, so that the plot does not run away under the pointer.
  const [kept, setKept] = useState<Frame>();
  const frame = kept ?? frameAround(corridor, horizon);
  const { low, high, end } = frame;
  const inner = { width: Math.max(1, width - edge.left - edge.right), height: height - edge.top - edge.bottom };
  const x = (time: number) => edge.left + (inner.width * time) / end;
  const y = (value: number) => edge.top + (inner.height * (high - value)) / (high - low);
  const cornerAt = ({ px, py }: Place) => ({
    time: (end * (px - edge.left)) / inner.width,
    value: high - ((py - edge.top) * (high - low)) / inner.height,
  });
  const rung = { time: stepFor(end, 100), value: stepFor(high - low, 100) };
  const move = ({ index, bound }: Held, to: { time: number; value: number }) =>
    onChange(cornerMoved(corridor, index, bound, to, rung));
  const handles = handlesOf(corridor);
  const drag = useDrag<Held>({
    take: (at) => {
      const taken = markAt(at, handles, ({ time, value }) => ({ px: x(time), py: y(value) }));
      if (taken) setKept(frame);
      return taken;
    },
    drag: (held, at) => move(held, cornerAt(at)),
    drop: () => setKept(undefined),
    press: (at) => {
      const to = cornerAt(at);
      const added = to.time >= 0 && to.time <= end ? cornerAdded(corridor, to, rung) : undefined;
      if (added) onChange(added);
    },
  });
  return (
    <div ref={place} className="col-span-3 bg-sheet" style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label="Corridor, drawn"
          className="block touch-none text-[11px] select-none"
          {...drag}
        >
          <title>Drag a corner; click beside them for another; Delete takes one out.</title>
          <Ground {...{ corridor, x, y, width, end }} bottom={edge.top + inner.height} />
          {handles.map((handle) => (
            <circle
              key={`${handle.bound} ${handle.index}`}
              data-corner={`${handle.bound} ${handle.index}`}
              cx={x(handle.time)}
              cy={y(handle.value)}
              r="5"
              className="cursor-grab fill-sheet stroke-brick outline-none focus-visible:stroke-[3]"
              strokeWidth="1.8"
              {...sliderProps({
                label: `Corner ${handle.index + 1}, ${handle.bound === 'low' ? 'lowest' : 'highest'}`,
                value: handle.value,
                words: `${handle.value} at ${handle.time} s`,
                onStep: ({ right, up }) =>
                  move(handle, { time: handle.time + right * rung.time, value: handle.value + up * rung.value }),
                onRemove:
                  corridor.length > 2 ? () => onChange(corridor.filter((_, k) => k !== handle.index)) : undefined,
              })}
            />
          ))}
        </svg>
      )}
    </div>
  );
}

/** What lies outside of the corridor, its bounds, and the axes with zero, one and the end. */
function Ground({
  corridor,
  x,
  y,
  width,
  bottom,
  end,
}: {
  corridor: Corridor;
  x: (time: number) => number;
  y: (value: number) => number;
  width: number;
  bottom: number;
  end: number;
}) {
  const right = width - edge.right;
  const stretches = (bound: Bound) =>
    corridor.slice(1).flatMap((corner, k) => {
      const before = must(corridor[k]);
      const [from, to] = [before[bound], corner[bound]];
      return from === null || to === null
        ? []
        : [{ k, left: x(before.time), from: y(from), right: x(corner.time), to: y(to) }];
    });
  return (
    <>
      {(['high', 'low'] as const).map((bound) => {
        const border = bound === 'high' ? edge.top : bottom;
        return stretches(bound).map(({ k, left, from, right, to }) => (
          <g key={`${bound} ${k}`}>
            <path d={`M${left} ${border}V${from}L${right} ${to}V${border}Z`} className="fill-brick-soft/45" />
            <path d={`M${left} ${from}L${right} ${to}`} className="fill-none stroke-brick" strokeWidth="1.4" />
          </g>
        ));
      })}
      <path d={`M${edge.left} ${edge.top}V${bottom}H${right}`} className="fill-none stroke-ink" />
      {[0, 1].map((value) => (
        <text key={value} x={edge.left - 5} y={y(value) + 4} textAnchor="end" className="fill-slate">
          {value}
        </text>
      ))}
      <path d={`M${edge.left} ${y(1)}H${right}`} className="stroke-slate" strokeDasharray="1 3" />
      <text x={right} y={height - 4} textAnchor="end" className="fill-slate">
        {Number(end.toPrecision(3))} s
      </text>
    </>
  );
}
