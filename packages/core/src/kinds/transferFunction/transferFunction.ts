import { textOf } from '../../exercise/systems.js';
import { systemFrom } from '../../formula/evaluate.js';
import { type AnswerKind, defaults } from '../kind.js';
import { refuseImproper } from '../proper.js';
import { responseShown } from '../shown.js';
import { checking } from './check.js';
import { slipOfTransfer, wrongTransfers } from './slips.js';

export const transferFunction: AnswerKind<'transferFunction'> = {
  ...defaults,
  ...checking,
  toText: ({ text }) => text,
  seen: ({ kind, tolerancePercent }) => ({ kind, tolerancePercent }),
  right: ({ kind, expected }, { scope }) => ({ kind, text: textOf(systemFrom(expected, scope)) }),
  wrong: wrongTransfers,
  slip: (part, model, { text }) => slipOfTransfer(part, model, text),
  trials: (part, model) => [{ field: 'expected', run: () => refuseImproper(part.expected, model) }],
  curve: ({ expected }, { scope }) => responseShown(systemFrom(expected, scope)),
};
