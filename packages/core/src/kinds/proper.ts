import type { Model } from '../checking/model.js';
import { Problem } from '../expression/problem.js';
import { systemFrom } from '../formula/evaluate.js';
import { isProper } from '../rational/fraction.js';
import { asDelayedFraction } from '../system/transfer.js';

/** @throws Problem `improper` for a system without a response: with more zeros than poles. */
export function refuseImproper(formula: string, { scope }: Model): void {
  if (!isProper(asDelayedFraction(systemFrom(formula, scope), 'The comparison').fraction)) {
    throw new Problem('improper', 'This system has more zeros than poles.');
  }
}
