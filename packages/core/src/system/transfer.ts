import { limits } from '../expression/limits.js';
import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { evaluate, unknownName } from '../rational/evaluate.js';
import { type Fraction, lowestTerms } from '../rational/fraction.js';
import {
  addRational,
  compareRational,
  type Rational,
  rational,
  rationalToNumber,
  subtractRational,
} from '../rational/number.js';
import { add, degree, isZero, multiply, type Polynomial, polynomial, zero } from '../rational/polynomial.js';
import { type DeadTime, type Definitions, fieldFor, type SymbolicFraction } from '../symbolic/fraction.js';
import { type SymbolicPolynomial } from '../symbolic/polynomial.js';

/** A polynomial in s times exp(−delay·s); the delay in seconds. */
export interface DelayedPolynomial {
  readonly delay: Rational;
  readonly polynomial: Polynomial;
}

/**
 * A transfer function with numbers, dead times anywhere: sums of delayed polynomials above and below, by rising delay.
 * The first term below has no delay. Common factors that were written down stay.
 */
export interface Transfer {
  readonly numerator: readonly DelayedPolynomial[];
  readonly denominator: readonly DelayedPolynomial[];
}

/** A dead time of zero. */
export const noDelay: Rational = { numerator: 0n, denominator: 1n };

/** A fraction with a dead time as a factor. */
export function delayed(fraction: Fraction, deadTime: Rational = noDelay): Transfer {
  return {
    numerator: [{ delay: deadTime, polynomial: fraction.numerator }],
    denominator: [{ delay: noDelay, polynomial: fraction.denominator }],
  };
}

/** The transfer function that an expression in s stands for. @throws Problem as expressions do, and for a name without a value. */
export function transferOf(expression: string, definitions: Definitions = new Map()): Transfer {
  const tree = parse(expression);
  const field = fieldFor([tree], definitions);
  return transferFromSymbolic(evaluate(tree, field.algebra), field.deadTimes);
}

/** @throws Problem `unknownName` when a symbol has no value, `improper` when the output would come before the input. */
export function transferFromSymbolic(fraction: SymbolicFraction, deadTimes: readonly DeadTime[]): Transfer {
  const numerator = delayedPolynomials(fraction.numerator, deadTimes);
  const denominator = delayedPolynomials(fraction.denominator, deadTimes);
  const first = denominator[0]?.delay;
  if (!first) throw new Problem('divisionByZero', 'What stands below this line is zero.');
  if (first.numerator === 0n) return { numerator, denominator };
  if (numerator[0] && compareRational(numerator[0].delay, first) < 0) {
    throw new Problem('improper', 'This looks ahead in time: a dead time stands below the line.');
  }
  const earlier = (terms: readonly DelayedPolynomial[]): DelayedPolynomial[] =>
    terms.map(({ delay, polynomial: p }) => ({ delay: subtractRational(delay, first), polynomial: p }));
  return { numerator: earlier(numerator), denominator: earlier(denominator) };
}

function delayedPolynomials(p: SymbolicPolynomial, deadTimes: readonly DeadTime[]): DelayedPolynomial[] {
  const { symbols } = p.ring;
  const byDelay = new Map<string, { delay: Rational; integers: bigint[] }>();
  for (const [key, c] of p.terms) {
    let delay = noDelay;
    for (let k = 1; k < symbols.length; k++) {
      const exponent = key.charCodeAt(k);
      if (exponent === 0) continue;
      const kind = deadTimes.find(({ name }) => name === symbols[k]);
      if (kind?.factor !== '') throw unknownName(kind ? kind.factor : symbols[k]!, 0, []);
      delay = addRational(delay, rational(kind.unit.numerator * BigInt(exponent), kind.unit.denominator));
    }
    const id = `${delay.numerator}/${delay.denominator}`;
    const entry = byDelay.get(id) ?? { delay, integers: [] };
    byDelay.set(id, entry);
    const power = key.charCodeAt(0);
    while (entry.integers.length <= power) entry.integers.push(0n);
    entry.integers[power] = c;
  }
  return [...byDelay.values()]
    .map(({ delay, integers }) => ({ delay, polynomial: polynomial(integers) }))
    .sort((a, b) => compareRational(a.delay, b.delay));
}

/** The transfer as a fraction with dead time as a factor; null when a dead time is inside a loop or a sum. */
export function withDeadTime(transfer: Transfer): { fraction: Fraction; deadTime: Rational } | null {
  if (transfer.denominator.length > 1 || transfer.numerator.length > 1) return null;
  const [above] = transfer.numerator;
  return {
    fraction: { numerator: above?.polynomial ?? zero, denominator: transfer.denominator[0]!.polynomial },
    deadTime: above?.delay ?? noDelay,
  };
}

/** The transfer without its dead times being allowed. @throws Problem `deadTime` saying `what` asks for none. */
export function withoutDeadTime(transfer: Transfer, what: string): Fraction {
  const plain = withDeadTime(transfer);
  if (plain?.deadTime.numerator !== 0n) throw new Problem('deadTime', `${what} needs a system without dead time.`);
  return plain.fraction;
}

/** The transfer as one fraction and a dead time in seconds. @throws Problem `deadTime` when that cannot be written. */
export function asDelayedFraction(transfer: Transfer, what: string): { fraction: Fraction; deadTime: number } {
  const plain = withDeadTime(transfer);
  if (!plain) {
    throw new Problem('deadTime', `${what} needs dead time as a factor, not inside a loop or a sum.`);
  }
  return { fraction: plain.fraction, deadTime: rationalToNumber(plain.deadTime) };
}

/** L/(1 + L), every mode kept: the loop with unity negative feedback around L. @throws Problem `improper` when 1 + L is zero. */
export function unityFeedback(open: Transfer): Transfer {
  const denominator = sumOfTerms(open.denominator, open.numerator);
  if (denominator[0]?.delay.numerator !== 0n) {
    throw new Problem('improper', 'This loop is not well posed: 1 + L has no solution that starts from rest.');
  }
  return { numerator: open.numerator, denominator };
}

/** Series connection, common factors kept. */
export function inSeries(left: Transfer, right: Transfer): Transfer {
  return {
    numerator: productOfTerms(left.numerator, right.numerator),
    denominator: productOfTerms(left.denominator, right.denominator),
  };
}

/** Sum of two sums; terms with the same delay become one. @throws Problem `tooLong` for more delays than are worked out. */
export function sumOfTerms(
  left: readonly DelayedPolynomial[],
  right: readonly DelayedPolynomial[],
): DelayedPolynomial[] {
  const terms: DelayedPolynomial[] = [];
  for (const term of [...left, ...right]) {
    const at = terms.findIndex(({ delay }) => compareRational(delay, term.delay) === 0);
    if (at < 0) terms.push(term);
    else terms[at] = { delay: term.delay, polynomial: add(terms[at]!.polynomial, term.polynomial) };
  }
  if (terms.length > limits.delays) {
    throw new Problem('tooLong', `At most ${limits.delays} different dead times are worked out in one expression.`);
  }
  return terms.filter(({ polynomial: p }) => !isZero(p)).sort((a, b) => compareRational(a.delay, b.delay));
}

/** Product of two sums. */
export function productOfTerms(
  left: readonly DelayedPolynomial[],
  right: readonly DelayedPolynomial[],
): DelayedPolynomial[] {
  let terms: DelayedPolynomial[] = [];
  for (const a of left) {
    const row = right.map((b) => ({
      delay: addRational(a.delay, b.delay),
      polynomial: multiply(a.polynomial, b.polynomial),
    }));
    terms = sumOfTerms(terms, row);
  }
  return terms;
}

/** Degree of a sum of delayed polynomials; −1 for zero. */
export const highestDegree = (terms: readonly DelayedPolynomial[]): number =>
  terms.reduce((most, { polynomial: p }) => Math.max(most, degree(p)), -1);

/** Lowest terms where no dead time is inside a loop; otherwise the transfer as it is. */
export function simplified(transfer: Transfer): Transfer {
  const plain = withDeadTime(transfer);
  return plain ? delayed(lowestTerms(plain.fraction), plain.deadTime) : transfer;
}
