import { diagramOf } from '../../checking/diagrams.js';
import { exactQuestion, exactTransfer } from '../../diagram/exact.js';
import { sumOfShares } from '../../exercise/points.js';
import { equationsOf } from '../../exercise/systems.js';
import { must } from '../../expression/must.js';
import { type AnswerKind, defaults, withoutFigure } from '../kind.js';
import { checking } from './check.js';
import { rightTexts, slipOfDiagram, wrongDiagrams } from './slips.js';

export const diagram: AnswerKind<'diagram'> = {
  ...defaults,
  ...checking,
  toText: ({ texts }) => Object.values(texts).join('; '),
  seen: (part, document) => ({ ...withoutFigure(part), equations: equationsOf(document, part.system).text }),
  right: (part, model) => ({ kind: part.kind, texts: rightTexts(part, model) }),
  wrong: wrongDiagrams,
  slip: (part, model, { texts }) => slipOfDiagram(part, model, texts),
  trials: (part, model) =>
    part.asked.map((pair, k) => ({
      field: `asked/${k}`,
      run: () => void exactTransfer(exactQuestion(diagramOf(part, model, pair)), pair),
    })),
  points: ({ asked }) => sumOfShares(asked.map(({ points }) => points)),
  diagrams: ({ equations, asked }) => [{ equations, from: must(asked[0]).from, outputs: asked.map(({ to }) => to) }],
  ids: ({ asked }) => asked.map(({ id }) => id),
};
