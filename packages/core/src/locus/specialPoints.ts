import { inSquares, overOmega, positiveFrequencies, ratioOnAxis } from '../frequency/axis.js';
import { valueExactly } from '../rational/exactValue.js';
import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { rationalToNumber } from '../rational/number.js';
import {
  add,
  coefficient,
  commonFactor,
  degree,
  derivative,
  divide,
  isZero,
  multiply,
  negate,
  type Polynomial,
} from '../rational/polynomial.js';
import { type Complex, magnitude, over, times } from '../system/complex.js';
import { type Root, roots } from '../system/roots.js';
import { type System, systemOf } from '../system/system.js';

/** What a course book marks on a root locus of D(s) + K·N(s) = 0, K from 0 to ∞. Angles in degrees in (−180, 180]. */
export interface SpecialPoints {
  /** Null when as many branches end at zeros as there are. */
  readonly asymptotes: { readonly centroid: number; readonly anglesDegrees: readonly number[] } | null;
  /** Points with K > 0 where branches meet, by rising real part. */
  readonly breakPoints: readonly (Complex & { readonly gain: number })[];
  /** Crossings of the imaginary axis with K > 0, by rising ω ≥ 0. */
  readonly axisCrossings: readonly { readonly omega: number; readonly gain: number }[];
  /** Directions in which branches leave complex simple poles. */
  readonly departures: readonly (Complex & { readonly degrees: number })[];
  /** Directions from which branches reach complex simple zeros, seen from the zero. */
  readonly arrivals: readonly (Complex & { readonly degrees: number })[];
  /** Stretches of the real axis on the locus, from left to right; ends may be infinite. */
  readonly realAxis: readonly { readonly from: number; readonly to: number }[];
}

/** Largest distance of a gain from the real axis that counts as rounding, relative. */
const realEnough = 1e-8;

/**
 * All special points of the locus of L = N/D. The sign of N is kept: a negative one gives the locus of zero degrees.
 * Zeros and crossings are roots of polynomials with exact coefficients.
 */
export function specialPoints(loop: Fraction): SpecialPoints {
  const fraction = lowestTerms(loop);
  const system = systemOf(fraction);
  return {
    asymptotes: asymptotesOf(fraction, system),
    breakPoints: breakPointsOf(fraction),
    axisCrossings: axisCrossingsOf(fraction),
    departures: anglesAt(system.poles, (s) =>
      over(valueAt(fraction.numerator, s), valueAt(derivative(fraction.denominator), s)),
    ),
    arrivals: anglesAt(system.zeros, (s) =>
      over(valueAt(fraction.denominator, s), valueAt(derivative(fraction.numerator), s)),
    ),
    realAxis: realAxisOf(system),
  };
}

/** p(s). Method: Horner. */
export function valueAt(p: Polynomial, s: Complex): Complex {
  let value: Complex = { re: 0, im: 0 };
  for (let k = degree(p); k >= 0; k--) {
    const step = times(value, s);
    value = { re: step.re + rationalToNumber(coefficient(p, k)), im: step.im };
  }
  return value;
}

/** K = −D(s)/N(s); real and positive on the locus. */
export function gainAt({ numerator, denominator }: Fraction, s: Complex): Complex {
  const ratio = over(valueAt(denominator, s), valueAt(numerator, s));
  return { re: -ratio.re, im: -ratio.im };
}

function asymptotesOf(
  { numerator, denominator }: Fraction,
  { gain, poles, zeros }: System,
): SpecialPoints['asymptotes'] {
  const count = degree(denominator) - degree(numerator);
  if (count <= 0 || isZero(numerator)) return null;
  const sum = (roots: readonly Root[]): number =>
    roots.reduce((total, { re, multiplicity }) => total + multiplicity * re, 0);
  const turn = gain > 0 ? 180 : 0;
  const anglesDegrees = Array.from({ length: count }, (_, k) => {
    const angle = (turn + 360 * k) / count;
    return angle > 180 ? angle - 360 : angle;
  });
  return { centroid: (sum(poles) - sum(zeros)) / count, anglesDegrees: anglesDegrees.sort((a, b) => a - b) };
}

/**
 * Where dK/ds = 0, on the locus or off it. N′D − ND′ has every repeated pole and zero as a root once less than N or D:
 * those are no stationary points and are divided out exactly.
 */
export function stationaryPoints({ numerator, denominator }: Fraction): Root[] {
  const slope = add(multiply(derivative(numerator), denominator), negate(multiply(numerator, derivative(denominator))));
  return roots([numerator, denominator].reduce(withoutRepeatedRootsOf, slope));
}

function withoutRepeatedRootsOf(slope: Polynomial, p: Polynomial): Polynomial {
  const repeated = commonFactor(p, derivative(p));
  return degree(repeated) > 0 ? divide(slope, repeated).quotient : slope;
}

/**
 * K is evaluated without rounding: as dK/ds = 0 there, the rounding of s itself changes K by its square only, so that
 * signs are certain and nothing depends on the scale of time or gain.
 */
function breakPointsOf({ numerator, denominator }: Fraction): (Complex & { gain: number })[] {
  return stationaryPoints({ numerator, denominator }).flatMap((s) => {
    const { re, im } = s;
    const ratio = over(valueExactly(denominator, s), valueExactly(numerator, s));
    const gain = -ratio.re;
    return gain > 0 && Number.isFinite(gain) && Math.abs(ratio.im) <= realEnough * gain ? [{ re, im, gain }] : [];
  });
}

function axisCrossingsOf(fraction: Fraction): { omega: number; gain: number }[] {
  const { numerator, denominator } = fraction;
  if (isZero(numerator)) return [];
  const crossings: { omega: number; gain: number }[] = [];
  const atOrigin = gainAt(fraction, { re: 0, im: 0 }).re;
  if (atOrigin > 0 && Number.isFinite(atOrigin)) crossings.push({ omega: 0, gain: atOrigin });
  for (const omega of positiveFrequencies(inSquares(overOmega(ratioOnAxis(fraction).imaginary)))) {
    const above = valueAt(numerator, { re: 0, im: omega });
    const below = valueAt(denominator, { re: 0, im: omega });
    // On the axis both are real multiples of one another; the larger part of N gives the better quotient.
    const gain = -(Math.abs(above.re) > Math.abs(above.im) ? below.re / above.re : below.im / above.im);
    const size = magnitude(below) / magnitude(above);
    if (gain > 1e-12 * size && Number.isFinite(gain) && !isRootOf(denominator, omega)) crossings.push({ omega, gain });
  }
  return crossings;
}

const isRootOf = (p: Polynomial, omega: number): boolean =>
  roots(p).some(({ re, im }) => re === 0 && Math.abs(im - omega) < 1e-10 * omega);

function anglesAt(roots: readonly Root[], ratio: (s: Complex) => Complex): (Complex & { degrees: number })[] {
  return roots.flatMap(({ re, im, multiplicity }) => {
    if (im === 0 || multiplicity > 1) return [];
    const { re: x, im: y } = ratio({ re, im });
    const degrees = (180 / Math.PI) * Math.atan2(-y, -x);
    return [{ re, im, degrees: degrees === -180 ? 180 : degrees }];
  });
}

/** Real points with an odd number of real poles and zeros to their right (even for a negative N). */
function realAxisOf({ gain, poles, zeros }: System): { from: number; to: number }[] {
  const corners = [...poles, ...zeros]
    .filter(({ im }) => im === 0)
    .flatMap(({ re, multiplicity }) => Array<number>(multiplicity).fill(re))
    .sort((a, b) => b - a);
  const ends = [Infinity, ...corners, -Infinity];
  const segments: { from: number; to: number }[] = [];
  for (let k = gain > 0 ? 1 : 0; k + 1 < ends.length; k += 2) {
    const [to, from] = [ends[k]!, ends[k + 1]!];
    if (from < to) segments.unshift({ from, to });
  }
  return segments;
}
