import {
  type Fraction,
  type Stretch,
  type StudentPart,
  formatNumber,
  fractionOf,
  parse,
  pointWords,
  pointsFromText,
  stretchesOf,
  textOfPoints,
  orElse,
} from '@nailset/core';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from 'react';
import {
  BranchPaths,
  type Layers,
  OpenLoopMarks,
  PlaneAxes,
  type PlaneScale,
  SpecialMarks,
  planeScale,
  stepFor,
} from '../../plane/LocusLayers';
import { frameAround, locusOf } from '../../plane/locus';
import { placeOn } from '../../plot/pointer';
import { PlotFrame } from '../../plot/PlotFrame';
import { useSize } from '../../plot/useSize';

type PointsOf = Extract<StudentPart, { kind: 'points' }>;
interface Point {
  readonly re: number;
  readonly im: number;
}

const near = 12;
const noLayers: Layers = {
  ...{ axis: false, asymptotes: false, breaks: false, crossings: false, angles: false, grid: false, region: false },
};

const asks: Record<PointsOf['what'], string> = {
  poles: 'Mark the poles.',
  zeros: 'Mark the zeros.',
  breakPoints: 'Mark where branches meet on the real axis.',
  axisCrossings: 'Mark where branches cross the imaginary axis.',
  realAxis: 'Mark the stretches of the real axis that lie on the locus.',
  asymptotes: 'Mark where the asymptotes meet, then a point on each.',
  locus: 'Mark points that lie on the locus.',
};

/**
 * An empty plane on which points are marked by hand, and the same points typed below. What is given of the loop stands
 * there; its locus is drawn once the answer is right or no try is left.
 */
export default function PointsBench({
  part,
  text,
  revealed,
  solution,
  onChange,
}: {
  part: PointsOf;
  text: string;
  revealed: boolean;
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
  const locus = useMemo(
    () => (revealed && fraction ? locusOf(fraction, frame) : undefined),
    [revealed, fraction, frame],
  );
  const points = useMemo(() => marked ?? [], [marked]);
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
    const { px, py } = placeOn(event.currentTarget, event);
    return { px, py, re: frame.re + (px - width / 2) / unit, im: -(py - height / 2) / unit };
  };
  const begin = (event: PointerEvent<SVGSVGElement>) => {
    const to = at(event);
    const found = points.findIndex(({ re, im }) => Math.hypot(x(re) - to.px, y(im) - to.py) <= near);
    if (found >= 0 && part.what !== 'realAxis') {
      held.current = found;
      return event.currentTarget.setPointerCapture(event.pointerId);
    }
    if (part.what === 'realAxis') return toggle(to.re);
    const point = snapped(to);
    give([
      ...points,
      point,
      ...(point.im === 0 || part.what === 'locus' || part.what === 'asymptotes'
        ? []
        : [{ re: point.re, im: -point.im }]),
    ]);
  };
  const stretches = useMemo(() => (part.what === 'realAxis' && given ? stretchesOf(given) : []), [part.what, given]);
  const isIn = ({ from, to }: Stretch, re: number): boolean => re > from && re < to;
  const inside = ({ from, to }: Stretch): number => {
    if (Number.isFinite(from) && Number.isFinite(to)) return (from + to) / 2;
    return Number.isFinite(to) ? to - 20 * grid : Number.isFinite(from) ? from + 20 * grid : 0;
  };
  /** A whole stretch is marked by one point in it, and cleared by another click. */
  const toggle = (re: number) => {
    const stretch = stretches.find((each) => isIn(each, re));
    if (!stretch) return;
    const others = points.filter((point) => point.im !== 0 || !isIn(stretch, point.re));
    give(others.length < points.length ? others : [...points, { re: Number(inside(stretch).toPrecision(6)), im: 0 }]);
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
  const what = part.what === 'realAxis' ? 'stretches of the real axis' : 'points';
  const summary = `s-plane, ${what} marked: ${points.map(pointWords).join(', ') || 'none'}.`;

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
              {locus && (
                <SpecialMarks
                  locus={locus}
                  layers={{ ...noLayers, axis: part.what === 'realAxis', asymptotes: part.what === 'asymptotes' }}
                  scale={scale}
                />
              )}
              {locus && <BranchPaths branches={locus.branches} scale={scale} />}
              {stretches.map((stretch) => (
                <StretchLine
                  key={stretch.from}
                  stretch={stretch}
                  scale={scale}
                  chosen={points.some(({ re, im }) => im === 0 && isIn(stretch, re))}
                  onToggle={() => toggle(inside(stretch))}
                />
              ))}
              {part.what === 'asymptotes' && points[0] && <Rays from={points[0]} to={points.slice(1)} scale={scale} />}
              {given && <OpenLoopMarks locus={given} scale={scale} />}
              {(part.what === 'realAxis' ? [] : points).map((point, k) => (
                <g
                  key={k}
                  data-point={k}
                  role="slider"
                  tabIndex={0}
                  aria-label={`Point ${k + 1}`}
                  aria-valuenow={point.re}
                  aria-valuetext={pointWords(point)}
                  className="cursor-grab outline-none [&:focus-visible>circle]:stroke-[3]"
                  onKeyDown={keys(k)}
                >
                  <circle
                    cx={x(point.re)}
                    cy={y(point.im)}
                    r="7"
                    className="fill-plum/15 stroke-plum"
                    strokeWidth="1.6"
                  />
                  <circle cx={x(point.re)} cy={y(point.im)} r="1.8" className="fill-plum" />
                </g>
              ))}
            </svg>
          )}
        </div>
      </PlotFrame>
      <label className="text-note text-slate">
        Or typed, as in −13/3, 3j, −1 ± 2j
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

/** A stretch of the real axis, to be chosen as a whole. */
function StretchLine({
  stretch: { from, to },
  scale: { x, y, width },
  chosen,
  onToggle,
}: {
  stretch: Stretch;
  scale: PlaneScale;
  chosen: boolean;
  onToggle: () => void;
}) {
  const [left, right] = [Math.max(0, x(from)), Math.min(width, x(to))];
  if (right <= left) return null;
  const words = `Real axis ${from === -Infinity ? 'on the left' : `from ${formatNumber(from)}`}${to === Infinity ? ' on' : ` to ${formatNumber(to)}`}`;
  return (
    <g
      role="checkbox"
      tabIndex={0}
      aria-checked={chosen}
      aria-label={words}
      data-stretch={formatNumber(Math.max(-1e9, from))}
      className="cursor-pointer outline-none [&:focus-visible>rect]:stroke-petrol"
      onKeyDown={(event) => {
        if (event.key !== ' ' && event.key !== 'Enter') return;
        event.preventDefault();
        onToggle();
      }}
    >
      <rect x={left + 3} y={y(0) - 9} width={Math.max(0, right - left - 6)} height="18" className="fill-transparent" />
      <line
        x1={left}
        x2={right}
        y1={y(0)}
        y2={y(0)}
        strokeWidth="6"
        className={chosen ? 'stroke-plum/70' : 'stroke-transparent'}
      />
    </g>
  );
}

/** Asymptotes from their meeting point through a point on each, to the edge. */
function Rays({ from, to, scale: { x, y, width, height } }: { from: Point; to: readonly Point[]; scale: PlaneScale }) {
  return (
    <g data-rays={to.length} className="stroke-plum" strokeWidth="1.6" strokeDasharray="7 4">
      {to.map((point, k) => {
        const [dx, dy] = [x(point.re) - x(from.re), y(point.im) - y(from.im)];
        const far = (2 * (width + height)) / (Math.hypot(dx, dy) || 1);
        return <line key={k} x1={x(from.re)} y1={y(from.im)} x2={x(from.re) + far * dx} y2={y(from.im) + far * dy} />;
      })}
    </g>
  );
}

function readOrNone(text: string): readonly Point[] | undefined {
  return orElse(undefined, () => pointsFromText(text));
}
