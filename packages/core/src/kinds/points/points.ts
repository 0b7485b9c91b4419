import { textOf } from '../../exercise/systems.js';
import { Problem } from '../../expression/problem.js';
import { systemFrom } from '../../formula/evaluate.js';
import { type AnswerKind, defaults } from '../kind.js';
import { checking, expectedPoints, fractionOfPoints } from './check.js';
import { rightPoints, slipOfPoints, wrongPoints } from './slips.js';

export const points: AnswerKind<'points'> = {
  ...defaults,
  ...checking,
  toText: ({ text }) => text,
  seen({ kind, what, tolerancePercent, count, toleranceDegrees, offAxis, of }, _document, _values, scope) {
    const isGiven = what !== 'poles' && what !== 'zeros';
    return {
      ...{ kind, what, tolerancePercent },
      ...(count === undefined ? {} : { count }),
      ...(toleranceDegrees === undefined ? {} : { toleranceDegrees }),
      ...(offAxis ? { offAxis } : {}),
      ...(isGiven ? { loop: textOf(systemFrom(of, scope)) } : {}),
    };
  },
  right: (part, model) => ({ kind: part.kind, text: rightPoints(part, model) }),
  wrong: wrongPoints,
  slip: (part, model, { text }) => slipOfPoints(part, model, text),
  trials: (part, model) => [
    {
      field: 'of',
      run: () => {
        fractionOfPoints(part, model);
        if (part.what !== 'locus' && expectedPoints(part, model).length === 0) {
          throw new Problem('exercise', 'There are none of these points here.');
        }
      },
    },
  ],
};
