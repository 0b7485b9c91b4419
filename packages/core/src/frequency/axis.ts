import type { Fraction } from '../rational/fraction.js';
import { add, isZero, multiply, negate, type Polynomial, polynomial } from '../rational/polynomial.js';
import { roots } from '../system/roots.js';

/** A polynomial on the imaginary axis, p(jω) = real + j·imaginary, both polynomials in ω with exact coefficients. */
export interface OnAxis {
  readonly real: Polynomial;
  readonly imaginary: Polynomial;
}

/** Real and imaginary part of p(jω), exact. */
export function onAxis(p: Polynomial): OnAxis {
  const signed = (parity: number): Polynomial =>
    polynomial(
      p.integers.map((c, k) => (k % 2 !== parity ? 0n : k % 4 < 2 ? c : -c)),
      p.denominator,
    );
  return { real: signed(0), imaginary: signed(1) };
}

/** |p(jω)|². */
export const squaredMagnitude = ({ real, imaginary }: OnAxis): Polynomial =>
  add(multiply(real, real), multiply(imaginary, imaginary));

/** Numerator of L(jω) times the conjugate of its denominator: real where L is real, with the same sign as L. */
export function ratioOnAxis({ numerator, denominator }: Fraction): OnAxis {
  const [n, d] = [onAxis(numerator), onAxis(denominator)];
  return {
    real: add(multiply(n.real, d.real), multiply(n.imaginary, d.imaginary)),
    imaginary: add(multiply(n.imaginary, d.real), negate(multiply(n.real, d.imaginary))),
  };
}

/** A polynomial in ω with even powers only, as a polynomial in ω². */
export const inSquares = (p: Polynomial): Polynomial =>
  polynomial(
    p.integers.filter((_, k) => k % 2 === 0),
    p.denominator,
  );

/** An odd polynomial divided by ω. */
export const overOmega = (p: Polynomial): Polynomial => polynomial(p.integers.slice(1), p.denominator);

/** The frequencies ω > 0, rising, at which a polynomial in ω² vanishes; each once. */
export function positiveFrequencies(p: Polynomial): number[] {
  if (isZero(p)) return [];
  return roots(p)
    .filter(({ re, im }) => im === 0 && re > 0)
    .map(({ re }) => Math.sqrt(re))
    .sort((a, b) => a - b);
}
