import type { AuthorKind } from '../kind';
import { GainsEditor } from './GainsEditor';
import { newController } from './newController';

export const gains: AuthorKind<'gains'> = {
  name: 'gains',
  id: 'tune',
  Editor: GainsEditor,
  fresh: ({ system }) => ({
    title: 'Tune',
    prompt: 'Nudge the gains until every nail holds.',
    plant: system,
    controller: newController('PD', 'parallel'),
    output: 'Position',
    horizon: 5,
    views: ['plane'],
    nails: [
      { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 },
      { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.5, points: 2 },
    ],
  }),
  hasFigure: false,
  aboutDiagram: false,
  summary: ({ controller }) => `gains, ${controller.terms}`,
};
