import { multiplyRational, rational } from '../rational/number.js';
import { rationalToNumber } from '../rational/number.js';
import { type Polynomial, polynomial } from '../rational/polynomial.js';
import { magnitude } from './complex.js';
import { roots } from './roots.js';
import { type DelayedPolynomial, type Transfer } from './transfer.js';

/**
 * A power of two, in seconds, near which the times of a system lie: its shortest dead time, or the geometric mean of the
 * time constants of its roots. What is worked out in this unit needs no limits that depend on the scale of time.
 */
export function timeUnitOf(terms: readonly DelayedPolynomial[]): number {
  const delays = terms.map(({ delay }) => rationalToNumber(delay)).filter((delay) => delay > 0);
  if (delays.length > 0) return powerOfTwo(Math.min(...delays));
  const sizes = terms.flatMap(({ polynomial: p }) => roots(p).map(magnitude)).filter((size) => size > 0);
  if (sizes.length === 0) return 1;
  return powerOfTwo(Math.exp(-sizes.reduce((sum, size) => sum + Math.log(size), 0) / sizes.length));
}

/** The power of two next to a positive number. */
export const powerOfTwo = (value: number): number => 2 ** Math.round(Math.log2(value));

/** The same transfer with time counted in a power of two of seconds, exactly. */
export const inTimeUnit = ({ numerator, denominator }: Transfer, unit: number): Transfer => ({
  numerator: termsInTimeUnit(numerator, unit),
  denominator: termsInTimeUnit(denominator, unit),
});

/** p(s/unit)·exp(−(delay/unit)·s) for every term. */
export function termsInTimeUnit(terms: readonly DelayedPolynomial[], unit: number): DelayedPolynomial[] {
  const exponent = Math.round(Math.log2(unit));
  const scale = exponent >= 0 ? rational(1n, 1n << BigInt(exponent)) : rational(1n << BigInt(-exponent));
  return terms.map(({ delay, polynomial: p }) => ({
    delay: multiplyRational(delay, scale),
    polynomial: stretched(p, exponent),
  }));
}

/** p(s/2^exponent). */
function stretched(p: Polynomial, exponent: number): Polynomial {
  const n = p.integers.length - 1;
  const by = BigInt(Math.abs(exponent));
  if (exponent <= 0)
    return polynomial(
      p.integers.map((c, k) => c << (by * BigInt(k))),
      p.denominator,
    );
  const integers = p.integers.map((c, k) => c << (by * BigInt(n - k)));
  return polynomial(integers, p.denominator << (by * BigInt(Math.max(0, n))));
}
