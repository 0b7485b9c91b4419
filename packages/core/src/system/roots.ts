import { bitLength, ratioToNumber } from '../rational/integer.js';
import { type Polynomial, squareFreeFactors } from '../rational/polynomial.js';
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

/**
 * Points on circles whose radii are the slopes of the Newton polygon of log |coefficient|.
 * Source: Bini, Numerical computation of polynomial zeros by means of Aberth's method (1996).
 */
function startingPoints(p: Float64Array, re: Float64Array, im: Float64Array): void {
  const n = p.length - 1;
  const height = (k: number): number => Math.log(Math.abs(p[k]!));
  const hull: number[] = [];
  for (let k = 0; k <= n; k++) {
    if (p[k] === 0) continue;
    while (hull.length >= 2) {
      const [a, b] = [hull[hull.length - 2]!, hull[hull.length - 1]!];
      if ((height(b) - height(a)) * (k - a) > (height(k) - height(a)) * (b - a)) break;
      hull.pop();
    }
    hull.push(k);
  }
  for (let h = 1, i = 0; h < hull.length; h++) {
    const [from, to] = [hull[h - 1]!, hull[h]!];
    const radius = Math.exp((height(from) - height(to)) / (to - from));
    for (let k = 0; k < to - from; k++, i++) {
      const angle = (2 * Math.PI * k) / (to - from) + (2 * Math.PI * h) / n + 0.7;
      re[i] = radius * Math.cos(angle);
      im[i] = radius * Math.sin(angle);
    }
  }
}

/** Improves all roots together; says whether doubles gave each to about 1e-13 relative. */
function aberth(p: Float64Array, re: Float64Array, im: Float64Array): boolean {
  const n = p.length - 1;
  const settled = new Uint8Array(n);
  let left = n;
  for (let round = 0; round < 100 && left > 0; round++) {
    for (let i = 0; i < n; i++) {
      if (settled[i]) continue;
      const x = re[i]!;
      const y = im[i]!;
      const { stepRe, stepIm, atNoise } = newtonStep(p, x, y);
      let sumRe = 0;
      let sumIm = 0;
      for (let k = 0; k < n; k++) {
        if (k === i) continue;
        const dx = x - re[k]!;
        const dy = y - im[k]!;
        const square = dx * dx + dy * dy || Number.MIN_VALUE;
        sumRe += dx / square;
        sumIm -= dy / square;
      }
      const divRe = 1 - (stepRe * sumRe - stepIm * sumIm);
      const divIm = -(stepRe * sumIm + stepIm * sumRe);
      const square = divRe * divRe + divIm * divIm;
      const moveRe = (stepRe * divRe + stepIm * divIm) / square;
      const moveIm = (stepIm * divRe - stepRe * divIm) / square;
      if (!Number.isFinite(moveRe) || !Number.isFinite(moveIm)) return false;
      re[i] = x - moveRe;
      im[i] = y - moveIm;
      if (atNoise || Math.hypot(moveRe, moveIm) < 1e-16 * Math.hypot(x, y)) {
        settled[i] = 1;
        left -= 1;
      }
    }
  }
  if (left > 0) return false;
  for (let i = 0; i < n; i++) {
    if (newtonStep(p, re[i]!, im[i]!).uncertainty > 1e-13 * Math.hypot(re[i]!, im[i]!)) return false;
  }
  return true;
}

/** p/p′ at z = x + iy, whether |p| is down to rounding noise, and how far that noise may shift the root. */
function newtonStep(
  p: Float64Array,
  x: number,
  y: number,
): { stepRe: number; stepIm: number; atNoise: boolean; uncertainty: number } {
  const n = p.length - 1;
  const radius = Math.hypot(x, y);
  const reversed = radius > 1;
  // Beyond the unit circle the reversed polynomial is evaluated at 1/z, so that no power overflows.
  const zx = reversed ? x / (radius * radius) : x;
  const zy = reversed ? -y / (radius * radius) : y;
  const r = reversed ? 1 / radius : radius;
  let re = 0;
  let im = 0;
  let dRe = 0;
  let dIm = 0;
  let bound = 0;
  for (let k = 0; k <= n; k++) {
    const c = reversed ? p[k]! : p[n - k]!;
    const d = dRe * zx - dIm * zy + re;
    dIm = dRe * zy + dIm * zx + im;
    dRe = d;
    const v = re * zx - im * zy + c;
    im = re * zy + im * zx;
    re = v;
    bound = bound * r + Math.abs(c);
  }
  const noise = 2 * Number.EPSILON * bound;
  let slopeRe = dRe;
  let slopeIm = dIm;
  if (reversed) {
    // With q(w) = w^n p(1/w): p′/p = (n − w q′/q)·w, so p/p′ = q / ((n·q − w·q′)·w).
    const ax = n * re - (zx * dRe - zy * dIm);
    const ay = n * im - (zx * dIm + zy * dRe);
    slopeRe = ax * zx - ay * zy;
    slopeIm = ax * zy + ay * zx;
  }
  const square = slopeRe * slopeRe + slopeIm * slopeIm;
  const slope = Math.sqrt(square);
  return {
    stepRe: (re * slopeRe + im * slopeIm) / square,
    stepIm: (im * slopeRe - re * slopeIm) / square,
    atNoise: Math.hypot(re, im) <= noise,
    uncertainty: noise / slope,
  };
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
