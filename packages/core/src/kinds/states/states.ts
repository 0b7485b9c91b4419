import { type AnswerKind, defaults } from '../kind.js';
import { checking, rightStates, statesToText } from './check.js';
import { slipOfStates, wrongStates } from './slips.js';

export const states: AnswerKind<'states'> = {
  ...defaults,
  ...checking,
  toText: statesToText,
  seen: ({ kind, tolerancePercent }) => ({ kind, tolerancePercent }),
  right: rightStates,
  wrong: wrongStates,
  slip: (_part, _model, answer, check) => slipOfStates(answer, check),
  trials: (part, model) => [{ field: 'expected', run: () => void rightStates(part, model) }],
};
