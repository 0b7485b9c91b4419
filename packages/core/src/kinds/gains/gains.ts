import { formatNumber, settingsText } from '../../checking/words.js';
import { sumOfShares } from '../../exercise/points.js';
import { openGains } from '../../loop/controller.js';
import { quantities } from '../../quantity/index.js';
import { neverNegative } from '../../quantity/names.js';
import { type AnswerKind, defaults } from '../kind.js';
import { checking } from './check.js';
import { searching } from './search.js';
import { seenLoop } from './seen.js';
import { slipOfGains, wrongGains } from './slips.js';
import { loopTrials } from './trials.js';

export const gains: AnswerKind<'gains'> = {
  ...defaults,
  ...checking,
  toText: ({ gains }) => settingsText(gains),
  seen: seenLoop,
  hasSolution: false,
  right: () => null,
  wrong: (part, model, right) => (right ? wrongGains(part, model, right) : []),
  slip: (part, model, { gains }, check) => slipOfGains(part, model, gains, check),
  trials: loopTrials,
  points: ({ nails }) => sumOfShares(nails.map(({ points }) => points)),
  settings: ({ controller }) => openGains(controller).map(({ name }) => name),
  ids: ({ nails }) => nails.map(({ id }) => id),
  inputs: ({ input, disturbance }) => [input, disturbance],
  findings: ({ nails }) =>
    nails.flatMap((nail, n) =>
      'quantity' in nail && nail.limit < 0 && neverNegative.has(nail.quantity)
        ? [
            {
              field: `nails/${n}`,
              message: `${quantities[nail.quantity].label} is never below zero; its limit is ${formatNumber(nail.limit)}.`,
            },
          ]
        : [],
    ),
  search: searching,
};
