import {
  type Fraction,
  Problem,
  type StudentPart,
  formatPoint,
  fractionOf,
  parse,
  pointsFromText,
  textOfPoints,
} from '@nailset/core';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from 'react';
import { BranchPaths, OpenLoopMarks, PlaneAxes, planeScale, stepFor } from '../plane/LocusLayers';
import { frameAround, locusOf } from '../plane/locus';
import { PlotFrame } from '../plot/PlotFrame';
import { useSize } from '../plot/useSize';

type PointsOf = Extract<StudentPart, { kind: 'points' }>;
interface Point {
  readonly re: number;
  readonly im: number;
}

const near = 12;

const asks: Record<PointsOf['what'], string> = {
  poles: 'Mark the poles.',
  zeros: 'Mark the zeros.',
  breakPoints: 'Mark where branches meet on the real axis.',
  axisCrossings: 'Mark where branches cross the imaginary axis.',
  locus: 'Mark points that lie on the locus.',
};

/**
 * An empty plane on which points are marked by hand, and the same points typed below. What is given of the loop stands
 * there; its locus is drawn after the first try.
 */
export default function PointsBench({
  part,
  text,
  tried,
  solution,
  onChange,
}: {
  part: PointsOf;
  text: string;
  tried: boolean;
  solution: string | undefined;
  onChange: (text: string) => void;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const marked = useMemo(() => readOrNone(text), [text]);
  const fraction = useMemo<Fraction | undefined>(
    () => (part.loop === undefined ? undefined : fractionOf(parse(part.loop), new Map())),
    [part.loop],
  );
  const given = useMemo(() => fraction && locusOf(fraction, { re: -1, im: 0, reach: 5 }), [fraction]);
  const [frame, setFrame] = useState(() =>
    frameAround([...(given?.poles ?? []), ...(given?.zeros ?? []), ...(marked ?? []), { re: -6, im: 4 }]),
  );
  const locus = useMemo(() => (tried && fraction ? locusOf(fraction, frame) : undefined), [tried, fraction, frame]);
  const held = useRef<number>(undefined);
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const { x, y, unit } = scale;
  const grid = stepFor(2 * frame.reach, 6) / 20;

  const give = (points: readonly Point[]) => onChange(textOfPoints(points));
  /** On the grid, and on an axis when it is near one. */
  const snapped = ({ re, im }: Point): Point => {
    const round = (value: number): number => Number((Math.round(value / grid) * grid).toPrecision(6)) || 0;
    const onAxis = 6 / unit;
    return { re: Math.abs(re) < onAxis ? 0 : round(re), im: Math.abs(im) < onAxis ? 0 : round(im) };
  };
  const at = (event: PointerEvent<SVGSVGElement>) => {
    const { left, top } = event.currentTarget.getBoundingClientRect();
    const [px, py] = [event.clientX - left, event.clientY - top];
    return { px, py, re: frame.re + (px - width / 2) / unit, im: -(py - height / 2) / unit };
  };
  const points = marked ?? [];
  const begin = (event: PointerEvent<SVGSVGElement>) => {
    const to = at(event);
    const found = points.findIndex(({ re, im }) => Math.hypot(x(re) - to.px, y(im) - to.py) <= near);
    if (found >= 0) {
      held.current = found;
      return event.currentTarget.setPointerCapture(event.pointerId);
    }
    const point = snapped(to);
    give([...points, point, ...(point.im === 0 || part.what === 'locus' ? [] : [{ re: point.re, im: -point.im }])]);
  };
  const put = (index: number, to: Point) => {
    const old = points[index]!;
    const pair = points.findIndex(({ re, im }, k) => k !== index && re === old.re && im === -old.im && im !== 0);
    give(points.map((point, k) => (k === index ? to : k === pair && to.im !== 0 ? { re: to.re, im: -to.im } : point)));
  };
  const keys = (index: number) => (event: KeyboardEvent) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    const size = grid * (event.shiftKey ? 10 : 1);
    const { re, im } = points[index]!;
    if (event.key === 'Delete' || event.key === 'Backspace') give(points.filter((_, k) => k !== index));
    else if (way)
      put(index, {
        re: Number((re + way[0]! * size).toPrecision(6)),
        im: Number((im + way[1]! * size).toPrecision(6)),
      });
    else return;
    event.preventDefault();
  };
  const summary = `s-plane with ${points.length} points marked${points.length > 0 ? `: ${points.map((point) => formatPoint(point)).join(', ')}` : ''}.`;

  return (
    <div className="grid gap-4">
      <PlotFrame
        title={asks[part.what]}
        className="h-[clamp(260px,50vh,460px)]"
        onFit={() => setFrame(frameAround([...(given?.poles ?? []), ...(given?.zeros ?? []), ...points]))}
        table={() => ({
          heads: ['point', 'real part', 'imaginary part'],
          rows: points.map(({ re, im }, k) => [k + 1, re, im]),
        })}
        tools={
          <>
            <button
              type="button"
              className="link"
              aria-label="Zoom out"
              onClick={() => setFrame({ ...frame, re: 1.25 * frame.re, reach: 1.25 * frame.reach })}
            >
              −
            </button>
            <button
              type="button"
              className="link"
              aria-label="Zoom in"
              onClick={() => setFrame({ ...frame, re: 0.8 * frame.re, reach: 0.8 * frame.reach })}
            >
              +
            </button>
            <button type="button" className="link" disabled={!text} onClick={() => onChange('')}>
              Clear
            </button>
          </>
        }
      >
        <div ref={place} className="relative h-[clamp(260px,50vh,460px)] bg-sheet">
          {width > 0 && (
            <svg
              width={width}
              height={height}
              role="group"
              aria-label={summary}
              className="block cursor-crosshair touch-none overflow-hidden text-[11px] select-none"
              onPointerDown={begin}
              onPointerMove={(event) => held.current !== undefined && put(held.current, snapped(at(event)))}
              onPointerUp={() => (held.current = undefined)}
            >
              <PlaneAxes scale={scale} />
              {locus && <BranchPaths branches={locus.branches} scale={scale} />}
              {given && <OpenLoopMarks locus={given} scale={scale} />}
              {points.map((point, k) => (
                <g
                  key={k}
                  data-point={k}
                  role="slider"
                  tabIndex={0}
                  aria-label={`Point ${k + 1}`}
                  aria-valuenow={point.re}
                  aria-valuetext={formatPoint(point)}
                  className="cursor-grab outline-none [&:focus-visible>circle]:stroke-[3]"
                  onKeyDown={keys(k)}
                >
                  <circle
                    cx={x(point.re)}
                    cy={y(point.im)}
                    r="7"
                    className="fill-copper/20 stroke-copper"
                    strokeWidth="1.6"
                  />
                  <circle cx={x(point.re)} cy={y(point.im)} r="1.8" className="fill-copper" />
                </g>
              ))}
            </svg>
          )}
        </div>
      </PlotFrame>
      <label className="text-note text-slate">
        Or typed, as in −2, 3j, −1 ± 2j
        <input
          className="input mt-1 font-mono text-[15px]"
          maxLength={2000}
          spellCheck={false}
          value={text}
          onChange={(event) => onChange(event.target.value)}
        />
      </label>
      {solution && (
        <p className="border-l-2 border-moss pl-4">
          <span className="label mb-1">Expected</span>
          {solution}
        </p>
      )}
    </div>
  );
}

function readOrNone(text: string): readonly Point[] | undefined {
  try {
    return pointsFromText(text);
  } catch (error) {
    if (error instanceof Problem) return undefined;
    throw error;
  }
}
