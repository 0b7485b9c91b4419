import { type ClassSheet, formatMark, formatNumber } from '@nailset/core';
import { Bar, BarChart, LabelList, XAxis, YAxis } from 'recharts';
import { PlotFrame } from '../plot/PlotFrame';
import { useSize } from '../plot/useSize';
import { pointsByTenth } from './summary';

/** How the points are spread over the class. */
export default function PointsChart({ sheet }: { sheet: ClassSheet }) {
  const [place, { width }] = useSize<HTMLDivElement>();
  const data = pointsByTenth(sheet).map(({ from, to, students }) => ({
    points: from === 0 ? `to ${formatNumber(to)}` : formatNumber(to),
    students,
  }));
  const told = data.map(({ points, students }) => `${points} points: ${students}`).join('; ');
  return (
    <PlotFrame
      title={`Points, students by tenth of ${formatMark(sheet.outOf)}`}
      table={() => ({ heads: ['points', 'students'], rows: data.map(({ points, students }) => [points, students]) })}
      className="h-[150px]"
    >
      <div ref={place} className="h-[150px]" role="img" aria-label={`Points of the class. ${told}`}>
        {width > 0 && (
          <BarChart
            width={width}
            height={150}
            data={data}
            accessibilityLayer={false}
            margin={{ top: 16, right: 4, bottom: 0, left: 4 }}
          >
            <XAxis
              dataKey="points"
              interval={0}
              tickLine={false}
              stroke="var(--color-ink)"
              tick={{ fontSize: 11, fill: 'var(--color-slate)' }}
            />
            <YAxis hide domain={[0, 'dataMax']} />
            <Bar dataKey="students" fill="var(--color-moss-soft)" isAnimationActive={false} maxBarSize={40}>
              <LabelList
                dataKey="students"
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
