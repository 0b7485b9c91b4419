import { FactoredFrequency } from '../frequency/bode.js';
import { phaseCrossings } from '../frequency/crossings.js';
import { countEncirclements } from '../frequency/stability.js';
import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { type Rational, rationalFromNumber, rationalToNumber } from '../rational/number.js';
import {
  add,
  coefficient,
  commonFactor,
  constant,
  degree,
  isHurwitz,
  isZero,
  multiply,
} from '../rational/polynomial.js';
import { systemOf } from '../system/system.js';
import { specialPoints } from './specialPoints.js';

/** An open interval of gains; the end may be infinite. */
export type Range = readonly [from: number, to: number];

/**
 * The intervals of K > 0 for which every mode of D + K·N decays, hidden ones included. Critical gains are those of the
 * axis crossings and where the degree drops; between two of them one exact test decides for all.
 */
export function stableGains(loop: Fraction): Range[] {
  const { numerator, denominator } = loop;
  const critical = specialPoints(loop).axisCrossings.map(({ gain }) => gain);
  if (degree(numerator) === degree(denominator) && !isZero(numerator)) {
    const top = degree(denominator);
    critical.push(-rationalToNumber(coefficient(denominator, top)) / rationalToNumber(coefficient(numerator, top)));
  }
  const proper = degree(numerator) <= degree(denominator);
  return rangesBetween(critical, (gain) => {
    const characteristic = add(denominator, multiply(constant(gain), numerator));
    return (proper || degree(characteristic) === degree(numerator)) && isHurwitz(characteristic);
  });
}

/** The same with a dead time as a factor of L, decided by the encirclement count; gains up to a thousand times the first critical one. */
export function stableGainsWithDeadTime(loop: Fraction, deadTime: Rational): Range[] {
  if (deadTime.numerator === 0n) return stableGains(loop);
  if (!isHurwitz(commonFactor(loop.numerator, loop.denominator))) return [];
  const fraction = lowestTerms(loop);
  const response = new FactoredFrequency(systemOf(fraction), rationalToNumber(deadTime));
  const critical = phaseCrossings(fraction, deadTime, response).map((omega) => Math.exp(-response.logMagnitude(omega)));
  const atOrigin = specialPoints(fraction).axisCrossings.find(({ omega }) => omega === 0);
  if (atOrigin) critical.push(atOrigin.gain);
  return rangesBetween(critical, (gain) => {
    const scaled = { numerator: multiply(constant(gain), fraction.numerator), denominator: fraction.denominator };
    return countEncirclements(scaled, rationalToNumber(deadTime)).closedLoopUnstable === 0;
  });
}

/** Tests one value between every two critical ones; neighbours that both pass stay apart, as the point between is critical. */
export function rangesBetween(critical: readonly number[], passes: (value: Rational) => boolean, least = 0): Range[] {
  const inside = critical.filter((value) => value > least && Number.isFinite(value)).sort((a, b) => a - b);
  const ends = [least, ...inside.filter((value, k) => k === 0 || value > inside[k - 1]! * (1 + 1e-12)), Infinity];
  const ranges: Range[] = [];
  for (let k = 0; k + 1 < ends.length; k++) {
    const [from, to] = [ends[k]!, ends[k + 1]!];
    if (passes(rationalFromNumber(between(from, to)))) ranges.push([from, to]);
  }
  return ranges;
}

/** Some number between two, either of which may be infinite. */
function between(from: number, to: number): number {
  if (from === -Infinity) return to === Infinity ? 0 : to - Math.max(1, Math.abs(to));
  return to === Infinity ? from + Math.max(1, Math.abs(from)) : (from + to) / 2;
}
