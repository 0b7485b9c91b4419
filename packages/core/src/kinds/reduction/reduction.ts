import { reduction as reductionOf } from '../../diagram/reduction.js';
import { equationsOf } from '../../exercise/systems.js';
import { type AnswerKind, defaults, withoutFigure } from '../kind.js';
import { checking, startOfReduction } from './check.js';

export const reduction: AnswerKind<'reduction'> = {
  ...defaults,
  ...checking,
  toText: ({ steps }) =>
    steps.map(({ kind, of, gain }) => [kind, ...of, ...(gain === undefined ? [] : ['=', gain])].join(' ')).join('; '),
  seen: (part, document) => ({ ...withoutFigure(part), equations: equationsOf(document, part.system).text }),
  right(part, model) {
    const steps = reductionOf(startOfReduction(part, model), part);
    const typed = part.typed !== 'no';
    return {
      kind: part.kind,
      steps: steps.map(({ kind, of, gain }) => ({
        ...{ kind, of: [...of] },
        ...(typed && gain !== undefined ? { gain } : {}),
      })),
    };
  },
  trials: (part, model) => [{ field: 'system', run: () => void reductionOf(startOfReduction(part, model), part) }],
};
