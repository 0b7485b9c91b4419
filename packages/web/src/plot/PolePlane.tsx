import { formatPoints, hiddenWords, type Pole, type Root } from '@nailset/core';
import { HiddenModes } from './HiddenModes';
import { PlotFrame } from './PlotFrame';
import { useSize } from './useSize';

/** Poles and zeros in the s-plane, equal scale on both axes, on a frame that holds still. */
export function PolePlane({
  title,
  poles,
  zeros = [],
  hidden = [],
  before = [],
  reach,
  listed = false,
  className = 'h-[150px]',
}: {
  title: string;
  poles: readonly Pole[];
  zeros?: readonly Root[];
  /** Modes that cancel. */
  hidden?: readonly Pole[];
  before?: readonly Pole[];
  /** Distance from the origin, up, down and to the left, that is surely inside, in rad/s. */
  reach: number;
  /** Write the values below the plane. */
  listed?: boolean;
  className?: string;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const origin = { x: width * 0.78, y: height / 2 };
  const scale = Math.min(origin.x, origin.y) / (1.12 * reach);
  const at = ({ re, im }: { re: number; im: number }) => ({ x: origin.x + re * scale, y: origin.y - im * scale });
  const inside = (point: { re: number; im: number }) => {
    const { x, y } = at(point);
    return x > 4 && x < width - 4 && y > 4 && y < height - 4;
  };
  const outside = [...poles, ...zeros, ...hidden].filter((point) => point.im >= 0 && !inside(point)).length;
  const summary = `${title}: poles at ${formatPoints(poles)}${
    zeros.length > 0 ? `; zeros at ${formatPoints(zeros)}` : ''
  }${hidden.length > 0 ? `; ${hiddenWords(hidden)}` : ''}.`;
  return (
    <PlotFrame
      title={title}
      className={className}
      tools={outside > 0 && <span>{outside} outside the plot</span>}
      table={() => ({
        heads: ['', 'real part', 'imaginary part'],
        rows: [
          ...poles.map(({ re, im }) => ['pole', re, im]),
          ...zeros.map(({ re, im }) => ['zero', re, im]),
          ...hidden.map(({ re, im }) => ['hidden mode', re, im]),
          ...before.map(({ re, im }) => ['pole, first', re, im]),
        ],
      })}
    >
      <div ref={place} className={`bg-sheet ${className}`}>
        {width > 0 && (
          <svg width={width} height={height} role="img" aria-label={summary} className="block text-[11px]">
            <rect x={origin.x} width={width - origin.x} height={height} className="fill-copper/8" />
            <line x1="0" x2={width} y1={origin.y} y2={origin.y} className="stroke-ink" />
            <line x1={origin.x} x2={origin.x} y1="0" y2={height} className="stroke-ink" />
            <path
              d={`M${origin.x - reach * scale} ${origin.y - 3}v6M${origin.x - 3} ${origin.y - reach * scale}h6`}
              className="stroke-ink"
            />
            <text x={origin.x - reach * scale} y={origin.y + 14} textAnchor="middle" className="fill-slate">
              −{Number(reach.toPrecision(2))}
            </text>
            <text x={origin.x + 5} y={origin.y - reach * scale + 4} className="fill-slate">
              {Number(reach.toPrecision(2))}j
            </text>
            {before.map((pole, k) => (
              <Cross key={k} {...at(pole)} className="stroke-ghost" />
            ))}
            {zeros.map((zero, k) => (
              <circle
                key={k}
                cx={at(zero).x}
                cy={at(zero).y}
                r="4.5"
                className="fill-none stroke-petrol"
                strokeWidth="1.6"
              />
            ))}
            {hidden.map((mode, k) => (
              <HiddenMode key={k} {...at(mode)} unstable={mode.re >= 0} />
            ))}
            {poles.map((pole, k) => (
              <Cross key={k} {...at(pole)} className={pole.re < 0 ? 'stroke-petrol' : 'stroke-brick'} />
            ))}
          </svg>
        )}
      </div>
      {listed && (
        <p className="mt-1 text-note text-slate">
          {formatPoints(poles)}
          <HiddenModes modes={hidden} lead="; " />
        </p>
      )}
    </PlotFrame>
  );
}

/** A round reach that shows every pole with some air. */
export function reachOf(poles: readonly Pole[]): number {
  const farthest = Math.max(0, ...poles.map((pole) => pole.naturalFrequency)) || 1;
  return Number((1.1 * farthest).toPrecision(1)) < farthest
    ? Number((1.6 * farthest).toPrecision(1))
    : Number((1.1 * farthest).toPrecision(1));
}

/** A mode that cancels: a cross in a dashed ring. */
export function HiddenMode({ x, y, unstable }: { x: number; y: number; unstable: boolean }) {
  const colour = unstable ? 'stroke-brick' : 'stroke-slate';
  return (
    <g data-hidden-mode>
      <Cross x={x} y={y} className={colour} />
      <circle cx={x} cy={y} r="7.5" className={`fill-none ${colour}`} strokeDasharray="2.5 2" />
    </g>
  );
}

function Cross({ x, y, className }: { x: number; y: number; className: string }) {
  return <path d={`M${x - 4} ${y - 4}l8 8m0 -8l-8 8`} className={className} strokeWidth="1.8" />;
}
