import type { AuthorKind } from '../kind';
import { StatesEditor } from './StatesEditor';

export const states: AuthorKind<'states'> = {
  name: 'state matrices',
  id: 'states',
  Editor: StatesEditor,
  fresh: ({ system }) => ({
    title: 'State form',
    prompt: 'Write the system with state variables.',
    points: 3,
    expected: system,
    tolerancePercent: 1,
  }),
  hasFigure: true,
  aboutDiagram: false,
};
