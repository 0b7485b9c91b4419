import { equationsOf } from '../../exercise/systems.js';
import { type AnswerKind, defaults, withoutFigure } from '../kind.js';
import { checking, expectedPaths } from './check.js';
import { slipOfPaths, wrongPaths } from './slips.js';

export const paths: AnswerKind<'paths'> = {
  ...defaults,
  ...checking,
  toText: ({ text }) => text,
  seen: (part, document) => ({ ...withoutFigure(part), equations: equationsOf(document, part.system).text }),
  right: (part, model) => ({ kind: part.kind, text: expectedPaths(part, model).join(', ') || 'none' }),
  wrong: wrongPaths,
  slip: (part, model, { text }) => slipOfPaths(part, model, text),
  diagrams: ({ equations, from, to }) => [{ equations, from, outputs: [to] }],
  trials: (part, model) => [{ field: 'system', run: () => void expectedPaths(part, model) }],
};
