import { formatMark } from '@nailset/core';
import { Bar, BarChart, CartesianGrid, LabelList, XAxis, YAxis } from 'recharts';
import { PlotFrame } from './PlotFrame';
import { useSize } from './useSize';

const tick = { fontSize: 11, fill: 'var(--color-slate)' };
const short = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

/** A bar for each entry, upright, with its number on top; the same in words and as a table. */
export default function Bars({
  title,
  heads,
  data,
  height,
  most,
}: {
  title: string;
  heads: readonly [string, string];
  data: readonly { name: string; value: number }[];
  /** In px. */
  height: 150 | 200;
  /** Where the scale ends, if not at the highest bar. */
  most?: number;
}) {
  const [place, { width }] = useSize<HTMLDivElement>();
  const told = data.map(({ name, value }) => `${name}: ${formatMark(value)}`).join('; ');
  const letters = Math.max(4, Math.floor(width / (data.length || 1) / 6.5));
  const frame = height === 150 ? 'h-[150px]' : 'h-[200px]';
  return (
    <PlotFrame
      title={title}
      table={() => ({ heads, rows: data.map(({ name, value }) => [name, value]) })}
      className={frame}
    >
      <div ref={place} className={frame} role="img" aria-label={`${title}. ${told}`}>
        {width > 0 && (
          <BarChart
            width={width}
            height={height}
            data={[...data]}
            accessibilityLayer={false}
            margin={{ top: 16, right: 4, bottom: 0, left: 4 }}
          >
            <CartesianGrid vertical={false} stroke="var(--color-grid)" />
            <XAxis
              dataKey="name"
              interval={data.length > 16 ? 'preserveStartEnd' : 0}
              tickLine={false}
              stroke="var(--color-ink)"
              tick={tick}
              tickFormatter={(text: string) => short(text, letters)}
            />
            <YAxis hide domain={[0, most ?? 'dataMax']} />
            <Bar dataKey="value" fill="var(--color-moss-soft)" isAnimationActive={false} maxBarSize={40}>
              <LabelList
                dataKey="value"
                position="top"
                formatter={(value) => (value === 0 ? '' : value)}
                style={{ fontSize: 11, fill: 'var(--color-ink)' }}
              />
            </Bar>
          </BarChart>
        )}
      </div>
    </PlotFrame>
  );
}
