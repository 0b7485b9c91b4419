import { formatNumber, type ShownPlot } from '@nailset/core';
import { type ScaleContinuousNumeric, scaleLinear, scaleLog } from 'd3-scale';
import { useId } from 'react';
import { tenths } from './frame';
import { PlotFrame } from './PlotFrame';
import { plotWords } from './plotWords';

type Pair = readonly [low: number, high: number];

/** What a kind of plot shows, for all plots that are compared. */
export interface OptionFrame {
  readonly x: Pair;
  /** Output, imaginary part or decibels; then degrees. */
  readonly y: readonly Pair[];
}

const size = { width: 300, height: 190, left: 40, right: 10, top: 8, bottom: 22 };
const units: Record<ShownPlot['kind'], readonly [string, ...string[]]> = {
  step: ['time, s', 'output'],
  poles: ['real part', 'imaginary part'],
  locus: ['real part', 'imaginary part'],
  bode: ['ω, rad/s', 'magnitude, dB', 'phase, °'],
  nyquist: ['real part', 'imaginary part'],
};
const isPlane = (kind: ShownPlot['kind']): boolean => kind === 'poles' || kind === 'locus' || kind === 'nyquist';

/** A frame in which every plot of one kind fits; planes have one scale on both axes. */
export function optionFrame(plots: readonly ShownPlot[]): OptionFrame {
  const { kind } = plots[0]!;
  const spread = (values: readonly number[], ...row: number[]): Pair => {
    const [low, high] = [Math.min(...values, ...row), Math.max(...values, ...row)];
    const air = 0.06 * (high - low || 1);
    return [low - air, high + air];
  };
  if (kind === 'bode') {
    const along = (k: number): number[] => plots.flatMap(({ lines }) => lines[k]!.y);
    const omegas = plots.flatMap(({ lines }) => lines[0]!.x);
    return {
      x: [Math.min(...omegas), Math.max(...omegas)],
      y: [
        spread(
          along(0).map((db) => Math.max(-100, Math.min(100, db))),
          0,
        ),
        spread(along(1), 0),
      ],
    };
  }
  const of = (axis: 'x' | 'y'): number[] =>
    plots.flatMap(({ lines, marks }) => [...lines.flatMap((line) => line[axis]), ...marks.map((mark) => mark[axis])]);
  if (!isPlane(kind)) return { x: [0, Math.max(...of('x'))], y: [spread(of('y'), 0, 1)] };
  // Far ends of branches and of curves through infinity leave the frame.
  const marks = plots.flatMap((plot) => plot.marks.map(({ x, y }) => Math.hypot(x, y)));
  const reach =
    kind === 'nyquist'
      ? Math.min(3, Math.max(1.4, ...of('x').map(Math.abs), ...of('y').map(Math.abs)))
      : 1.35 * Math.max(1, ...marks);
  const wide = (size.width - size.left - size.right) / (size.height - size.top - size.bottom);
  const middle = kind === 'nyquist' ? 0 : -0.4 * reach;
  return { x: [middle - reach * wide, middle + reach * wide], y: [[-reach, reach]] };
}

const kindNames: Record<ShownPlot['kind'], string> = {
  step: 'Step response',
  poles: 'Poles and zeros',
  locus: 'Root locus',
  bode: 'Bode',
  nyquist: 'Nyquist',
};

/** What the plot of the k-th option is called. */
export const optionTitle = ({ kind }: ShownPlot, k: number): string =>
  `${kindNames[kind]} ${String.fromCharCode(65 + k)}`;

/** A small plot that is one of several to choose from. */
export function OptionPlot({ title, plot, frame }: { title: string; plot: ShownPlot; frame: OptionFrame }) {
  const clip = useId();
  const { width, height, left, right, top, bottom } = size;
  const { kind, lines, marks } = plot;
  const [across, ...up] = units[kind];
  const x: ScaleContinuousNumeric<number, number> = (kind === 'bode' ? scaleLog() : scaleLinear())
    .domain(frame.x)
    .range([left, width - right]);
  const each = (height - top - bottom) / frame.y.length;
  const scales = frame.y.map((domain, k) =>
    scaleLinear()
      .domain(domain)
      .range([top + (k + 1) * each - (k + 1 < frame.y.length ? 8 : 0), top + k * each]),
  );
  const path = (line: ShownPlot['lines'][number], y: (value: number) => number, mirrored = 1): string =>
    line.x.map((value, k) => `${k ? 'L' : 'M'}${tenths(x(value))} ${tenths(y(mirrored * line.y[k]!))}`).join('');
  const [first] = scales;
  const stroke = 'fill-none stroke-petrol';
  return (
    <PlotFrame
      title={title}
      className="h-[190px]"
      table={() => ({
        heads: ['', across, up.join(' or ')],
        rows: [
          ...marks.map((mark) => [mark.what, mark.x, mark.y]),
          ...lines.flatMap((line, at) =>
            line.x.map((value, k): (string | number)[] => [
              kind === 'bode' ? up[at]! : lines.length > 1 ? `branch ${at + 1}` : '',
              value,
              line.y[k]!,
            ]),
          ),
        ],
      })}
    >
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="w-full bg-sheet text-[10px]"
        role="img"
        aria-label={`${title}: ${up.join(' and ')} over ${across}. ${plotWords(plot)}`}
      >
        <defs>
          <clipPath id={clip}>
            <rect x={left} y={top} width={width - left - right} height={height - top - bottom} />
          </clipPath>
        </defs>
        {scales.map((y, k) => (
          <g key={k}>
            {y.ticks(kind === 'bode' ? 3 : 4).map((value) => (
              <g key={value}>
                <line
                  x1={left}
                  x2={width - right}
                  y1={y(value)}
                  y2={y(value)}
                  className={value === 0 ? 'stroke-ink' : 'stroke-grid'}
                />
                <text x={left - 5} y={y(value) + 3} textAnchor="end" className="fill-slate">
                  {formatNumber(value)}
                  {kind === 'bode' ? (k === 0 ? ' dB' : '°') : isPlane(kind) && value !== 0 ? 'j' : ''}
                </text>
              </g>
            ))}
          </g>
        ))}
        {(kind === 'bode' ? x.ticks().filter((value) => Number.isInteger(Math.log10(value))) : x.ticks(5)).map(
          (value) => (
            <g key={value}>
              <line
                x1={x(value)}
                x2={x(value)}
                y1={top}
                y2={height - bottom}
                className={value === 0 ? 'stroke-ink' : 'stroke-grid'}
              />
              <text x={x(value)} y={height - 8} textAnchor="middle" className="fill-slate">
                {formatNumber(value)}
              </text>
            </g>
          ),
        )}
        {!isPlane(kind) && (
          <text x={width - 2} y={height - 8} textAnchor="end" className="fill-slate">
            {kind === 'step' ? 's' : 'rad/s'}
          </text>
        )}
        <g clipPath={`url(#${clip})`} strokeWidth="1.8">
          {lines.map((line, k) => (
            <path key={k} d={path(line, scales[kind === 'bode' ? k : 0]!)} className={stroke} data-line={k} />
          ))}
          {kind === 'nyquist' && <path d={path(lines[0]!, first!, -1)} className={stroke} strokeDasharray="4 3" />}
          {kind === 'nyquist' && (
            <path d={`M${x(-1) - 4} ${first!(0)}h8M${x(-1)} ${first!(0) - 4}v8`} className="stroke-brick" />
          )}
          {marks.map((mark, k) =>
            mark.what === 'pole' ? (
              <path
                key={k}
                d={`M${x(mark.x) - 4} ${first!(mark.y) - 4}l8 8m0 -8l-8 8`}
                className="fill-none stroke-ink"
              />
            ) : (
              <circle key={k} cx={x(mark.x)} cy={first!(mark.y)} r="4" className="fill-sheet stroke-ink" />
            ),
          )}
        </g>
      </svg>
    </PlotFrame>
  );
}
