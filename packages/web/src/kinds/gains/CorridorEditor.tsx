import { type CorridorNail, inPoints } from '@nailset/core';
import { type KeyboardEvent, type PointerEvent, useState } from 'react';
import { stepFor } from '../../plane/LocusLayers';
import { placeOn } from '../../plot/pointer';
import { useSize } from '../../plot/useSize';
import { DecimalField } from '../../shared/DecimalField';
import { useTellUnread, useUnreadText } from '../../shared/unread';
import { RemoveButton } from '../../shared/fields';
import { type Bound, type Corridor, corridorFromText, cornerAdded, cornerMoved, corridorText, same } from './corridor';

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
  const text = typed && (bad || same(typed.is!, corridor)) ? typed.text : corridorText(corridor);
  useTellUnread('Corridor', text, bad ? 'A corridor is two lines or more: time, lowest, highest.' : undefined);
  const set = (next: Corridor) => {
    setTyped(undefined);
    onChange({ corridor: [...next] });
  };
  return (
    <div className="grid grid-cols-[1fr_52px_14px] items-center gap-x-1 gap-y-1.5">
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
const near = 9;

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
    end: Math.max(horizon, corridor[corridor.length - 1]!.time),
  };
}

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
  // With its frame, so that the plot does not run away under the pointer.
  const [held, setHeld] = useState<Held & { readonly frame: Frame }>();
  const frame = held?.frame ?? frameAround(corridor, horizon);
  const { low, high, end } = frame;
  const inner = { width: Math.max(1, width - edge.left - edge.right), height: height - edge.top - edge.bottom };
  const x = (time: number) => edge.left + (inner.width * time) / end;
  const y = (value: number) => edge.top + (inner.height * (high - value)) / (high - low);
  const rung = { time: stepFor(end, 100), value: stepFor(high - low, 100) };
  const move = ({ index, bound }: Held, time: number, value: number) =>
    onChange(cornerMoved(corridor, index, bound, { time, value }, rung));

  const pointAt = (event: PointerEvent<SVGSVGElement>) => {
    const { px, py } = placeOn(event.currentTarget, event);
    return {
      ...{ px, py },
      time: (end * (px - edge.left)) / inner.width,
      value: high - ((py - edge.top) * (high - low)) / inner.height,
    };
  };
  const handles = corridor.flatMap(({ time, low: lowest, high: highest }, index) =>
    (
      [
        ['low', lowest],
        ['high', highest],
      ] as const
    ).flatMap(([bound, value]) => (value === null ? [] : [{ index, bound, time, value }])),
  );
  const begin = (event: PointerEvent<SVGSVGElement>) => {
    const { px, py, time, value } = pointAt(event);
    const taken = handles.find((handle) => Math.hypot(x(handle.time) - px, y(handle.value) - py) <= near);
    if (taken) {
      setHeld({ ...taken, frame });
      event.currentTarget.setPointerCapture(event.pointerId);
    } else if (time >= 0 && time <= end) {
      const added = cornerAdded(corridor, { time, value }, rung);
      if (added) onChange(added);
    }
  };
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    if (!held) return;
    const { time, value } = pointAt(event);
    move(held, time, value);
  };
  const keys = (handle: (typeof handles)[number]) => (event: KeyboardEvent) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    const size = event.shiftKey ? 10 : 1;
    if (event.key === 'Delete' && corridor.length > 2) onChange(corridor.filter((_, k) => k !== handle.index));
    else if (way) move(handle, handle.time + way[0]! * size * rung.time, handle.value + way[1]! * size * rung.value);
    else return;
    event.preventDefault();
  };
  return (
    <div ref={place} className="col-span-3 bg-sheet" style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label="Corridor, drawn"
          className="block touch-none text-[11px] select-none"
          onPointerDown={begin}
          onPointerMove={drag}
          onPointerUp={() => setHeld(undefined)}
          onPointerCancel={() => setHeld(undefined)}
        >
          <title>Drag a corner; click beside them for another; Delete takes one out.</title>
          {corridor.slice(1).map((corner, k) => {
            const before = corridor[k]!;
            const [top, bottom] = [edge.top, edge.top + inner.height];
            const outside = (of: Bound, border: number) =>
              before[of] === null || corner[of] === null
                ? null
                : `M${x(before.time)} ${border}L${x(before.time)} ${y(before[of])}L${x(corner.time)} ${y(corner[of])}L${x(corner.time)} ${border}Z`;
            return [outside('high', top), outside('low', bottom)].map(
              (path, side) => path && <path key={`${k} ${side}`} d={path} className="fill-brick-soft/45" />,
            );
          })}
          <path
            d={`M${edge.left} ${edge.top}V${edge.top + inner.height}H${width - edge.right}`}
            className="fill-none stroke-ink"
          />
          {[0, 1].map((value) => (
            <text key={value} x={edge.left - 5} y={y(value) + 4} textAnchor="end" className="fill-slate">
              {value}
            </text>
          ))}
          <line
            x1={edge.left}
            x2={width - edge.right}
            y1={y(1)}
            y2={y(1)}
            className="stroke-slate"
            strokeDasharray="1 3"
          />
          <text x={width - edge.right} y={height - 4} textAnchor="end" className="fill-slate">
            {Number(end.toPrecision(3))} s
          </text>
          {(['low', 'high'] as const).map((bound) => (
            <path
              key={bound}
              d={corridor
                .slice(1)
                .flatMap((corner, k) => {
                  const before = corridor[k]!;
                  return before[bound] === null || corner[bound] === null
                    ? []
                    : [`M${x(before.time)} ${y(before[bound])}L${x(corner.time)} ${y(corner[bound])}`];
                })
                .join('')}
              className="fill-none stroke-brick"
              strokeWidth="1.4"
            />
          ))}
          {handles.map((handle) => (
            <circle
              key={`${handle.bound} ${handle.index}`}
              data-corner={`${handle.bound} ${handle.index}`}
              cx={x(handle.time)}
              cy={y(handle.value)}
              r="5"
              role="slider"
              tabIndex={0}
              aria-label={`Corner ${handle.index + 1}, ${handle.bound === 'low' ? 'lowest' : 'highest'}`}
              aria-valuenow={handle.value}
              aria-valuetext={`${handle.value} at ${handle.time} s`}
              className="cursor-grab fill-sheet stroke-brick outline-none focus-visible:stroke-[3]"
              strokeWidth="1.8"
              onKeyDown={keys(handle)}
            />
          ))}
        </svg>
      )}
    </div>
  );
}
