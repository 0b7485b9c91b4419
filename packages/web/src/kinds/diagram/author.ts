import type { AuthorKind } from '../kind';
import { DiagramEditor } from './DiagramEditor';

export const diagram: AuthorKind<'diagram'> = {
  name: 'diagram, transfer functions',
  id: 'overall',
  Editor: DiagramEditor,
  fresh: ({ diagram }) => ({
    title: 'Transfer function',
    prompt: 'Work out the transfer function of the diagram.',
    system: diagram.name,
    asked: [{ id: 'overall', from: diagram.from, to: diagram.to, points: 3 }],
    tolerancePercent: 0,
  }),
  hasFigure: false,
  aboutDiagram: true,
};
