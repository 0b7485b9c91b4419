import type { AuthorKind } from '../kind';
import { RangeEditor } from './RangeEditor';

export const range: AuthorKind<'range'> = {
  name: 'range of stable gains',
  id: 'range',
  Editor: RangeEditor,
  fresh: ({ system }) => ({
    title: 'Stable gains',
    prompt: `With which $K > 0$ is the loop $K L(s)$ stable, where $L(s) = {{${system}}}$?`,
    points: 2,
    of: system,
    tolerancePercent: 2,
  }),
  hasFigure: true,
  aboutDiagram: false,
};
