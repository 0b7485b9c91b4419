import { type Branch, formatNumber } from '@nailset/core';
import { memo, useId } from 'react';
import { tenths } from '../plot/frame';
import { Hatch } from '../plot/Hatch';
import { Pen } from '../plot/pen';
import { type Locus, type PlaneFrame, type PoleRegion, regionEdge } from './locus';
import type { Sweep } from './sweep';

/** From the s-plane to the sheet. */
export interface PlaneScale {
  readonly frame: PlaneFrame;
  readonly width: number;
  readonly height: number;
  readonly x: (re: number) => number;
  readonly y: (im: number) => number;
  /** Pixels for 1 rad/s. */
  readonly unit: number;
}

/** Equal scale on both axes. */
export function planeScale(frame: PlaneFrame, width: number, height: number): PlaneScale {
  const unit = height / (2 * frame.reach);
  return {
    ...{ frame, width, height, unit },
    x: (re) => width / 2 + (re - frame.re) * unit,
    y: (im) => height / 2 - (im - frame.im) * unit,
  };
}

export const layerNames = {
  axis: 'real axis',
  asymptotes: 'asymptotes',
  breaks: 'break points',
  crossings: 'crossings',
  angles: 'angles',
  grid: 'damping and frequency',
  region: 'where the nails ask for poles',
} as const;
export type Layers = Readonly<Record<keyof typeof layerNames, boolean>>;

const far = 4e3;
const inReach = (value: number): boolean => value > -far && value < far;

/** The branches; they stay as they are while only the gain moves on them. */
export const BranchPaths = memo(function BranchPaths({
  branches,
  scale,
}: {
  branches: readonly Branch[];
  scale: PlaneScale;
}) {
  return branches.map((branch, k) => (
    <path key={k} data-branch={k} d={pathOf(branch, scale)} className="fill-none stroke-petrol/80" strokeWidth="1.6" />
  ));
});

/** Poles over another quantity: dashed, an open ring where it is least, its ends written. */
export const SweptPaths = memo(function SweptPaths({
  sweep: { name, branches },
  scale,
}: {
  sweep: Sweep;
  scale: PlaneScale;
}) {
  const { x, y } = scale;
  const ends = (k: number) => branches.map(({ re, im }) => ({ re: re.at(k)!, im: im.at(k)! }));
  const highest = (points: readonly { re: number; im: number }[]) =>
    points.reduce((best, each) => (each.im > best.im ? each : best), points[0]!);
  return (
    <g data-sweep={name}>
      {branches.map((branch, k) => (
        <path
          key={k}
          d={pathOf(branch, scale)}
          className="fill-none stroke-copper"
          strokeWidth="1.6"
          strokeDasharray="7 3"
        />
      ))}
      {branches.length > 0 &&
        ([0, -1] as const).map((k) => {
          const end = highest(ends(k));
          return (
            <g key={k}>
              {ends(k).map(({ re, im }, branch) => (
                <circle
                  key={branch}
                  cx={x(re)}
                  cy={y(im)}
                  r="3"
                  className={`stroke-copper ${k === 0 ? 'fill-sheet' : 'fill-copper'}`}
                />
              ))}
              <Label
                x={x(end.re) + 7}
                y={y(end.im) - 6}
                anchor="start"
                text={`${name} ${formatNumber(branches[0]!.gains.at(k)!)}`}
              />
            </g>
          );
        })}
    </g>
  );
});

/** A line through the points that can be seen. */
function pathOf({ re, im }: Branch, { x, y }: PlaneScale): string {
  const pen = new Pen();
  for (let k = 0; k < re.length; k++) {
    const px = x(re[k]!);
    const py = y(im[k]!);
    if (inReach(px) && inReach(py)) pen.to(px, py);
    else pen.lift();
  }
  return pen.written;
}

const nice = [1, 2, 2.5, 5, 10];

/** Round distances between marks, so many on the sheet. */
export function stepFor(span: number, count: number): number {
  const rough = span / count;
  const power = 10 ** Math.floor(Math.log10(rough));
  return power * nice.find((step) => step * power >= rough)!;
}

function marks(from: number, to: number, step: number): number[] {
  const first = Math.ceil(from / step);
  return Array.from({ length: Math.max(0, Math.floor(to / step) - first + 1) }, (_, k) => (first + k) * step);
}

/** Axes through the origin, with numbers at the edges. */
export const PlaneAxes = memo(function PlaneAxes({ scale }: { scale: PlaneScale }) {
  const { frame, width, height, x, y, unit } = scale;
  const halfWidth = width / 2 / unit;
  const step = stepFor(2 * frame.reach, height < 260 ? 4 : 6);
  const label = (value: number) => formatNumber(Number(value.toPrecision(6)));
  return (
    <g>
      <rect
        x={Math.max(0, x(0))}
        width={Math.max(0, width - Math.max(0, x(0)))}
        height={height}
        className="fill-copper/6"
      />
      {marks(frame.re - halfWidth, frame.re + halfWidth, step).map((re) => (
        <g key={`x${re}`}>
          <line x1={x(re)} x2={x(re)} y1={0} y2={height} className="stroke-grid" />
          {Math.abs(re) > step / 2 && x(re) > 16 && x(re) < width - 16 && (
            <text x={x(re)} y={height - 4} textAnchor="middle" className="fill-slate">
              {label(re)}
            </text>
          )}
        </g>
      ))}
      {marks(frame.im - frame.reach, frame.im + frame.reach, step).map((im) => (
        <g key={`y${im}`}>
          <line x1={0} x2={width} y1={y(im)} y2={y(im)} className="stroke-grid" />
          {Math.abs(im) > step / 2 && y(im) > 10 && y(im) < height - 14 && (
            <text x={width - 4} y={y(im) + 4} textAnchor="end" className="fill-slate">
              {label(im)}j
            </text>
          )}
        </g>
      ))}
      <line x1={0} x2={width} y1={y(0)} y2={y(0)} className="stroke-ink" />
      <line x1={x(0)} x2={x(0)} y1={0} y2={height} className="stroke-ink" />
    </g>
  );
});

const ratios = [0.2, 0.4, 0.6, 0.8];

/** Rays of constant damping and circles of constant natural frequency. */
export const DampingGrid = memo(function DampingGrid({ scale }: { scale: PlaneScale }) {
  const { frame, x, y, unit, width, height } = scale;
  const reach = Math.hypot(Math.abs(frame.re) + width / unit / 2, frame.reach);
  const circles = marks(0, reach, stepFor(reach, 5)).filter((w) => w > 0);
  return (
    <g className="fill-none stroke-plum/45" strokeDasharray="2 4">
      {circles.map((w) => (
        <path key={w} d={`M${x(0)} ${y(w)}A${w * unit} ${w * unit} 0 0 0 ${x(0)} ${y(-w)}`} />
      ))}
      {ratios.map((zeta) => {
        const [re, im] = [-zeta * reach, Math.sqrt(1 - zeta * zeta) * reach];
        // Where the ray leaves the sheet.
        const share = Math.min(1, (y(0) - 12) / Math.max(1, y(0) - y(im)), (x(0) - 26) / Math.max(1, x(0) - x(re)));
        return (
          <g key={zeta}>
            <path d={`M${x(re)} ${y(im)}L${x(0)} ${y(0)}L${x(re)} ${y(-im)}`} />
            <text x={x(re * share) + 3} y={y(im * share) + 10} className="fill-plum stroke-none" strokeDasharray="none">
              ζ {zeta}
            </text>
          </g>
        );
      })}
      {height > 200 &&
        circles
          .filter((w) => x(-w) > 24)
          .map((w) => (
            <text key={w} x={x(-w) + 3} y={y(0) - 4} className="fill-plum stroke-none">
              {Number(w.toPrecision(3))}
            </text>
          ))}
    </g>
  );
});

/** What a course book marks on a locus, each in its layer. */
export const SpecialMarks = memo(function SpecialMarks({
  locus,
  layers,
  scale,
}: {
  locus: Locus;
  layers: Layers;
  scale: PlaneScale;
}) {
  const { special } = locus;
  const { x, y, width, height } = scale;
  const clampX = (re: number) => Math.min(width, Math.max(0, x(re)));
  const length = width + height;
  return (
    <g>
      {layers.axis &&
        special.realAxis.map(({ from, to }, k) => (
          <line
            key={k}
            data-mark="axis"
            x1={from === -Infinity ? 0 : clampX(from)}
            x2={to === Infinity ? width : clampX(to)}
            y1={y(0)}
            y2={y(0)}
            className="stroke-petrol/35"
            strokeWidth="6"
          />
        ))}
      {layers.asymptotes && special.asymptotes && (
        <g className="stroke-slate" strokeDasharray="6 4">
          {special.asymptotes.anglesDegrees.map((degrees) => {
            const angle = (degrees * Math.PI) / 180;
            const [cx, cy] = [x(special.asymptotes!.centroid), y(0)];
            return (
              <line
                key={degrees}
                data-mark="asymptote"
                x1={cx}
                y1={cy}
                x2={cx + length * Math.cos(angle)}
                y2={cy - length * Math.sin(angle)}
              />
            );
          })}
          <Label
            x={x(special.asymptotes.centroid)}
            y={y(0) + 16}
            text={`σ ${formatNumber(special.asymptotes.centroid)}`}
          />
        </g>
      )}
      {layers.breaks &&
        special.breakPoints.map(({ re, im, gain }, k) => (
          <g key={k} data-mark="break">
            <path d={`M${x(re) - 4} ${y(im)}l4 -4l4 4l-4 4z`} className="fill-plum" />
            {im >= 0 && <Label x={x(re)} y={y(im) - 9} text={`K ${formatNumber(gain)}`} />}
          </g>
        ))}
      {layers.crossings &&
        special.axisCrossings.map(({ omega, gain }, k) => (
          <g key={k} data-mark="crossing">
            {[omega, -omega].map((w) => (
              <path key={Math.sign(w)} d={`M${x(0) - 7} ${y(w)}h14`} className="stroke-brick" strokeWidth="3" />
            ))}
            <Label
              x={x(0) + 8}
              y={y(omega) - 6}
              anchor="start"
              text={`K ${formatNumber(gain)}, ${formatNumber(omega)} rad/s`}
            />
          </g>
        ))}
      {layers.angles &&
        [...special.departures, ...special.arrivals].map(({ re, im, degrees }, k) => {
          const angle = (degrees * Math.PI) / 180;
          return (
            <g key={k} data-mark="angle">
              <line
                x1={x(re)}
                y1={y(im)}
                x2={x(re) + 34 * Math.cos(angle)}
                y2={y(im) - 34 * Math.sin(angle)}
                className="stroke-plum"
                strokeWidth="1.6"
              />
              {im > 0 && <Label x={x(re) + 8} y={y(im) - 8} anchor="start" text={`${Number(degrees.toFixed(1))}°`} />}
            </g>
          );
        })}
    </g>
  );
});

/** Where the nails do not want poles, hatched, with the edge of where they do. */
export const RegionMark = memo(function RegionMark({ region, scale }: { region: PoleRegion; scale: PlaneScale }) {
  const hatch = useId();
  const { frame, width, height, x, y } = scale;
  const edge = regionEdge(region, 4 * (frame.reach + Math.abs(frame.re)) * Math.max(1, width / Math.max(1, height)));
  const outline = [...edge, ...[...edge].reverse().map(({ re, im }) => ({ re, im: -im }))]
    .map(({ re, im }, k) => `${k === 0 ? 'M' : 'L'}${tenths(x(re))} ${tenths(y(im))}`)
    .join('');
  return (
    <g data-mark="region">
      <defs>
        <Hatch id={hatch} className="stroke-copper/25" />
      </defs>
      <path d={`M0 0H${width}V${height}H0Z${outline}Z`} fillRule="evenodd" fill={`url(#${hatch})`} />
      <path d={outline} className="fill-none stroke-copper/60" />
    </g>
  );
});

/** Poles and zeros of the open loop, crosses and circles. */
export const OpenLoopMarks = memo(function OpenLoopMarks({
  locus: { poles, zeros },
  scale: { x, y },
}: {
  locus: Locus;
  scale: PlaneScale;
}) {
  return (
    <>
      {poles.map(({ re, im }, k) => (
        <Cross key={k} x={x(re)} y={y(im)} className="stroke-ink" />
      ))}
      {zeros.map(({ re, im }, k) => (
        <circle key={k} cx={x(re)} cy={y(im)} r="4.5" className="fill-sheet stroke-ink" strokeWidth="1.5" />
      ))}
    </>
  );
});

export function Cross({ x, y, className }: { x: number; y: number; className: string }) {
  return <path d={`M${x - 4} ${y - 4}l8 8m0 -8l-8 8`} className={className} strokeWidth="1.7" />;
}

export function Label({
  x,
  y,
  text,
  anchor = 'middle',
}: {
  x: number;
  y: number;
  text: string;
  anchor?: 'start' | 'middle' | 'end';
}) {
  return (
    <text
      x={x}
      y={y}
      textAnchor={anchor}
      strokeWidth="3"
      strokeDasharray="none"
      className="fill-plum stroke-sheet/85 [paint-order:stroke]"
    >
      {text}
    </text>
  );
}
