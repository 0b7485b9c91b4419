import { type AnswerKind, defaults } from '../kind.js';
import { checking, expectedTrends } from './check.js';
import { type Trend, trends } from './trends.js';

export const trend: AnswerKind<'trend'> = {
  ...defaults,
  ...checking,
  toText: ({ cells }) => Object.values(cells).join(', '),
  seen: ({ kind, changes, rows }) => ({
    kind,
    changes: changes.map(({ id, label }) => ({ id, label })),
    rows: rows.map(({ id, label }) => ({ id, label })),
  }),
  right: (part, model) => ({ kind: part.kind, cells: Object.fromEntries(expectedTrends(part, model)) }),
  wrong(part, model) {
    const expected = expectedTrends(part, model);
    const opposite: Record<Trend, Trend> = { up: 'down', down: 'up', same: 'up' };
    const all = (of: (way: Trend) => Trend) => ({
      kind: part.kind,
      cells: Object.fromEntries([...expected].map(([cell, way]) => [cell, of(way)])),
    });
    return [
      { id: 'reversed', words: 'Every direction turned round.', answer: all((way) => opposite[way]) },
      ...trends.map((way) => ({ id: `all-${way}`, words: `Everything “${way}”.`, answer: all(() => way) })),
    ];
  },
  trials: (part, model) => [{ field: 'rows', run: () => void expectedTrends(part, model) }],
  ids: ({ rows, changes }) => [...rows.map(({ id }) => id), ...changes.map(({ id }) => `change ${id}`)],
};
