import type { Fraction } from '../rational/fraction.js';
import { coefficients } from '../rational/polynomial.js';
import type { Complex } from '../system/complex.js';
import { rootsOfNumbers } from '../system/aberth.js';
import { gainAt } from './specialPoints.js';

/**
 * Points of the locus D + K·N = 0, K > 0, on the ray of a constant damping ratio in the upper half-plane, with their
 * gains, from the origin outwards. On the ray s = r·e^{jθ}, N/D is real where a polynomial in r vanishes.
 * @param dampingRatio from −1 to 1, exclusive
 */
export function onDampingRay(loop: Fraction, dampingRatio: number): (Complex & { gain: number })[] {
  const direction = { re: -dampingRatio, im: Math.sqrt(1 - dampingRatio * dampingRatio) };
  const angle = Math.atan2(direction.im, direction.re);
  const [n, d] = [coefficients(loop.numerator).reverse(), coefficients(loop.denominator).reverse()];
  const rising = new Array<number>(n.length + d.length - 1).fill(0);
  // Im(D·conj(N)) = Σ d_i·n_k·r^(i+k)·sin((i − k)·θ)
  d.forEach((a, i) => n.forEach((b, k) => (rising[i + k]! += a * b * Math.sin((i - k) * angle))));
  while (rising.length > 0 && rising[rising.length - 1] === 0) rising.pop();
  if (rising.length < 2) return [];
  const { re, im } = rootsOfNumbers([...rising].reverse(), null);
  const radii = Array.from(re).filter((r, k) => r > 0 && Math.abs(im[k]!) < 1e-9 * r);
  return radii
    .sort((a, b) => a - b)
    .map((start) => {
      const r = polished(rising, start);
      const point = { re: r * direction.re, im: r * direction.im };
      return { ...point, gain: gainAt(loop, point).re };
    })
    .filter(({ gain }) => gain > 0 && Number.isFinite(gain));
}

/** Two Newton steps. */
function polished(rising: readonly number[], start: number): number {
  let r = start;
  for (let round = 0; round < 2; round++) {
    let [value, slope] = [0, 0];
    for (let k = rising.length - 1; k >= 0; k--) [slope, value] = [slope * r + value, value * r + rising[k]!];
    if (slope !== 0) r -= value / slope;
  }
  return r;
}
