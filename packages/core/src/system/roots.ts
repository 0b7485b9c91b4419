import { bitLength, ratioToNumber } from '../rational/integer.js';
import {
  commonFactor,
  degree,
  divide,
  isZero,
  type Polynomial,
  polynomial,
  squareFreeFactors,
} from '../rational/polynomial.js';
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
  const all: Root[] = [];
  for (const { factor, multiplicity } of squareFreeFactors(p)) {
    for (const { re, im } of simpleRoots(factor.integers)) all.push({ re, im, multiplicity });
  }
  return all.sort((a, b) => a.re - b.re || b.im - a.im);
}

/** Roots of a square-free polynomial with whole-number coefficients, lowest power first. */
function simpleRoots(integers: readonly bigint[]): Complex[] {
  if (integers[0] === 0n) return [{ re: 0, im: 0 }, ...simpleRoots(integers.slice(1))];
  const n = integers.length - 1;
  if (n < 1) return [];
  if (n === 1) return [{ re: ratioToNumber(-integers[0]!, integers[1]!), im: 0 }];
  if (n === 2) return quadraticRoots(integers[0]!, integers[1]!, integers[2]!);
  const mirrored = mirroredFactor(integers);
  if (!mirrored) return manyRoots(integers);
  const inSquare = polynomial(mirrored.integers.flatMap((c, k) => (k === 0 ? [c] : [0n, c])));
  const rest = divide(polynomial(integers), inSquare).quotient;
  return [...simpleRoots(mirrored.integers).flatMap(bothSquareRoots), ...simpleRoots(rest.integers)];
}

/**
 * The factor, as a polynomial in s², whose roots come with their negatives: all roots on the imaginary axis are among
 * them and so are exactly there. Null for none. It is the common factor of the even and the odd part.
 */
function mirroredFactor(integers: readonly bigint[]): Polynomial | null {
  const even = polynomial(integers.filter((_, k) => k % 2 === 0));
  const odd = polynomial(integers.filter((_, k) => k % 2 === 1));
  if (isZero(odd)) return even;
  const shared = commonFactor(even, odd);
  return degree(shared) > 0 ? shared : null;
}

/** Both s with s² = x. */
function bothSquareRoots({ re, im }: Complex): Complex[] {
  if (im === 0) {
    const size = Math.sqrt(Math.abs(re));
    return re < 0
      ? [
          { re: 0, im: size },
          { re: 0, im: -size },
        ]
      : [
          { re: size, im: 0 },
          { re: -size, im: 0 },
        ];
  }
  const size = Math.hypot(re, im);
  // The larger part first, so that nothing cancels.
  const larger = Math.sqrt((size + Math.abs(re)) / 2);
  const smaller = Math.abs(im) / (2 * larger);
  const x = re > 0 ? larger : smaller;
  const y = (re > 0 ? smaller : larger) * Math.sign(im);
  return [
    { re: x, im: y },
    { re: -x, im: -y },
  ];
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
  for (let k = 0; k < n; k++) {
    re[k]! *= unit;
    im[k]! *= unit;
  }
  return conjugatePairs(re, im);
}

/** Coefficients of p(2^exponent · z), divided by a power of two so that the largest is near 1. */
function scaledCoefficients(integers: readonly bigint[], exponent: number): Float64Array {
  // In doubles wherever they neither overflow nor lose small coefficients.
  const largest = Math.max(...integers.map((c, k) => bitLength(c) + exponent * k));
  const plain = integers.every((c) => bitLength(c) < 1000);
  return Float64Array.from(integers, (c, k) => {
    const shift = exponent * k - largest;
    if (plain && shift > -1000) return Number(c) * 2 ** shift;
    return shift < 0 ? ratioToNumber(c, 1n << BigInt(-shift)) : ratioToNumber(c << BigInt(shift), 1n);
  });
}

/** Makes the set exactly symmetric about the real axis: a root nearest to its own mirror image is real. */
function conjugatePairs(re: Float64Array, im: Float64Array): Complex[] {
  const result: Complex[] = [];
  const order = Array.from(im.keys()).sort((a, b) => Math.abs(im[b]!) - Math.abs(im[a]!));
  const used = new Uint8Array(re.length);
  for (const i of order) {
    if (used[i]) continue;
    used[i] = 1;
    let partner = -1;
    let nearest = 4 * im[i]! * im[i]!;
    for (let k = 0; k < re.length; k++) {
      if (used[k]) continue;
      const dx = re[k]! - re[i]!;
      const dy = im[k]! + im[i]!;
      const square = dx * dx + dy * dy;
      if (square < nearest) {
        nearest = square;
        partner = k;
      }
    }
    if (partner < 0) {
      result.push({ re: re[i]!, im: 0 });
      continue;
    }
    used[partner] = 1;
    const x = (re[i]! + re[partner]!) / 2;
    const y = Math.abs(im[i]! - im[partner]!) / 2;
    result.push({ re: x, im: y }, { re: x, im: -y });
  }
  return result;
}
