import type { Fraction } from '../rational/fraction.js';
import { rationalFromNumber } from '../rational/number.js';
import { degree, type Polynomial, polynomial } from '../rational/polynomial.js';
import type { Complex } from '../system/complex.js';
import { roots } from '../system/roots.js';
import { gainAt } from './specialPoints.js';

/**
 * Points of the locus D + K·N = 0, K > 0, on the ray of a constant damping ratio in the upper half-plane, with their
 * gains, from the origin outwards. On the ray s = r·e^{jθ}, N/D is real where a polynomial in r with exact coefficients
 * vanishes: Σ d_i·n_k·r^(i+k)·sin((i − k)·θ)/sin θ, the sines by the recurrence of Chebyshev's second kind.
 * @param dampingRatio from −1 to 1, exclusive
 */
export function onDampingRay(loop: Fraction, dampingRatio: number): (Complex & { gain: number })[] {
  const direction = { re: -dampingRatio, im: Math.sqrt(1 - dampingRatio * dampingRatio) };
  const onRay = realWhere(loop, dampingRatio);
  const poles = roots(loop.denominator);
  return roots(onRay)
    .filter(({ re, im }) => im === 0 && re > 0)
    .map(({ re: r }) => ({ re: r * direction.re, im: r * direction.im }))
    .filter((point) => !poles.some((pole) => isSame(pole, point)))
    .map((point) => ({ ...point, gain: gainAt(loop, point).re }))
    .filter(({ gain }) => gain > 0 && Number.isFinite(gain));
}

/** A branch starts at a pole: there K is 0. */
const isSame = (a: Complex, b: Complex): boolean =>
  Math.hypot(a.re - b.re, a.im - b.im) <= 1e-9 * Math.hypot(a.re, a.im);

/** The polynomial in r that vanishes where N/D is real. */
function realWhere({ numerator, denominator }: Fraction, dampingRatio: number): Polynomial {
  const [n, d] = [numerator.integers, denominator.integers];
  const { numerator: above, denominator: below } = rationalFromNumber(-dampingRatio);
  const most = Math.max(degree(numerator), degree(denominator));
  // sin(mθ)/sin θ = u_m/below^(m−1): u_0 = 0, u_1 = 1, u_(m+1) = 2·above·u_m − below²·u_(m−1).
  const u = [0n, 1n];
  for (let m = 1; m < most; m++) u.push(2n * above * u[m]! - below * below * u[m - 1]!);
  const rising = new Array<bigint>(n.length + d.length - 1).fill(0n);
  d.forEach((a, i) =>
    n.forEach((b, k) => {
      const m = Math.abs(i - k);
      if (m > 0) rising[i + k]! += a * b * u[m]! * BigInt(Math.sign(i - k)) * below ** BigInt(most - m);
    }),
  );
  return polynomial(rising);
}
