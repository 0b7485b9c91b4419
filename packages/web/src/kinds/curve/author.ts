import type { AuthorKind } from '../kind';
import { CurveEditor } from './CurveEditor';

export const curve: AuthorKind<'curve'> = {
  name: 'curve match',
  id: 'follow',
  Editor: CurveEditor,
  fresh: () => ({
    title: 'Make it follow',
    prompt: 'Set the model until it follows the given curve.',
    points: 3,
    model: 'K/(T*s + 1)',
    knobs: [
      { symbol: 'K', unit: '', start: 1, fine: 0.05, coarse: 0.5 },
      { symbol: 'T', unit: 's', start: 1, fine: 0.05, coarse: 0.5, low: 0.05 },
    ],
    target: { system: '1.5/(0.6*s + 1)' },
    output: 'Output',
    horizon: 5,
    misfitPercent: 3,
  }),
  hasFigure: false,
  aboutDiagram: false,
};
