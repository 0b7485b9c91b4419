import type { AuthorKind } from '../kind';
import { BodeEditor } from './BodeEditor';

export const bode: AuthorKind<'bode'> = {
  name: 'Bode match',
  id: 'bode',
  Editor: BodeEditor,
  fresh: () => ({
    title: 'Build it up',
    prompt: 'Build a model that follows the curve: where does its slope change, and how far up does it lie?',
    points: 3,
    target: { system: '3.2*(1 + s/0.7)/((1 + s/0.15)*(1 + s/9))', from: 0.02, to: 100 },
    terms: ['origin', 'poles', 'zeros', 'polePairs', 'zeroPairs'],
    misfitDb: 0.5,
    misfitDegrees: 5,
  }),
  hasFigure: false,
  aboutDiagram: false,
};
