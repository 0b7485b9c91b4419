import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';
import type { Tree } from '../expression/tree.js';
import { parse } from '../expression/parse.js';
import { bitLength, checkSize } from './integer.js';
import { type Rational, rationalFromDecimal } from './number.js';
import {
  type Polynomial,
  add,
  coefficient,
  commonFactor,
  constant,
  degree,
  divide,
  isEqual,
  isZero,
  monic,
  multiply,
  negate,
  one,
  polynomial,
  power,
  s,
  zero,
} from './polynomial.js';

/**
 * A fraction of polynomials in s. Common factors that were written down stay, because they are modes that a loop can
 * hide; `lowestTerms` takes them out.
 */
export interface Fraction {
  readonly numerator: Polynomial;
  readonly denominator: Polynomial;
}

/** Values of the named parameters, exact. */
export type Bindings = ReadonlyMap<string, Rational>;

/**
 * The exact fraction that an expression stands for when its parameters have the given values.
 * @throws Problem for anything that cannot be read, an unknown name, a division by zero or a value that grows too large.
 */
export function fractionOf(expression: string | Tree, bindings: Bindings = new Map()): Fraction {
  return evaluate(typeof expression === 'string' ? parse(expression) : expression, bindings);
}

/** Sum over the least common denominator; adding zero adds no mode. */
export function addFractions(left: Fraction, right: Fraction): Fraction {
  if (isZero(left.numerator)) return right;
  if (isZero(right.numerator)) return left;
  if (isEqual(left.denominator, right.denominator)) {
    return { numerator: add(left.numerator, right.numerator), denominator: left.denominator };
  }
  const shared = commonFactor(left.denominator, right.denominator);
  const ofRight = divide(right.denominator, shared).quotient;
  const ofLeft = divide(left.denominator, shared).quotient;
  return {
    numerator: add(multiply(left.numerator, ofRight), multiply(right.numerator, ofLeft)),
    denominator: multiply(left.denominator, ofRight),
  };
}

/** Product with common factors kept; a product with zero is plain zero. */
export function multiplyFractions(left: Fraction, right: Fraction): Fraction {
  if (isZero(left.numerator) || isZero(right.numerator)) return { numerator: zero, denominator: one };
  return {
    numerator: multiply(left.numerator, right.numerator),
    denominator: multiply(left.denominator, right.denominator),
  };
}

/** The same fraction without common factors and with a monic denominator. */
export function lowestTerms(fraction: Fraction): Fraction {
  if (isZero(fraction.numerator)) return { numerator: zero, denominator: one };
  const shared = commonFactor(fraction.numerator, fraction.denominator);
  const denominator = divide(fraction.denominator, shared).quotient;
  const lead = denominator.integers[denominator.integers.length - 1]!;
  const numerator = divide(fraction.numerator, shared).quotient;
  return {
    numerator: polynomial(
      numerator.integers.map((c) => c * denominator.denominator),
      numerator.denominator * lead,
    ),
    denominator: monic(denominator),
  };
}

/** Whether two fractions are the same function of s, exactly. */
export function isSameFraction(left: Fraction, right: Fraction): boolean {
  return isEqual(multiply(left.numerator, right.denominator), multiply(right.numerator, left.denominator));
}

/** Degree of the numerator at most that of the denominator. */
export const isProper = (fraction: Fraction): boolean => degree(fraction.numerator) <= degree(fraction.denominator);

function evaluate(tree: Tree, bindings: Bindings): Fraction {
  switch (tree.kind) {
    case 'number':
      return { numerator: constant(rationalFromDecimal(tree.text)), denominator: one };
    case 'name': {
      if (tree.name === 's') return { numerator: s, denominator: one };
      const value = bindings.get(tree.name);
      if (!value) throw unknownName(tree.name, tree.at, bindings);
      return { numerator: constant(value), denominator: one };
    }
    case 'negative': {
      const of = evaluate(tree.of, bindings);
      return { numerator: negate(of.numerator), denominator: of.denominator };
    }
    case 'sum':
    case 'difference': {
      const left = evaluate(tree.left, bindings);
      const right = evaluate(tree.right, bindings);
      const signed =
        tree.kind === 'sum' ? right : { numerator: negate(right.numerator), denominator: right.denominator };
      return checked(addFractions(left, signed), tree.at);
    }
    case 'product':
      return checked(multiplyFractions(evaluate(tree.left, bindings), evaluate(tree.right, bindings)), tree.at);
    case 'quotient': {
      const left = evaluate(tree.left, bindings);
      const right = evaluate(tree.right, bindings);
      if (isZero(right.numerator)) throw new Problem('divisionByZero', 'What stands below this line is zero.', tree.at);
      return checked(multiplyFractions(left, inverse(right)), tree.at);
    }
    case 'power':
      return raise(evaluate(tree.base, bindings), wholeExponent(tree.exponent, bindings), tree.at);
  }
}

const inverse = (of: Fraction): Fraction => ({ numerator: of.denominator, denominator: of.numerator });

function raise(base: Fraction, exponent: number, at: number): Fraction {
  if (exponent < 0 && isZero(base.numerator)) {
    throw new Problem('divisionByZero', 'Zero has no negative power.', at);
  }
  const times = Math.abs(exponent);
  if (Math.max(degree(base.numerator), degree(base.denominator)) * times > limits.degree) throw tooHigh(at);
  const bits = [base.numerator, base.denominator].flatMap((p) => [...p.integers, p.denominator]).map(bitLength);
  if (Math.max(...bits) * times > limits.bits) {
    throw new Problem('numberSize', 'The numbers in this expression grow too long to be worked out exactly.', at);
  }
  const raised = { numerator: power(base.numerator, times), denominator: power(base.denominator, times) };
  return exponent < 0 ? inverse(raised) : raised;
}

function wholeExponent(tree: Tree, bindings: Bindings): number {
  const value = lowestTerms(evaluate(tree, bindings));
  const number =
    degree(value.denominator) === 0 && degree(value.numerator) < 1 ? coefficient(value.numerator, 0) : null;
  if (number?.denominator !== 1n) {
    throw new Problem('exponent', 'A power must be a whole number, such as s^2.', tree.at);
  }
  if (number.numerator > BigInt(limits.exponent) || number.numerator < -BigInt(limits.exponent)) {
    throw new Problem('exponent', `Powers go from −${limits.exponent} to ${limits.exponent}.`, tree.at);
  }
  return Number(number.numerator);
}

function checked(fraction: Fraction, at: number): Fraction {
  for (const part of [fraction.numerator, fraction.denominator]) {
    if (degree(part) > limits.degree) throw tooHigh(at);
    for (const c of part.integers) checkSize(c, at);
    checkSize(part.denominator, at);
  }
  return fraction;
}

function tooHigh(at: number): Problem {
  return new Problem('degree', `The highest power of s that is worked out is ${limits.degree}.`, at);
}

function unknownName(name: string, at: number, bindings: Bindings): Problem {
  const known = ['s', ...bindings.keys()];
  const split = known.find((start) => name.startsWith(start) && known.includes(name.slice(start.length)));
  const hint = split
    ? ` For a product write ${split}*${name.slice(split.length)}.`
    : name.toLowerCase() === 's'
      ? ' The variable is a small s.'
      : '';
  return new Problem('unknownName', `“${name}” is not known here; known: ${known.join(', ')}.${hint}`, at);
}
