import type { AuthorKind } from '../kind';
import { pointsAsked } from './pointsAsked';
import { PointsEditor } from './PointsEditor';

export const points: AuthorKind<'points'> = {
  name: 'points of the s-plane',
  id: 'points',
  Editor: PointsEditor,
  fresh: ({ system }) => ({
    ...pointsAsked('poles', system),
    points: 2,
    of: system,
    what: 'poles',
    tolerancePercent: 5,
  }),
  hasFigure: true,
  aboutDiagram: false,
};
