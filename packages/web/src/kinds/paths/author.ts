import type { AuthorKind } from '../kind';
import { PathsEditor } from './PathsEditor';

export const paths: AuthorKind<'paths'> = {
  name: 'diagram, loops or paths',
  id: 'loops',
  Editor: PathsEditor,
  fresh: ({ diagram }) => ({
    title: 'Find the loops',
    prompt: 'List the gain of every loop.',
    system: diagram.name,
    from: diagram.from,
    to: diagram.to,
    list: 'loops',
    points: 2,
  }),
  hasFigure: false,
  aboutDiagram: true,
};
