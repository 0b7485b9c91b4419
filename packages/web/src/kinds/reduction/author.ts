import type { AuthorKind } from '../kind';
import { ReductionEditor } from './ReductionEditor';

export const reduction: AuthorKind<'reduction'> = {
  name: 'diagram, reduced in steps',
  id: 'reduce',
  Editor: ReductionEditor,
  fresh: ({ diagram }) => ({
    title: 'Reduce it',
    prompt: 'Reduce the diagram to one block, step by step.',
    system: diagram.name,
    from: diagram.from,
    to: diagram.to,
    typed: 'atOnce',
    points: 4,
  }),
  hasFigure: false,
  aboutDiagram: true,
};
