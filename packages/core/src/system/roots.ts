import { bitLength, ratioToNumber } from '../rational/integer.js';
import { type Polynomial, squareFreeFactors } from '../rational/polynomial.js';
import { aberth, startingPoints } from './aberth.js';
import type { Complex } from './complex.js';
import { refine } from './refineRoots.js';

/** A root with its exact multiplicity. */
export interface Root extends Complex {
  readonly multiplicity: number;
}

/**
 * All roots of a polynomial with rational coefficients, complex ones in conjugate pairs, by rising real part.
 * Multiplicities are exact (square-free factors); values are good to 1e-12 relative.
 * Method: closed forms to degree 2; above, Aberth's simultaneous iteration from Bini's starting circles in doubles,
 * repeated with 320-bit numbers where the conditioning of a root asks for it.
 */
export function roots(p: Polynomial): Root[] {
  const found: Root[] = [];
  for (const { factor, multiplicity } of squareFreeFactors(p)) {
    for (const root of simpleRoots(factor.integers)) found.push({ ...root, multiplicity });
  }
  return found.sort((a, b) => a.re - b.re || b.im - a.im);
}

/** Roots of a square-free polynomial with whole-number coefficients, lowest power first. */
function simpleRoots(integers: readonly bigint[]): Complex[] {
  if (integers[0] === 0n) return [{ re: 0, im: 0 }, ...simpleRoots(integers.slice(1))];
  const n = integers.length - 1;
  if (n < 1) return [];
  if (n === 1) return [{ re: ratioToNumber(-integers[0]!, integers[1]!), im: 0 }];
  if (n === 2) return quadraticRoots(integers[0]!, integers[1]!, integers[2]!);
  return manyRoots(integers);
}

function quadraticRoots(constant: bigint, linear: bigint, square: bigint): Complex[] {
  // In units of 2^exponent the roots are near 1, so that nothing overflows on the way.
  const exponent = Math.round((bitLength(constant) - bitLength(square)) / 2);
  const unit = 2 ** exponent;
  const shift = BigInt(Math.abs(exponent));
  const [a, b, c] =
    exponent >= 0
      ? [square << (2n * shift), linear << shift, constant]
      : [square, linear << shift, constant << (2n * shift)];
  const discriminant = b * b - 4n * a * c;
  const root = Math.sqrt(ratioToNumber(discriminant < 0n ? -discriminant : discriminant, 4n * a * a));
  const middle = ratioToNumber(-b, 2n * a);
  if (discriminant < 0n) {
    return [
      { re: unit * middle, im: unit * root },
      { re: unit * middle, im: -unit * root },
    ];
  }
  const far = middle < 0 ? middle - root : middle + root;
  return [
    { re: unit * far, im: 0 },
    { re: (unit * ratioToNumber(c, a)) / far, im: 0 },
  ];
}

function manyRoots(integers: readonly bigint[]): Complex[] {
  const n = integers.length - 1;
  const exponent = Math.round((bitLength(integers[0]!) - bitLength(integers[n]!)) / n);
  const scaled = scaledCoefficients(integers, exponent);
  const re = new Float64Array(n);
  const im = new Float64Array(n);
  startingPoints(scaled, re, im);
  const reliable = aberth(scaled, re, im);
  if (!reliable) refine(integers, exponent, re, im);
  const unit = 2 ** exponent;
  return conjugatePairs(Array.from(re, (x, k) => ({ re: x * unit, im: im[k]! * unit })));
}

/** Coefficients of p(2^exponent · z), divided by a power of two so that the largest is near 1. */
function scaledCoefficients(integers: readonly bigint[], exponent: number): Float64Array {
  const n = integers.length - 1;
  const offset = exponent < 0 ? -exponent * n : 0;
  const shifted = integers.map((c, k) => c << BigInt(exponent * k + offset));
  const unit = 1n << BigInt(Math.max(...shifted.map(bitLength)));
  return Float64Array.from(shifted, (c) => ratioToNumber(c, unit));
}

/** Makes the set exactly symmetric about the real axis: a root nearest to its own mirror image is real. */
function conjugatePairs(found: Complex[]): Complex[] {
  const result: Complex[] = [];
  const free = [...found].sort((a, b) => Math.abs(b.im) - Math.abs(a.im));
  while (free.length > 0) {
    const root = free.shift()!;
    let partner = -1;
    let nearest = 2 * Math.abs(root.im);
    free.forEach((other, k) => {
      const distance = Math.hypot(other.re - root.re, other.im + root.im);
      if (distance < nearest) [nearest, partner] = [distance, k];
    });
    if (partner < 0) {
      result.push({ re: root.re, im: 0 });
      continue;
    }
    const [other] = free.splice(partner, 1);
    const re = (root.re + other!.re) / 2;
    const im = Math.abs(root.im - other!.im) / 2;
    result.push({ re, im }, { re, im: -im });
  }
  return result;
}
