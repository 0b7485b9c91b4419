import {
  formatNumber,
  type Fraction,
  fractionOf,
  must,
  orElse,
  parse,
  pointsFromText,
  pointWords,
  type Stretch,
  stretchesOf,
  type StudentPart,
  textOfPoints,
} from '@nailset/core';
import { type KeyboardEvent, useMemo, useRef, useState } from 'react';
import { frameAround, type Locus, locusOf, type PlaneFrame } from '../../plane/locus';
import {
  BranchPaths,
  type Layers,
  OpenLoopMarks,
  PlaneAxes,
  type PlaneScale,
  planeScale,
  SpecialMarks,
  stepFor,
} from '../../plane/LocusLayers';
import { ZoomButtons } from '../../plane/ZoomButtons';
import { PlotFrame } from '../../plot/PlotFrame';
import { markAt, sliderProps, useDrag } from '../../plot/useDrag';
import { useSize } from '../../plot/useSize';
import { pointAsks } from './asks';
import {
  isIn,
  isMarked,
  type Point,
  snapped,
  steppedPoint,
  withPoint,
  withPointAt,
  withStretchToggled,
} from './marking';

type PointsOf = Extract<StudentPart, { kind: 'points' }>;

const noLayers: Layers = {
  ...{ axis: false, asymptotes: false, breaks: false, crossings: false, angles: false, grid: false, region: false },
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
  together,
  onChange,
}: {
  part: PointsOf;
  text: string;
  revealed: boolean;
  solution: string | undefined;
  together: boolean;
  onChange: (text: string) => void;
}) {
  const marked = useMemo(() => orElse(undefined, () => pointsFromText(text)), [text]);
  const points = marked ?? [];
  const { given, frame, setFrame, locus } = useLoop(part, marked, revealed);
  const stretches = useMemo(() => (part.what === 'realAxis' && given ? stretchesOf(given) : []), [part.what, given]);
  // What was marked before, the newest last; typing has the browser's own undo.
  const earlier = useRef<string[]>([]);
  const mark = (next: string) => {
    earlier.current = [...earlier.current, text].slice(-100);
    onChange(next);
  };
  const undo = () => {
    const before = earlier.current.pop();
    if (before !== undefined) onChange(before);
  };
  const zoom = (factor: number) => setFrame({ ...frame, re: factor * frame.re, reach: factor * frame.reach });
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const size = together ? 'h-[clamp(240px,36vh,320px)]' : 'h-[clamp(260px,50vh,460px)]';
  return (
    <div className="grid gap-4">
      <PlotFrame
        title={pointAsks[part.what]}
        className={size}
        onFit={() => setFrame(frameAround([...(given?.poles ?? []), ...(given?.zeros ?? []), ...points]))}
        table={() => ({
          heads: ['point', 'real part', 'imaginary part'],
          rows: points.map(({ re, im }, k) => [k + 1, re, im]),
        })}
        tools={
          <>
            <ZoomButtons onZoom={zoom} />
            <button type="button" className="link" onClick={undo}>
              Undo
            </button>
            <button type="button" className="link" disabled={!text} onClick={() => mark('')}>
              Clear
            </button>
          </>
        }
      >
        <div ref={place} className={`relative bg-sheet ${size}`}>
          {width > 0 && (
            <Plane
              {...{ points, stretches, given, locus, frame, width, height }}
              what={part.what}
              onMark={(next) => mark(textOfPoints(next))}
              onUndo={undo}
            />
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

/** What is given of the loop, a frame around it that holds still, and its locus once that may be seen. */
function useLoop(part: PointsOf, marked: readonly Point[] | undefined, revealed: boolean) {
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
  return { given, frame, setFrame, locus };
}

interface PlaneProps {
  what: PointsOf['what'];
  points: readonly Point[];
  /** Of the real axis, where whole ones are marked. */
  stretches: readonly Stretch[];
  given: Locus | undefined;
  /** Once it may be seen. */
  locus: Locus | undefined;
  frame: PlaneFrame;
  width: number;
  height: number;
  onMark: (points: readonly Point[]) => void;
  onUndo: () => void;
}

function Plane({ what, points, stretches, given, locus, frame, width, height, onMark, onUndo }: PlaneProps) {
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const { x, y, unit } = scale;
  const grid = stepFor(2 * frame.reach, 6) / 20;
  const byStretch = what === 'realAxis';
  const toggle = (stretch: Stretch) => onMark(withStretchToggled(points, stretch, grid));
  const pointAt = (px: number, py: number): Point => ({
    re: frame.re + (px - width / 2) / unit,
    im: -(py - height / 2) / unit,
  });
  const onGrid = (px: number, py: number) => snapped(pointAt(px, py), grid, 6 / unit);
  const drag = useDrag<number>({
    take: (at) =>
      byStretch
        ? undefined
        : markAt(at, [...points.keys()], (k) => ({ px: x(must(points[k]).re), py: y(must(points[k]).im) })),
    drag: (index, { px, py }) => onMark(withPointAt(points, index, onGrid(px, py))),
    press: ({ px, py }) => {
      if (!byStretch) return add(onGrid(px, py));
      const stretch = stretches.find((each) => isIn(each, pointAt(px, py).re));
      if (stretch) toggle(stretch);
    },
  });
  const add = (point: Point) => onMark(withPoint(points, point, what !== 'locus' && what !== 'asymptotes'));
  /** Enter marks a point in the middle of the plane, which the arrows then move. */
  const onKey = (event: KeyboardEvent<SVGSVGElement>) => {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') onUndo();
    else if (event.key === 'Enter' && !byStretch && event.target === event.currentTarget) {
      const middle = { re: frame.re / 2, im: frame.reach / 4 };
      const svg = event.currentTarget;
      add({ re: grid * Math.round(middle.re / grid), im: grid * Math.round(middle.im / grid) });
      requestAnimationFrame(() => [...svg.querySelectorAll<SVGGElement>('[data-point]')].at(-1)?.focus());
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const words = `s-plane, ${byStretch ? 'stretches of the real axis' : 'points'} marked: `;
  return (
    <svg
      width={width}
      height={height}
      role="group"
      tabIndex={byStretch ? -1 : 0}
      onKeyDown={onKey}
      aria-label={`${words}${points.map(pointWords).join(', ') || 'none'}.${byStretch ? '' : ' Enter marks one.'}`}
      className="block cursor-crosshair touch-pan-y [&_[role=slider]]:touch-none overflow-hidden text-[11px] select-none"
      {...drag}
    >
      <PlaneAxes scale={scale} />
      {locus && (
        <SpecialMarks
          locus={locus}
          layers={{ ...noLayers, axis: byStretch, asymptotes: what === 'asymptotes' }}
          scale={scale}
        />
      )}
      {locus && <BranchPaths branches={locus.branches} scale={scale} />}
      {stretches.map((stretch) => (
        <StretchLine
          key={stretch.from}
          stretch={stretch}
          scale={scale}
          chosen={isMarked(stretch, points)}
          onToggle={() => toggle(stretch)}
        />
      ))}
      {what === 'asymptotes' && points[0] && <Rays from={points[0]} to={points.slice(1)} scale={scale} />}
      {given && <OpenLoopMarks locus={given} scale={scale} />}
      {(byStretch ? [] : points).map((point, k) => (
        <g
          key={k}
          data-point={k}
          className="cursor-grab outline-none [&:focus-visible>circle]:stroke-[3]"
          {...sliderProps({
            ...{ label: `Point ${k + 1}`, value: point.re, words: pointWords(point) },
            onStep: ({ right, up }) => onMark(withPointAt(points, k, steppedPoint(point, right, up, grid))),
            onRemove: () => onMark(points.filter((_, other) => other !== k)),
          })}
        >
          <circle cx={x(point.re)} cy={y(point.im)} r="7" className="fill-plum/15 stroke-plum" strokeWidth="1.6" />
          <circle cx={x(point.re)} cy={y(point.im)} r="1.8" className="fill-plum" />
        </g>
      ))}
    </svg>
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
