import type { Fraction } from '../rational/fraction.js';
import type { Rational } from '../rational/number.js';
import { add, constant, derivative, isZero, multiply, negate, type Polynomial } from '../rational/polynomial.js';
import { inSquares, onAxis, overOmega, positiveFrequencies, ratioOnAxis, squaredMagnitude } from './axis.js';
import type { FactoredFrequency } from './bode.js';

/** With dead time L crosses the negative real axis for ever; what is this much smaller than the largest is left out. */
const smallestShare = 1e-3;
const mostCrossings = 100;

/** All ω > 0, rising, with |L(jω)| = 1. */
export function gainCrossings(numerator: Polynomial, denominator: Polynomial): number[] {
  const difference = add(squaredMagnitude(onAxis(numerator)), negate(squaredMagnitude(onAxis(denominator))));
  return positiveFrequencies(inSquares(difference));
}

/**
 * All ω > 0, rising, at which L = fraction·exp(−delay·s) is real and negative; `of` is the same L. With dead time, those
 * whose gain margin is up to 1000 times the smallest, the first hundred.
 */
export function phaseCrossings(fraction: Fraction, delay: Rational, response: FactoredFrequency): number[] {
  if (isZero(fraction.numerator)) return [];
  const axisZeros = response.system.zeros.filter(({ re, im }) => re === 0 && im > 0).map(({ im }) => im);
  const axisPoles = response.system.poles.filter(({ re, im }) => re === 0 && im > 0).map(({ im }) => im);
  if (delay.numerator === 0n) {
    return positiveFrequencies(inSquares(overOmega(ratioOnAxis(fraction).imaginary))).filter((omega) => {
      // Where numerator or denominator vanishes, L is no negative number.
      const isRoot = [...axisZeros, ...axisPoles].some((root) => Math.abs(omega - root) < 1e-9 * root);
      return !isRoot && Math.cos(response.phase(omega)) < 0;
    });
  }
  const turns = phaseTurns(fraction, delay);
  const cuts = [...new Set([0, ...turns, ...axisZeros, ...axisPoles])].sort((a, b) => a - b);
  const crossings: number[] = [];
  let largest = -Infinity;
  for (let k = 0; k < cuts.length && crossings.length < mostCrossings; k++) {
    const from = cuts[k]!;
    const to = cuts[k + 1] ?? Infinity;
    for (const omega of crossingsBetween(response, from, to)) {
      const size = response.logMagnitude(omega);
      largest = Math.max(largest, size);
      if (size < largest + Math.log(smallestShare)) {
        if (to === Infinity) break;
        continue;
      }
      crossings.push(omega);
      if (crossings.length >= mostCrossings) break;
    }
  }
  return crossings;
}

/** Frequencies at which the phase of L, dead time included, turns round. */
function phaseTurns({ numerator, denominator }: Fraction, delay: Rational): number[] {
  const [n, d] = [onAxis(numerator), onAxis(denominator)];
  const [sizeN, sizeD] = [squaredMagnitude(n), squaredMagnitude(d)];
  const turning = ({ real, imaginary }: typeof n): Polynomial =>
    add(multiply(real, derivative(imaginary)), negate(multiply(imaginary, derivative(real))));
  const slope = add(
    add(multiply(turning(n), sizeD), negate(multiply(turning(d), sizeN))),
    negate(multiply(constant(delay), multiply(sizeN, sizeD))),
  );
  return positiveFrequencies(inSquares(slope));
}

/** Where a monotone stretch of the phase passes an odd multiple of π. */
function* crossingsBetween(response: FactoredFrequency, from: number, to: number): Generator<number> {
  const start = response.phase(from + 1e-12 * from);
  const falling = to === Infinity || response.phase(to * (1 - 1e-12)) < start;
  const step = falling ? -2 * Math.PI : 2 * Math.PI;
  let level = Math.PI * (2 * Math.floor((start - Math.PI) / (2 * Math.PI)) + 1);
  // The first odd multiple of π that lies ahead.
  if (falling && level >= start) level -= 2 * Math.PI;
  if (!falling && level <= start) level += 2 * Math.PI;
  for (;;) {
    const beyond = (omega: number): boolean =>
      falling ? response.phase(omega) <= level : response.phase(omega) >= level;
    let high = to === Infinity ? 2 * from || 1 / response.deadTime : to * (1 - 1e-12);
    if (to === Infinity) while (!beyond(high)) high *= 2;
    else if (!beyond(high)) return;
    let low = from;
    for (let round = 0; round < 200 && high - low > Number.EPSILON * high; round++) {
      const middle = (low + high) / 2;
      if (beyond(middle)) high = middle;
      else low = middle;
    }
    yield (low + high) / 2;
    level += step;
  }
}
