import { type ClassSheet, formatMark, formatNumber } from '@nailset/core';
import { lazy } from 'react';
import { pointsByTenth } from './summary';

const Bars = lazy(() => import('../plot/Bars'));

/** How the points are spread over the class. */
export function PointsChart({ sheet }: { sheet: ClassSheet }) {
  const data = pointsByTenth(sheet).map(({ from, to, students }) => ({
    name: from === 0 ? `to ${formatNumber(to)}` : formatNumber(to),
    value: students,
  }));
  return (
    <Bars
      title={`Points, students by tenth of ${formatMark(sheet.outOf)}`}
      heads={['points', 'students']}
      data={data}
      height={150}
    />
  );
}
