import { formatNumber } from '@nailset/core';
import { type Search } from '@nailset/core/checks';
import { PlotFrame } from '../../plot/PlotFrame';

const size = { width: 250, height: 190, left: 40, bottom: 30, top: 6, right: 8 };

/** Where on the plane of two gains how many nails hold; a cross where they were found to hold. */
export function GainMapPlot({ map, nails }: { map: Search['map']; nails: number }) {
  const { axes, columns, rows, held, at, share } = map;
  const [first, second] = axes;
  const inner = { width: size.width - size.left - size.right, height: size.height - size.top - size.bottom };
  const cell = { width: inner.width / columns.length, height: inner.height / rows.length };
  const x = (value: number) => size.left + (inner.width * (value - first!.low)) / (first!.high - first!.low || 1);
  const y = (value: number) =>
    second
      ? size.top + inner.height * (1 - (value - second.low) / (second.high - second.low || 1))
      : size.top + inner.height / 2;
  const [px, py] = [x(Number(at[first!.name])), y(Number(second ? at[second.name] : 0))];
  const all = held.some((count) => count === nails);
  const words = `Gain map over ${axes
    .slice(0, 2)
    .map(({ name }) => name)
    .join(' and ')}: all ${nails} nails hold on ${formatNumber(100 * share)} % of it.`;
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
        {rows.map((_, r) =>
          columns.map((__, c) => {
            const count = held[r * columns.length + c]!;
            return (
              <rect
                key={`${r} ${c}`}
                x={size.left + c * cell.width}
                y={size.top + (rows.length - 1 - r) * cell.height}
                width={cell.width + 0.4}
                height={cell.height + 0.4}
                className={count < 0 ? 'fill-brick-soft/50' : count === nails ? 'fill-moss' : 'fill-petrol'}
                fillOpacity={count < 0 || count === nails ? 1 : 0.05 + (0.28 * count) / nails}
              />
            );
          }),
        )}
        <rect x={size.left} y={size.top} width={inner.width} height={inner.height} className="fill-none stroke-rule" />
        {all && <path d={`M${px - 5} ${py}h10M${px} ${py - 5}v10`} className="stroke-white" strokeWidth="1.6" />}
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
      </svg>
      <p className="text-note text-slate">
        Green: all hold, {formatNumber(100 * share)} % of the plane. Darker: more hold. Red: unstable.
        {axes.length > 2 && ` ${axes[2]!.name} stays at ${at[axes[2]!.name]}.`}
      </p>
    </PlotFrame>
  );
}
