import { Problem } from '../../expression/problem.js';
import { isSameFraction, lowestTerms } from '../../rational/fraction.js';
import { rationalToNumber } from '../../rational/number.js';
import { coefficients } from '../../rational/polynomial.js';
import { inLowestTerms, isSameSymbolic } from '../../symbolic/fraction.js';
import { symbolicToLatex, symbolicToText } from '../../symbolic/text.js';
import { polynomialFromNumbers } from '../../system/forms.js';
import { factoredToLatex, fractionToLatex, gainZeroPoleToLatex, timeConstantToLatex } from '../../system/latex.js';
import { roots } from '../../system/roots.js';
import { systemOf } from '../../system/system.js';
import { type Transfer, transferFromSymbolic, withDeadTime } from '../../system/transfer.js';
import type { Ask } from '../ask.js';
import type { Query } from '../query.js';
import { readSystem, toSymbolic, toTransfer } from '../systems.js';

/** The transfer with numbers, or null while a symbol has no value. */
function numbersOf(query: Query): { transfer: Transfer | null; text: string; latex: string } {
  const system = readSystem(query);
  if (system.kind === 'numbers') return { transfer: system.transfer, text: '', latex: '' };
  const { fractions, fields } = toSymbolic([system]);
  const lowest = inLowestTerms(fractions[0]!);
  const written = { text: symbolicToText(lowest), latex: symbolicToLatex(lowest) };
  try {
    return { transfer: transferFromSymbolic(lowest, fields[0]!.deadTimes), ...written };
  } catch (error) {
    if (error instanceof Problem && error.code === 'unknownName') return { transfer: null, ...written };
    throw error;
  }
}

/** Asks about fractions and polynomials; documented in docs/compute.md. */
export const algebraAsks: readonly Ask[] = [
  {
    name: 'transferFunction',
    answer(query) {
      const { transfer, text } = numbersOf(query);
      const plain = transfer && withDeadTime(transfer);
      if (!plain) return { text };
      const { numerator, denominator } = lowestTerms(plain.fraction);
      return {
        numerator: coefficients(numerator),
        denominator: coefficients(denominator),
        deadTime: rationalToNumber(plain.deadTime),
      };
    },
  },
  {
    name: 'equivalent',
    answer(query) {
      const [left, right] = [readSystem(query, 'left'), readSystem(query, 'right')];
      if (left.kind === 'numbers' && right.kind === 'numbers') {
        const [a, b] = [withDeadTime(toTransfer(left))!, withDeadTime(toTransfer(right))!];
        const sameDelay = rationalToNumber(a.deadTime) === rationalToNumber(b.deadTime);
        return { equivalent: sameDelay && isSameFraction(a.fraction, b.fraction) };
      }
      const { fractions } = toSymbolic([left, right]);
      return { equivalent: isSameSymbolic(fractions[0]!, fractions[1]!) };
    },
  },
  {
    name: 'roots',
    answer: (query) => ({ roots: roots(polynomialFromNumbers(query.numbers('polynomial', 60), '“polynomial”')) }),
  },
  {
    name: 'typeset',
    answer(query) {
      const { transfer, latex } = numbersOf(query);
      const plain = transfer && withDeadTime(transfer);
      if (!plain) return { expanded: latex };
      const system = systemOf(plain.fraction);
      const delay = rationalToNumber(plain.deadTime);
      const withDelay = (fraction: string): string => (delay === 0 ? fraction : `${fraction}\\,e^{-${delay}\\,s}`);
      return {
        expanded: withDelay(fractionToLatex(system.fraction)),
        factored: withDelay(factoredToLatex(system.fraction)),
        gainZeroPole: withDelay(gainZeroPoleToLatex(system)),
        timeConstants: withDelay(timeConstantToLatex(system)),
      };
    },
  },
];
