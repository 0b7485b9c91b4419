import type { Fraction } from '../rational/fraction.js';
import { multiplyRational, rational, rationalToNumber } from '../rational/number.js';
import {
  add,
  coefficient,
  constant,
  degree,
  derivative,
  multiply,
  negate,
  type Polynomial,
} from '../rational/polynomial.js';
import { type Root, roots } from '../system/roots.js';
import { simplified, type Transfer, unityFeedback, withDeadTime } from '../system/transfer.js';
import { inSquares, onAxis, positiveFrequencies, squaredMagnitude } from './axis.js';
import { type FrequencyFunction, frequencyFunction, plotFrequencies } from './bode.js';

/** A largest magnitude (ratio) and where it lies, in rad/s; at infinity when it is approached at high frequency. */
export interface Peak {
  readonly magnitude: number;
  readonly omega: number;
}

/**
 * The largest |T(jω)| over all ω ≥ 0. Without dead time at a zero of the derivative of |T|², found exactly; with dead
 * time inside a loop by a fine search (1e-8 relative).
 */
export function peakOf(written: Transfer): Peak {
  const transfer = simplified(written);
  const plain = withDeadTime(transfer);
  const response = frequencyFunction(transfer);
  const candidates = plain ? turningFrequencies(plain.fraction) : searchedTurns(transfer, response);
  let best: Peak = { magnitude: Math.exp(response.logMagnitude(0)), omega: 0 };
  if (Number.isNaN(best.magnitude)) best = { magnitude: 0, omega: 0 };
  for (const omega of candidates) {
    const magnitude = Math.exp(response.logMagnitude(omega));
    if (magnitude > best.magnitude * (1 + 1e-12)) best = { magnitude, omega };
  }
  const atInfinity = plain ? limitAtInfinity(plain.fraction) : 0;
  return atInfinity > best.magnitude * (1 + 1e-12) ? { magnitude: atInfinity, omega: Infinity } : best;
}

function limitAtInfinity({ numerator, denominator }: Fraction): number {
  const [above, below] = [degree(numerator), degree(denominator)];
  if (above < below) return 0;
  if (above > below) return Infinity;
  const [a, b] = [coefficient(numerator, above), coefficient(denominator, below)];
  return Math.abs(rationalToNumber(a) / rationalToNumber(b));
}

/** Frequencies at which |fraction| has a level tangent. */
function turningFrequencies({ numerator, denominator }: Fraction): number[] {
  const above = inSquares(squaredMagnitude(onAxis(numerator)));
  const below = inSquares(squaredMagnitude(onAxis(denominator)));
  return positiveFrequencies(add(multiply(derivative(above), below), negate(multiply(above, derivative(below)))));
}

/** Peaks on a fine logarithmic grid, each refined by golden section. */
function searchedTurns(transfer: Transfer, response: FrequencyFunction): number[] {
  const grid = searchGrid(transfer);
  const turns: number[] = [];
  const values = Array.from(grid, (omega) => response.logMagnitude(omega));
  for (let k = 1; k + 1 < grid.length; k++) {
    if (values[k]! < values[k - 1]! || values[k]! < values[k + 1]!) continue;
    turns.push(goldenPeak((omega) => response.logMagnitude(omega), grid[k - 1]!, grid[k + 1]!));
  }
  return turns;
}

/** Frequencies close enough together that no peak of a well damped loop lies between them. */
function searchGrid(transfer: Transfer): Float64Array {
  const terms = [...transfer.numerator, ...transfer.denominator];
  const delays = terms.map(({ delay }) => rationalToNumber(delay)).filter((delay) => delay > 0);
  const corners = delays.map((delay): Root => ({ re: -1 / delay, im: 0, multiplicity: 1 }));
  return plotFrequencies({ zeros: corners, poles: terms.flatMap(({ polynomial }) => roots(polynomial)) }, 3000);
}

function goldenPeak(of: (x: number) => number, from: number, to: number): number {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [from, to];
  let [x, y] = [b - ratio * (b - a), a + ratio * (b - a)];
  let [fx, fy] = [of(x), of(y)];
  while (b - a > 1e-9 * b) {
    if (fx > fy) {
      [b, y, fy] = [y, x, fx];
      x = b - ratio * (b - a);
      fx = of(x);
    } else {
      [a, x, fx] = [x, y, fy];
      y = a + ratio * (b - a);
      fy = of(y);
    }
  }
  return (a + b) / 2;
}

/** Largest |1/(1 + L)|, the sensitivity peak Ms, of the loop with unity feedback around L. */
export function sensitivityPeak(open: Transfer): Peak {
  return peakOf({ numerator: open.denominator, denominator: unityFeedback(open).denominator });
}

/** Largest |L/(1 + L)|, the resonance peak of the closed loop. */
export const closedLoopPeak = (open: Transfer): Peak => peakOf(unityFeedback(open));

/**
 * Bandwidth in rad/s: the lowest ω at which |T| falls to 1/√2 of its value at ω = 0; infinite when it never does,
 * null when there is no finite value other than zero at ω = 0.
 */
export function bandwidthOf(written: Transfer): number | null {
  const transfer = simplified(written);
  const response = frequencyFunction(transfer);
  const start = response.logMagnitude(0);
  if (!Number.isFinite(start)) return null;
  const plain = withDeadTime(transfer);
  if (plain) return halfPowerFrequencies(plain.fraction)[0] ?? Infinity;
  const level = start - Math.LN2 / 2;
  const grid = searchGrid(transfer);
  let [low, high] = [0, grid.find((omega) => response.logMagnitude(omega) < level) ?? Infinity];
  if (high === Infinity) return high;
  for (const omega of grid) if (omega < high) low = omega;
  for (let round = 0; round < 60; round++) {
    const middle = (low + high) / 2;
    if (response.logMagnitude(middle) < level) high = middle;
    else low = middle;
  }
  return high;
}

/** Where 2|N|²·D(0)² = N(0)²·|D|². */
function halfPowerFrequencies({ numerator, denominator }: Fraction): number[] {
  const squareAt = (p: Polynomial): Polynomial => {
    const value = coefficient(p, 0);
    return constant(multiplyRational(value, value));
  };
  const above = multiply(squaredMagnitude(onAxis(numerator)), squareAt(denominator));
  const below = multiply(squaredMagnitude(onAxis(denominator)), squareAt(numerator));
  return positiveFrequencies(inSquares(add(multiply(constant(rational(2n)), above), negate(below))));
}
