import { type AnswerKind, defaults } from '../kind.js';
import { checking, expectedRanges } from './check.js';
import { slipOfRange, wrongRanges } from './slips.js';
import { textOfRanges } from './text.js';

export const range: AnswerKind<'range'> = {
  ...defaults,
  ...checking,
  toText: ({ text }) => text,
  seen: ({ kind, tolerancePercent }) => ({ kind, tolerancePercent }),
  right: (part, model) => ({ kind: part.kind, text: textOfRanges(expectedRanges(part, model)) }),
  wrong: wrongRanges,
  slip: (part, model, { text }) => slipOfRange(part, model, text),
  trials: (part, model) => [{ field: 'of', run: () => void expectedRanges(part, model) }],
};
