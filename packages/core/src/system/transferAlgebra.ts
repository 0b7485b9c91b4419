import { Problem } from '../expression/problem.js';
import type { Tree } from '../expression/tree.js';
import { type Algebra, evaluate, unknownName } from '../rational/evaluate.js';
import { fractionAlgebra, lowestTerms } from '../rational/fraction.js';
import { addRational, compareRational, negateRational, type Rational } from '../rational/number.js';
import { coefficient, commonFactor, constant, degree, divide, negate, one } from '../rational/polynomial.js';
import {
  delayed,
  type DelayedPolynomial,
  inSeries,
  noDelay,
  productOfTerms,
  sumOfTerms,
  type Transfer,
  withDeadTime,
} from './transfer.js';

/** What names stand for: numbers and systems alike. */
export type Transfers = ReadonlyMap<string, Transfer>;

/** A number as a transfer function. */
export const constantTransfer = (value: Rational): Transfer =>
  delayed({ numerator: constant(value), denominator: one });

/** The number that a transfer function is; null when it depends on s. */
export function constantOf(transfer: Transfer): Rational | null {
  const plain = withDeadTime(transfer);
  if (plain?.deadTime.numerator !== 0n) return null;
  const { numerator, denominator } = plain.fraction;
  if (degree(numerator) < 1 && degree(denominator) === 0) {
    return fractions.number(plain.fraction);
  }
  return fractions.number(lowestTerms(plain.fraction));
}

/**
 * The transfer function that an expression stands for, dead time as exp(-T*s) anywhere; what was written down is kept.
 * @throws Problem as expressions do, and for a name that stands for nothing.
 */
export function transferFrom(tree: Tree, names: Transfers): Transfer {
  return evaluate(tree, transferAlgebra(names));
}

const fractions = fractionAlgebra(new Map());

/** The algebra of transfer functions with numbers: sums of delayed polynomials above and below. */
export function transferAlgebra(names: Transfers): Algebra<Transfer> {
  const algebra: Algebra<Transfer> = {
    constant: constantTransfer,
    name(name, at) {
      if (name === 's') return delayed(fractions.name('s', at));
      const value = names.get(name);
      if (!value) throw unknownName(name, at, names.keys());
      return value;
    },
    exponential(exponent, at) {
      const time = deadTimeOf(transferFrom(exponent, names));
      if (!time) {
        throw new Problem('deadTime', 'Dead time is typed as exp(-0.5 s): a time in seconds times −s.', at);
      }
      return delayed({ numerator: one, denominator: one }, time);
    },
    add(left, right, at) {
      const [a, b] = [withDeadTime(left), withDeadTime(right)];
      if (a && b && compareRational(a.deadTime, b.deadTime) === 0) {
        return delayed(fractions.add(a.fraction, b.fraction, at), a.deadTime);
      }
      return {
        numerator: sumOfTerms(
          productOfTerms(left.numerator, right.denominator),
          productOfTerms(right.numerator, left.denominator),
        ),
        denominator: productOfTerms(left.denominator, right.denominator),
      };
    },
    negate: ({ numerator, denominator }) => ({ numerator: minus(numerator), denominator }),
    multiply(left, right, at) {
      const [a, b] = [withDeadTime(left), withDeadTime(right)];
      if (!a || !b) return inSeries(left, right);
      return delayed(fractions.multiply(a.fraction, b.fraction, at), addRational(a.deadTime, b.deadTime));
    },
    divide(left, right, at) {
      const [a, b] = [left.denominator, right.denominator];
      if (a.length > 1 || b.length > 1) return algebra.multiply(left, inverted(right, at), at);
      const shared = commonFactor(a[0]!.polynomial, b[0]!.polynomial);
      const without = ([term]: Transfer['denominator']): Transfer['denominator'] => [
        { ...term!, polynomial: divide(term!.polynomial, shared).quotient },
      ];
      const below = inverted({ numerator: right.numerator, denominator: without(b) }, at);
      return algebra.multiply({ numerator: left.numerator, denominator: without(a) }, below, at);
    },
    invert: (transfer, at) => inverted(transfer, at),
    power(base, exponent, at) {
      const plain = withDeadTime(base);
      if (plain?.deadTime.numerator === 0n) return delayed(fractions.power(plain.fraction, exponent, at));
      let result = delayed({ numerator: one, denominator: one });
      for (let k = 0; k < exponent; k++) result = algebra.multiply(result, base, at);
      return result;
    },
    number: constantOf,
  };
  return algebra;
}

function inverted(transfer: Transfer, at: number): Transfer {
  const first = transfer.numerator[0]?.delay;
  if (!first || transfer.numerator.every(({ polynomial }) => degree(polynomial) < 0)) {
    throw new Problem('divisionByZero', 'What stands below this line is zero.', at);
  }
  if (first.numerator === 0n) return { numerator: transfer.denominator, denominator: transfer.numerator };
  throw new Problem('improper', 'This looks ahead in time: a dead time stands below the line.', at);
}

/** T of the exponent −T·s, T ≥ 0; null when it is something else. */
function deadTimeOf(exponent: Transfer): Rational | null {
  const plain = withDeadTime(exponent);
  if (plain?.deadTime.numerator !== 0n) return null;
  const { numerator, denominator } = lowestTerms(plain.fraction);
  if (degree(numerator) < 0) return noDelay;
  if (degree(denominator) !== 0 || degree(numerator) !== 1 || coefficient(numerator, 0).numerator !== 0n) return null;
  const time = negateRational(coefficient(numerator, 1));
  return time.numerator > 0n ? time : null;
}

/**
 * The loop with negative feedback: forward/(1 + forward·back), every mode kept.
 * @throws Problem `improper` when the loop has no solution that starts from rest.
 */
export function feedbackOf(forward: Transfer, back: Transfer): Transfer {
  const denominator = sumOfTerms(
    productOfTerms(forward.denominator, back.denominator),
    productOfTerms(forward.numerator, back.numerator),
  );
  if (denominator[0]?.delay.numerator !== 0n) {
    throw new Problem('improper', 'This loop is not well posed: 1 + L has no solution that starts from rest.');
  }
  return { numerator: productOfTerms(forward.numerator, back.denominator), denominator };
}

/** Whether two transfer functions are the same function of s, exactly. */
export function isSameTransfer(left: Transfer, right: Transfer): boolean {
  const crossed = productOfTerms(right.numerator, left.denominator);
  return sumOfTerms(productOfTerms(left.numerator, right.denominator), minus(crossed)).length === 0;
}

const minus = (terms: readonly DelayedPolynomial[]): DelayedPolynomial[] =>
  terms.map((term) => ({ ...term, polynomial: negate(term.polynomial) }));
