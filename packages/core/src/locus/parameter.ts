import { Problem } from '../expression/problem.js';
import type { Fraction } from '../rational/fraction.js';
import type { Rational } from '../rational/number.js';
import {
  add,
  coefficient,
  constant,
  degree,
  divide,
  isHurwitz,
  isZero,
  multiply,
  negate,
  one,
  type Polynomial,
  polynomial,
  polynomialOf,
  zero,
} from '../rational/polynomial.js';
import { coefficientsIn, degreeIn, type SymbolicPolynomial } from '../symbolic/polynomial.js';
import { roots } from '../system/roots.js';
import { type Range, rangesBetween } from './stableRanges.js';

/** A characteristic polynomial Σ_k c_k(a)·s^k with one free parameter a; `coefficients[k]` holds c_k, with a in place of s. */
export interface ParametricPolynomial {
  readonly coefficients: readonly Polynomial[];
}

/** @throws Problem `signal` when the parameter does not occur or other symbols do. */
export function parametric(p: SymbolicPolynomial, parameter: string): ParametricPolynomial {
  const { symbols } = p.ring;
  const others = symbols.filter((name, k) => k > 0 && name !== parameter && degreeIn(p, k) > 0);
  if (others.length > 0)
    throw new Problem('signal', `Only ${parameter} may be free here; ${others.join(', ')} need values.`);
  const at = symbols.indexOf(parameter);
  if (at < 0 || degreeIn(p, at) < 1) throw new Problem('signal', `The poles do not depend on “${parameter}”.`);
  return {
    coefficients: coefficientsIn(p, 0).map((inParameter) => {
      const integers = new Array<bigint>(degreeIn(p, at) + 1).fill(0n);
      for (const [key, c] of inParameter.terms) integers[key.charCodeAt(at)]! += c;
      return polynomial(integers);
    }),
  };
}

/** The polynomial in s for one value of the parameter. */
export function atParameter({ coefficients }: ParametricPolynomial, value: Rational): Polynomial {
  return polynomialOf(coefficients.map((c) => evaluated(c, value)).reverse());
}

function evaluated(p: Polynomial, at: Rational): Rational {
  let value = constant({ numerator: 0n, denominator: 1n });
  for (let k = degree(p); k >= 0; k--) value = add(multiply(value, constant(at)), constant(coefficient(p, k)));
  return coefficient(value, 0);
}

/**
 * D + a·N for a parameter that enters linearly: then its locus is the root locus of N/D. Null otherwise.
 */
export function asLoop({ coefficients }: ParametricPolynomial): Fraction | null {
  if (coefficients.some((c) => degree(c) > 1)) return null;
  const part = (power: number): Polynomial => polynomialOf(coefficients.map((c) => coefficient(c, power)).reverse());
  const [numerator, denominator] = [part(1), part(0)];
  const top = isZero(denominator) ? numerator : denominator;
  if (top.integers[top.integers.length - 1]! > 0n) return { numerator, denominator };
  return { numerator: negate(numerator), denominator: negate(denominator) };
}

/**
 * All real values of the parameter for which every root lies strictly in the left half-plane, as open intervals.
 * Critical values are the real zeros of the highest and lowest coefficient and of the last but one Hurwitz determinant
 * (Orlando's formula); between two of them one exact Routh test decides for all.
 */
export function stableParameters(p: ParametricPolynomial): Range[] {
  const { coefficients } = p;
  const order = coefficients.length - 1;
  const critical = [coefficients[order]!, coefficients[0]!, hurwitzDeterminant(coefficients)]
    .flatMap((polynomial) => (isZero(polynomial) ? [] : roots(polynomial)))
    .filter(({ im }) => im === 0)
    .map(({ re }) => re);
  return rangesBetween(
    critical,
    (value) => {
      const here = atParameter(p, value);
      return degree(here) === order && isHurwitz(here);
    },
    -Infinity,
  );
}

/** Determinant of the leading minor of order n − 1 of Hurwitz's matrix. Method: fraction-free elimination (Bareiss). */
function hurwitzDeterminant(coefficients: readonly Polynomial[]): Polynomial {
  const order = coefficients.length - 1;
  const size = order - 1;
  if (size < 1) return one;
  const rows = Array.from({ length: size }, (_, i) =>
    Array.from({ length: size }, (_, j) => coefficients[order - 1 - (2 * j - i)] ?? zero),
  );
  let before = one;
  for (let k = 0; k + 1 < size; k++) {
    const pivot = rows.findIndex((row, i) => i >= k && !isZero(row[k]!));
    if (pivot < 0) return zero;
    if (pivot !== k) {
      [rows[k], rows[pivot]] = [rows[pivot]!, rows[k]!];
      rows[k] = rows[k]!.map(negate);
    }
    for (let i = k + 1; i < size; i++) {
      for (let j = k + 1; j < size; j++) {
        const cross = add(multiply(rows[i]![j]!, rows[k]![k]!), negate(multiply(rows[i]![k]!, rows[k]![j]!)));
        rows[i]![j] = divide(cross, before).quotient;
      }
      rows[i]![k] = zero;
    }
    before = rows[k]![k]!;
  }
  return rows[size - 1]![size - 1]!;
}
