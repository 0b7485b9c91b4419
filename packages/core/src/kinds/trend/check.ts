import type { Model } from '../../checking/model.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { formatNumber } from '../../checking/words.js';
import { decimalText } from '../../exercise/draw.js';
import { scopeOf } from '../../exercise/scope.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { numberFrom, type Scope } from '../../formula/evaluate.js';
import { multiplyRational, rationalFromDecimal, rationalFromNumber } from '../../rational/number.js';
import type { Checking } from '../kind.js';
import type { TrendPart } from './part.js';
import { type Trend, trends } from './trends.js';

/** A cell of the table by row and change. */
export const cellOf = (row: string, change: string): string => `${row}/${change}`;

/** One cell: what a row was, and is once a parameter is multiplied. */
export interface TrendValues {
  readonly before: number;
  readonly after: number;
  readonly trend: Trend;
}

/** What each row does when a parameter is multiplied, by cell, in figures. @throws Problem when a row cannot be worked out. */
export function trendValues(part: TrendPart, model: Model): Map<string, TrendValues> {
  const base = valuesOf(part, model.scope);
  const values = new Map<string, TrendValues>();
  for (const { id, symbol, factor } of part.changes) {
    const fixed = model.values[symbol];
    if (fixed === undefined) throw new Problem('exercise', `${symbol} is no parameter of this exercise.`);
    const raised = decimalText(multiplyRational(rationalFromDecimal(fixed), rationalFromNumber(factor)));
    const changed = valuesOf(part, scopeOf(model, { ...model.values, [symbol]: raised }));
    part.rows.forEach((row, k) => {
      const [before, after] = [must(base[k]), must(changed[k])];
      const least = (part.samePercent / 100) * Math.max(Math.abs(before), Math.abs(after)) + 1e-9;
      const trend = after - before > least ? 'up' : after - before < -least ? 'down' : 'same';
      values.set(cellOf(row.id, id), { before, after, trend });
    });
  }
  return values;
}

/** What each row does, by cell. @throws Problem as `trendValues`. */
export const expectedTrends = (part: TrendPart, model: Model): Map<string, Trend> =>
  new Map([...trendValues(part, model)].map(([cell, { trend }]) => [cell, trend]));

const valuesOf = ({ rows }: TrendPart, scope: Scope): number[] => rows.map(({ formula }) => numberFrom(formula, scope));

const words: Record<Trend, string> = { up: 'goes up', same: 'stays', down: 'goes down' };

export const checking: Checking<'trend'> = {
  fromText(part, text) {
    const cells: Record<string, Trend> = {};
    const pieces = text.split(/[,;\s]+/).filter(Boolean);
    const all = part.changes.flatMap(({ id }) => part.rows.map((row) => cellOf(row.id, id)));
    pieces.forEach((piece, k) => {
      const way = trends.find((name) => name === piece.toLowerCase());
      if (!way || k >= all.length) throw new Problem('exercise', `“${piece}” is not one of ${trends.join(', ')}.`);
      cells[must(all[k])] = way;
    });
    return { kind: 'trend', cells };
  },
  read(part, _model, { cells }) {
    const open = part.changes.flatMap(({ id }) => part.rows.filter((row) => !cells[cellOf(row.id, id)]));
    if (open.length > 0) {
      throw new Problem(
        'empty',
        open.length === 1 ? 'One cell is still open.' : `${open.length} cells are still open.`,
      );
    }
  },
  check(part, model, { cells }) {
    const expected = trendValues(part, model);
    const share = part.points / expected.size;
    const items = part.changes.flatMap((change) =>
      part.rows.map((row) => {
        const id = cellOf(row.id, change.id);
        const { before, after, trend } = must(expected.get(id));
        const met = cells[id] === trend;
        const label = `${row.label}, ${change.label}`;
        return {
          ...{ id, label, unit: '', measured: null, limit: null, relation: 'equal' as const },
          ...{ met, close: false, points: met ? share : 0, outOf: share },
          words: met
            ? `${label}: right, ${formatNumber(before)} → ${formatNumber(after)}.`
            : `${label}: it does not ${cells[id] === 'same' ? 'stay' : `go ${cells[id]}`}.`,
        };
      }),
    );
    const missed = items.filter(({ met }) => !met).length;
    const said = missed === 0 ? 'Every cell is right.' : `${items.length - missed} of ${items.length} cells are right.`;
    return verdictOf(items, said, {}, part.marking === 'allOrNothing');
  },
  solution(part, model) {
    const expected = expectedTrends(part, model);
    return part.changes
      .map((change) => {
        const rows = part.rows.map((row) => `${row.label} ${words[must(expected.get(cellOf(row.id, change.id)))]}`);
        return `${change.label}: ${rows.join(', ')}`;
      })
      .join('. ');
  },
};
