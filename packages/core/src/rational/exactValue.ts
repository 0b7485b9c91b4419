import { ratioToNumber } from './integer.js';
import { rationalFromNumber } from './number.js';
import type { Polynomial } from './polynomial.js';

/**
 * p(re + j·im) for a place given in doubles, rounded only once it is worked out.
 * Method: Horner on Gaussian integers over a common denominator.
 */
export function valueExactly(
  { integers, denominator }: Polynomial,
  s: { readonly re: number; readonly im: number },
): { re: number; im: number } {
  const [x, y] = [rationalFromNumber(s.re), rationalFromNumber(s.im)];
  const scale = x.denominator * y.denominator;
  const [a, b] = [x.numerator * y.denominator, y.numerator * x.denominator];
  let [re, im, power] = [0n, 0n, 1n];
  for (let k = integers.length - 1; k >= 0; k--) {
    [re, im] = [re * a - im * b + integers[k]! * power, re * b + im * a];
    if (k > 0) power *= scale;
  }
  const below = power * denominator;
  return { re: ratioToNumber(re, below), im: ratioToNumber(im, below) };
}
