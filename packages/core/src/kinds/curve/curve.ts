import { axesOf, guarded, judged } from '../../checking/trial.js';
import { settingsText } from '../../checking/words.js';
import { sampled } from '../../exercise/figure.js';
import { type AnswerKind, defaults } from '../kind.js';
import { checking, curveMotion, curveVerdict, misfitPercent, refuseTakenNames } from './check.js';
import { knownNames, targetOf } from './target.js';

export const curve: AnswerKind<'curve'> = {
  ...defaults,
  ...checking,
  toText: ({ knobs }) => settingsText(knobs),
  seen(part, { series }, _values, scope) {
    const { kind, model, knobs, input, output, horizon, misfitPercent: allowed } = part;
    return {
      ...{ kind, model, knobs, known: knownNames(part, scope) },
      ...(input ? { input } : {}),
      ...{ target: targetOf(part, scope, series), output, horizon, misfitPercent: allowed },
    };
  },
  hasSolution: false,
  right: () => null,
  trials(part, model) {
    const settings = Object.fromEntries(part.knobs.map(({ symbol, start }) => [symbol, String(start)]));
    return [
      { field: 'knobs', run: () => refuseTakenNames(part, model.scope) },
      { field: 'target', run: () => void targetOf(part, model.scope, model.series) },
      { field: 'model', run: () => void curveMotion(part, model.scope, settings, model.series).at(part.horizon) },
    ];
  },
  settings: ({ knobs }) => knobs.map(({ symbol }) => symbol),
  inputs: ({ input }) => [input],
  formulas: ({ model }) => [{ field: 'model', text: model }],
  search: {
    way: 'halving',
    axes: ({ knobs }) => axesOf(knobs.map(({ symbol, ...ladder }) => ({ ...ladder, name: symbol }))),
    nails: ({ id }) => [id],
    trying(part, model) {
      const target = targetOf(part, model.scope, model.series);
      return guarded(1, (settings) => {
        const misfit = misfitPercent(curveMotion(part, model.scope, settings, model.series), target, part.horizon);
        return { settings, ...judged(curveVerdict(part, misfit).items), stable: true, deceived: false };
      });
    },
    curve: (part, model, settings) =>
      sampled('model', curveMotion(part, model.scope, settings, model.series), part.horizon),
  },
};
