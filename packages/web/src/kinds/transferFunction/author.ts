import type { AuthorKind } from '../kind';
import { TransferFunctionEditor } from './TransferFunctionEditor';

export const transferFunction: AuthorKind<'transferFunction'> = {
  name: 'transfer function',
  id: 'model',
  Editor: TransferFunctionEditor,
  fresh: ({ system }) => ({
    title: 'Write it down',
    prompt: 'The transfer function.',
    points: 2,
    expected: system,
    tolerancePercent: 1,
  }),
  hasFigure: true,
  aboutDiagram: false,
};
