import type { AuthorKind } from '../kind';
import { TrendEditor } from './TrendEditor';

export const trend: AuthorKind<'trend'> = {
  name: 'trend table',
  id: 'table',
  Editor: TrendEditor,
  fresh: ({ system, parameter }) => ({
    title: 'Up, down or the same?',
    prompt: 'What happens when the parameter goes up?',
    points: 2,
    changes: [{ id: 'up', label: `${parameter} up`, symbol: parameter, factor: 1.5 }],
    rows: [
      { id: 'rise', label: 'Rise time', formula: `riseTime(closed(${system}))` },
      { id: 'overshoot', label: 'Overshoot', formula: `overshootPercent(closed(${system}))` },
    ],
    samePercent: 1,
  }),
  hasFigure: true,
  aboutDiagram: false,
};
