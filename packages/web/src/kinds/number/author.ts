import type { AuthorKind } from '../kind';
import { NumberEditor } from './NumberEditor';

export const number: AuthorKind<'number'> = {
  name: 'number',
  id: 'number',
  Editor: NumberEditor,
  fresh: ({ system }) => ({
    title: 'Work it out',
    prompt: 'What will the step response show?',
    points: 2,
    formula: `overshootPercent(closed(${system}))`,
    unit: '%',
    tolerancePercent: 3,
  }),
  hasFigure: true,
  aboutDiagram: false,
};
