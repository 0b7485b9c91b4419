import type { Model } from '../../checking/model.js';
import { must } from '../../expression/must.js';
import { line, numeral, type WorkingStep } from '../../working/step.js';
import { cellOf, trendValues } from './check.js';
import type { TrendPart } from './part.js';
import type { Trend } from './trends.js';

const words: Record<Trend, string> = { up: 'goes up', same: 'stays', down: 'goes down' };

/** Cell by cell, the figure before and after. */
export function trendWorking(part: TrendPart, model: Model): WorkingStep[] {
  const values = trendValues(part, model);
  return part.changes.flatMap((change) =>
    part.rows.map((row) => {
      const { before, after, trend } = must(values.get(cellOf(row.id, change.id)));
      return line(`${change.label}: ${row.label} ${words[trend]},`, `${numeral(before)}\\to ${numeral(after)}`);
    }),
  );
}
