import { limits } from '../expression/limits.js';
import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import type { Tree } from '../expression/tree.js';
import { type Algebra, evaluate, unknownName } from './evaluate.js';
import { bitLength, checkSize } from './integer.js';
import { type Rational } from './number.js';
import {
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
  type Polynomial,
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
  return evaluate(typeof expression === 'string' ? parse(expression) : expression, fractionAlgebra(bindings));
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
  const without = (p: Polynomial): Polynomial => (degree(shared) === 0 ? p : divide(p, shared).quotient);
  const denominator = without(fraction.denominator);
  const lead = denominator.integers[denominator.integers.length - 1]!;
  const numerator = without(fraction.numerator);
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

/** The algebra of fractions in s, all parameters bound. */
export function fractionAlgebra(bindings: Bindings): Algebra<Fraction> {
  return {
    constant: (value) => ({ numerator: constant(value), denominator: one }),
    name(name, at) {
      if (name === 's') return { numerator: s, denominator: one };
      const value = bindings.get(name);
      if (!value) throw unknownName(name, at, bindings.keys());
      return { numerator: constant(value), denominator: one };
    },
    exponential(_exponent, at) {
      throw new Problem('deadTime', 'Dead time cannot be used here: only powers of s.', at);
    },
    add: (left, right, at) => checked(addFractions(left, right), at),
    negate: (fraction) => ({ numerator: negate(fraction.numerator), denominator: fraction.denominator }),
    multiply: (left, right, at) => checked(multiplyFractions(left, right), at),
    divide(left, right, at) {
      if (isZero(right.numerator)) throw new Problem('divisionByZero', 'What stands below this line is zero.', at);
      const shared = commonFactor(left.denominator, right.denominator);
      return checked(
        multiplyFractions(
          { numerator: left.numerator, denominator: divide(left.denominator, shared).quotient },
          { numerator: divide(right.denominator, shared).quotient, denominator: right.numerator },
        ),
        at,
      );
    },
    invert(fraction, at) {
      if (isZero(fraction.numerator)) throw new Problem('divisionByZero', 'What stands below this line is zero.', at);
      return { numerator: fraction.denominator, denominator: fraction.numerator };
    },
    power: raise,
    number(fraction) {
      const value = lowestTerms(fraction);
      return degree(value.denominator) === 0 && degree(value.numerator) < 1 ? coefficient(value.numerator, 0) : null;
    },
  };
}

function raise(base: Fraction, exponent: number, at: number): Fraction {
  if (Math.max(degree(base.numerator), degree(base.denominator)) * exponent > limits.degree) throw tooHigh(at);
  const bits = [base.numerator, base.denominator].flatMap((p) => [...p.integers, p.denominator]).map(bitLength);
  if (Math.max(...bits) * exponent > limits.bits) {
    throw new Problem('numberSize', 'The numbers in this expression grow too long to be worked out exactly.', at);
  }
  return { numerator: power(base.numerator, exponent), denominator: power(base.denominator, exponent) };
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
