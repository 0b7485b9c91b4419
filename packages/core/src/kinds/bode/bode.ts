import { settingsText } from '../../checking/words.js';
import { must } from '../../expression/must.js';
import { type AnswerKind, defaults, withoutFigure } from '../kind.js';
import { checking, settingsOfTerms, suggestedTerms } from './check.js';
import { slipOfBode, wrongTerms } from './slips.js';
import { frequencyTarget } from './target.js';

export const bode: AnswerKind<'bode'> = {
  ...defaults,
  ...checking,
  toText: ({ terms }) => settingsText(terms),
  seen: (part, _document, _values, scope) => ({ ...withoutFigure(part), target: frequencyTarget(part, scope) }),
  hasSolution: false,
  right(part, model) {
    const terms = suggestedTerms(part, model);
    return terms && { kind: part.kind, terms };
  },
  wrong(part, model, right) {
    const terms = right ?? suggestedTerms(part, model);
    return terms ? wrongTerms(terms) : [];
  },
  slip: (_part, _model, { terms }, check) => slipOfBode(terms, check),
  trials: (part, model) => [{ field: 'target', run: () => void frequencyTarget(part, model.scope) }],
  settings: settingsOfTerms,
  suggested: suggestedTerms,
  warnings: (part, models) =>
    suggestedTerms(part, must(models[0]))
      ? []
      : ['No model of these terms was found that follows the curve: allow more terms, or a larger misfit.'],
};
