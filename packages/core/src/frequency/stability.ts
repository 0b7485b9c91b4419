import { Problem } from '../expression/problem.js';
import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { addRational, rationalToNumber } from '../rational/number.js';
import { add, coefficient, commonFactor, degree, isHurwitz, isZero } from '../rational/polynomial.js';
import { magnitude } from '../system/complex.js';
import { type Root, roots } from '../system/roots.js';
import { systemOf } from '../system/system.js';
import { termsInTimeUnit, timeUnitOf } from '../system/timeUnit.js';
import {
  type DelayedPolynomial,
  highestDegree,
  type Transfer,
  unityFeedback,
  withDeadTime,
} from '../system/transfer.js';
import { FactoredFrequency, phaseOfRoots } from './bode.js';
import { gainCrossings } from './crossings.js';
import { DelayedSumOnAxis, wrapped } from './delayedSum.js';

/** What the Nyquist criterion says of the loop with unity feedback around L. */
export interface NyquistCount {
  /** Poles of L strictly in the right half-plane, hidden ones excepted. */
  readonly openLoopUnstable: number;
  /** Clockwise encirclements of −1 for ω from −∞ to ∞, poles on the axis passed on their right; null through −1. */
  readonly encirclements: number | null;
  /** Modes of the loop in the right half-plane, the sum of both; null for a mode on the axis or infinitely many. */
  readonly closedLoopUnstable: number | null;
}

const onAxisWithin = 1e-9;

/**
 * Whether every mode of the loop with unity feedback around L decays, hidden ones included. Without dead time decided
 * by Routh's array on exact numbers, with dead time by the encirclement count.
 */
export function isLoopStable(open: Transfer): boolean {
  const plain = withDeadTime(open);
  if (!plain) return isStable(unityFeedback(open));
  const { numerator, denominator } = plain.fraction;
  if (plain.deadTime.numerator === 0n || isZero(numerator)) {
    const characteristic = add(numerator, denominator);
    return degree(characteristic) >= degree(numerator) && isHurwitz(characteristic);
  }
  if (!isHurwitz(commonFactor(numerator, denominator))) return false;
  return countEncirclements(lowestTerms(plain.fraction), rationalToNumber(plain.deadTime)).closedLoopUnstable === 0;
}

/** Whether every mode of a transfer decays: the zeros of its denominator, dead times included. */
export function isStable({ denominator }: Transfer): boolean {
  if (denominator.length === 1) return isHurwitz(denominator[0]!.polynomial);
  return rightHalfPlaneZeros(denominator) === 0;
}

/**
 * The encirclement count for L = fraction·exp(−deadTime·s), fraction in lowest terms, exact up to rounding at single
 * points: between two frequencies with |L| = 1, the turn of 1 + L is that of the denominator and of 1 + L inside the
 * unit disc around 1, or that of the numerator and of 1 + 1/L; all are known in closed form.
 */
export function countEncirclements(fraction: Fraction, deadTime: number): NyquistCount {
  const response = new FactoredFrequency(systemOf(fraction), deadTime);
  const { zeros, poles, gain } = response.system;
  const unstable = (roots: readonly Root[]): number =>
    roots.reduce((sum, { re, multiplicity }) => sum + (re > 0 ? multiplicity : 0), 0);
  const openLoopUnstable = unstable(poles);
  const fastest = Math.max(0, ...[...zeros, ...poles].map(magnitude));
  const undecided = { openLoopUnstable, encirclements: null, closedLoopUnstable: null };
  const [above, below] = [degree(fraction.numerator), degree(fraction.denominator)];
  const direct = above === below ? gain : above > below ? Infinity : 0;
  if (deadTime > 0 && Math.abs(direct) >= 1) return undecided;
  if (direct === -1 || isMinusOneAtRest(fraction)) return undecided;

  const crossings = gainCrossings(fraction.numerator, fraction.denominator);
  if (crossings.some((omega) => distanceToMinusOne(response, omega) < onAxisWithin)) return undecided;
  const ends = [0, ...crossings, Infinity];
  let turn = 0;
  for (let k = 0; k + 1 < ends.length; k++) {
    const [from, to] = [ends[k]!, ends[k + 1]!];
    const middle = to === Infinity ? 2 * Math.max(from, fastest) || 1 : (from + to) / 2;
    const inside = response.logMagnitude(middle) < 0;
    const turning = inside ? poles : zeros;
    const last = to === Infinity ? 1e300 : to;
    turn += phaseOfRoots(turning, last) - phaseOfRoots(turning, from);
    if (!inside && to !== Infinity) turn -= (to - from) * deadTime;
    turn += restAngle(response, to, inside) - restAngle(response, from, inside);
  }
  const order = Math.max(above, below);
  const closedLoopUnstable = Math.round(((order * Math.PI) / 2 - turn) / Math.PI);
  return { openLoopUnstable, encirclements: closedLoopUnstable - openLoopUnstable, closedLoopUnstable };
}

function isMinusOneAtRest({ numerator, denominator }: Fraction): boolean {
  const [above, below] = [coefficient(numerator, 0), coefficient(denominator, 0)];
  return below.numerator !== 0n && addRational(above, below).numerator === 0n;
}

/** Angle of 1 + L or of 1 + 1/L, whichever stays in the right half-plane. */
function restAngle(response: FactoredFrequency, omega: number, inside: boolean): number {
  if (omega === Infinity || (omega === 0 && Math.abs(response.logMagnitude(0)) === Infinity)) return 0;
  const size = Math.exp(inside ? response.logMagnitude(omega) : -response.logMagnitude(omega));
  const angle = (inside ? 1 : -1) * response.phase(omega);
  return Math.atan2(size * Math.sin(angle), 1 + size * Math.cos(angle));
}

function distanceToMinusOne(response: FactoredFrequency, omega: number): number {
  return Math.abs(wrapped(response.phase(omega) + Math.PI));
}

/** Steps along the axis before a sum is given up: each turns by less than a right angle. */
const mostSteps = 100_000;

/**
 * Zeros with positive real part of a sum of delayed polynomials whose first term has no delay; null when one lies on
 * the axis or there are infinitely many. Method: argument principle on (jω + a)^n-normalised values, with steps that a
 * bound of the derivative proves small enough.
 * @throws Problem `work` when that takes too many of them.
 */
export function rightHalfPlaneZeros(written: readonly DelayedPolynomial[]): number | null {
  const terms = termsInTimeUnit(written, timeUnitOf(written));
  const order = degree(terms[0]!.polynomial);
  if (highestDegree(terms) > order) return null;
  const sum = new DelayedSumOnAxis(terms);
  const ofFirst = roots(terms[0]!.polynomial);
  let end = 2 * Math.max(1, ...ofFirst.map(magnitude));
  while (sum.restBound(end) > 0.9 * sum.firstSize(end)) {
    end *= 2;
    if (end > 1e12) return null;
  }
  let turn = 0;
  let omega = 0;
  let here = sum.at(0);
  for (let steps = 0; omega < end; steps++) {
    if (steps > mostSteps) {
      throw new Problem('work', 'With such gains the dead time turns the loop round too often to be followed.');
    }
    let reach = Math.min(end - omega, Math.max(omega, 1e-3));
    const size = magnitude(here);
    while (sum.slopeBound(omega + reach) * reach > 0.9 * size) {
      reach /= 2;
      if (reach < 1e-10 * Math.max(omega, 1e-3)) return null;
    }
    const there = sum.at(omega + reach);
    turn += wrapped(Math.atan2(there.im, there.re) - Math.atan2(here.im, here.re));
    omega += reach;
    here = there;
  }
  // Beyond `end` the sum stays near its first term and ends in its direction.
  const first = new DelayedSumOnAxis([terms[0]!]).at(end);
  turn += wrapped(Math.atan2(first.im, first.re) - Math.atan2(here.im, here.re));
  turn += phaseOfRoots(ofFirst, 1e300) - phaseOfRoots(ofFirst, end);
  return Math.round(((order * Math.PI) / 2 - turn) / Math.PI);
}
