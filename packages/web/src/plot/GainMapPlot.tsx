import { formatNumber, type Settings } from '@nailset/core';
import { type Search } from '@nailset/core/checks';
import { PlotFrame } from './PlotFrame';

const size = { width: 250, height: 190, left: 40, bottom: 30, top: 6, right: 8 };

const inner = { width: size.width - size.left - size.right, height: size.height - size.top - size.bottom };

/** Someone's gains on the map. */
export interface MapPoint {
  readonly id: string;
  readonly name: string;
  readonly settings: Settings;
  readonly met: boolean;
}

/**
 * Where on the plane of two gains how many nails hold; a cross where they were found to hold. With `points` the answers
 * of a class lie on it, solid where all nails hold for their own numbers; those beyond its edges stand on the edge.
 */
export function GainMapPlot({
  map,
  nails,
  points = [],
  chosen,
  onPick,
}: {
  map: Search['map'];
  nails: number;
  points?: readonly MapPoint[];
  chosen?: string | undefined;
  onPick?: (id: string) => void;
}) {
  const { axes, columns, rows, held, at, share } = map;
  const [first, second] = axes;
  const cell = { width: inner.width / columns.length, height: inner.height / rows.length };
  const x = (value: number) => size.left + cell.width * cellAt(columns, value);
  const y = (value: number) =>
    second ? size.top + inner.height - cell.height * cellAt(rows, value) : size.top + inner.height / 2;
  const [px, py] = [x(Number(at[first!.name])), y(Number(second ? at[second.name] : 0))];
  const all = held.some((count) => count === nails) && points.length === 0;
  const placeOf = ({ settings }: MapPoint): [px: number, py: number] => [
    x(Number(settings[first!.name])),
    y(second ? Number(settings[second.name]) : 0),
  ];
  const words = `Gain map over ${axes
    .slice(0, 2)
    .map(({ name }) => name)
    .join(' and ')}: all ${nails} nails hold on ${shareWords(share)} of the ladders’ range.`;
  return (
    <PlotFrame
      title="Gain map"
      className="h-[220px]"
      table={() => ({
        heads: [...axes.slice(0, 2).map(({ name }) => name), 'nails held'],
        rows: rows.flatMap((row, r) =>
          columns.map((column, c) => {
            const count = held[r * columns.length + c]!;
            return [column, ...(second ? [row] : []), count < 0 ? 'unstable' : count];
          }),
        ),
      })}
    >
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        className="w-full max-w-[340px] text-[10px]"
        role="img"
        aria-label={words}
      >
        <Cells map={map} nails={nails} />
        <rect x={size.left} y={size.top} width={inner.width} height={inner.height} className="fill-none stroke-rule" />
        {all && <path d={`M${px - 5} ${py}h10M${px} ${py - 5}v10`} className="stroke-white" strokeWidth="1.6" />}
        {points.map((point) => {
          const [cx, cy] = placeOf(point);
          // Someone who left one of the two out has no place here.
          return (
            Number.isFinite(cx + cy) && (
              <circle
                key={point.id}
                data-answer={point.name}
                cx={cx}
                cy={cy}
                r={point.id === chosen ? 4 : 2.6}
                strokeWidth="1.1"
                className={`cursor-pointer ${point.id === chosen ? 'stroke-ink' : 'stroke-sheet'} ${point.met ? 'fill-ink' : 'fill-brick'}`}
                onClick={() => onPick?.(point.id)}
              >
                <title>{point.name}</title>
              </circle>
            )
          );
        })}
        <AxisWords {...{ axes, x, y }} />
      </svg>
      <p className="text-note text-slate">
        Green: all hold, {shareWords(share)} of the ladders’ range. Darker: more hold.
        {held.some((count) => count < 0) && ' Red: unstable or not allowed.'}
        {points.length > 0 && ' Dots: the class, dark where all nails hold.'}
        {axes.length > 2 && ` ${axes[2]!.name} stays at ${formatNumber(Number(at[axes[2]!.name]))}.`}
      </p>
    </PlotFrame>
  );
}

/** How many nails hold in each cell. */
function Cells({ map: { columns, rows, held }, nails }: { map: Search['map']; nails: number }) {
  const cell = { width: inner.width / columns.length, height: inner.height / rows.length };
  return rows.map((_, r) =>
    columns.map((__, c) => {
      const count = held[r * columns.length + c]!;
      return (
        <rect
          key={`${r} ${c}`}
          x={size.left + c * cell.width}
          y={size.top + (rows.length - 1 - r) * cell.height}
          width={cell.width}
          height={cell.height}
          shapeRendering="crispEdges"
          className={count < 0 ? 'fill-brick-soft/50' : count === nails ? 'fill-moss' : 'fill-petrol'}
          fillOpacity={count < 0 || count === nails ? 1 : 0.05 + (0.28 * count) / nails}
        />
      );
    }),
  );
}

/** The two gains with their ends. */
function AxisWords({
  axes: [first, second],
  x,
  y,
}: {
  axes: Search['map']['axes'];
  x: (value: number) => number;
  y: (value: number) => number;
}) {
  return (
    <>
      {[first!.low, first!.high].map((value, k) => (
        <text
          key={value}
          x={x(value)}
          y={size.height - 17}
          textAnchor={k === 0 ? 'start' : 'end'}
          className="fill-slate"
        >
          {formatNumber(value)}
        </text>
      ))}
      <text x={size.left + inner.width / 2} y={size.height - 5} textAnchor="middle" className="fill-ink">
        {first!.name}
      </text>
      {second && (
        <>
          {[second.low, second.high].map((value, k) => (
            <text
              key={value}
              x={size.left - 4}
              y={y(value) + (k === 0 ? 0 : 8)}
              textAnchor="end"
              className="fill-slate"
            >
              {formatNumber(value)}
            </text>
          ))}
          <text x={12} y={size.top + inner.height / 2} textAnchor="middle" className="fill-ink">
            {second.name}
          </text>
        </>
      )}
    </>
  );
}

const shareWords = (share: number): string =>
  share > 0 && share < 0.001 ? 'less than 0.1 %' : `${formatNumber(100 * share)} %`;

/** Where a value lies among the middles of cells, counted in cells from the edge of the first. */
function cellAt(values: readonly number[], value: number): number {
  const above = values.findIndex((each, k) => k > 0 && each >= value);
  const k = above < 0 ? values.length - 1 : above;
  const [low, high] = [values[k - 1] ?? value - 1, values[k]!];
  const place = k - 0.5 + (value - low) / (high - low || 1);
  return Math.min(values.length, Math.max(0, place));
}
