import type { Complex } from '../system/complex.js';
import type { Root } from '../system/roots.js';
import { type System, systemOf } from '../system/system.js';
import { asDelayedFraction, type Transfer, withDeadTime } from '../system/transfer.js';
import { DelayedSum } from './delayedSum.js';

/** L(jω) in the form in which it is read: magnitude as a natural logarithm, phase in radians and continuous in ω. */
export interface FrequencyFunction {
  logMagnitude(omega: number): number;
  phase(omega: number): number;
  value(omega: number): Complex;
}

/**
 * Angle of jω − root, continuous in ω. A root on the axis is passed on its right, so the angle jumps by +π there.
 */
export function factorPhase({ re, im }: Root, omega: number): number {
  const rise = omega - im;
  if (re < 0) return Math.atan2(rise, -re);
  if (re > 0) return Math.PI - Math.atan2(rise, re);
  return rise < 0 ? -Math.PI / 2 : Math.PI / 2;
}

/** Sum of the angles of all factors; poles on the real axis and pairs start from a multiple of π at ω = 0. */
export function phaseOfRoots(roots: readonly Root[], omega: number): number {
  let sum = 0;
  for (const root of roots) sum += root.multiplicity * factorPhase(root, omega);
  return sum;
}

/** Σ log |jω − root|. One logarithm for many factors, as long as their product stays within the range of doubles. */
function logDistances(roots: readonly Root[], omega: number): number {
  let sum = 0;
  let product = 1;
  for (const { re, im, multiplicity } of roots) {
    const square = re * re + (omega - im) * (omega - im);
    if (!(square > 1e-100 && square < 1e100)) {
      sum += 2 * multiplicity * Math.log(Math.hypot(re, omega - im));
      continue;
    }
    for (let k = 0; k < multiplicity; k++) {
      product *= square;
      if (product > 1e-150 && product < 1e150) continue;
      sum += Math.log(product);
      product = 1;
    }
  }
  return (sum + Math.log(product)) / 2;
}

/** A fraction with a dead time (in seconds) as a factor, evaluated by its poles and zeros. */
export class FactoredFrequency implements FrequencyFunction {
  private readonly shift: number;

  constructor(
    readonly system: System,
    readonly deadTime: number,
  ) {
    // At low frequency the phase is the one that people read: 0 or −180 degrees for a constant, −90 for each integrator.
    const { zeros, poles, gain } = system;
    const rightward = (roots: readonly Root[]): number =>
      roots.reduce((sum, { re, multiplicity }) => sum + (re > 0 ? multiplicity : 0), 0);
    const negative = gain < 0 !== (rightward(zeros) + rightward(poles)) % 2 > 0;
    const atOrigin = (roots: readonly Root[]): number =>
      roots.reduce((sum, { re, im, multiplicity }) => sum + (re === 0 && im === 0 ? multiplicity : 0), 0);
    const wanted = (negative ? -Math.PI : 0) + ((atOrigin(zeros) - atOrigin(poles)) * Math.PI) / 2;
    this.shift = wanted - (phaseOfRoots(zeros, 0) - phaseOfRoots(poles, 0));
  }

  logMagnitude(omega: number): number {
    const { gain, zeros, poles } = this.system;
    return Math.log(Math.abs(gain)) + logDistances(zeros, omega) - logDistances(poles, omega);
  }

  phase(omega: number): number {
    const { zeros, poles } = this.system;
    return this.shift + phaseOfRoots(zeros, omega) - phaseOfRoots(poles, omega) - omega * this.deadTime;
  }

  value(omega: number): Complex {
    const size = Math.exp(this.logMagnitude(omega));
    const angle = this.phase(omega);
    return { re: size * Math.cos(angle), im: size * Math.sin(angle) };
  }
}

/** The frequency function of any transfer, dead times in loops and sums included. */
export function frequencyFunction(transfer: Transfer): FrequencyFunction {
  if (!withDeadTime(transfer)) return new DelayedSum(transfer);
  const { fraction, deadTime } = asDelayedFraction(transfer, 'A frequency response');
  return new FactoredFrequency(systemOf(fraction), deadTime);
}

/**
 * Magnitudes in decibels and phases in degrees (continuous in ω) at frequencies in rad/s. At a pole on the axis the
 * magnitude is infinite, at a zero −infinite.
 */
export function magnitudeAndPhase(
  transfer: Transfer,
  omegas: ArrayLike<number>,
  response: FrequencyFunction = frequencyFunction(transfer),
): { magnitudesDb: Float64Array; phasesDegrees: Float64Array } {
  const magnitudesDb = new Float64Array(omegas.length);
  const phasesDegrees = new Float64Array(omegas.length);
  for (let k = 0; k < omegas.length; k++) {
    magnitudesDb[k] = (20 / Math.LN10) * response.logMagnitude(omegas[k]!);
    phasesDegrees[k] = (180 / Math.PI) * response.phase(omegas[k]!);
  }
  return { magnitudesDb, phasesDegrees };
}

interface Roots {
  readonly zeros: readonly Root[];
  readonly poles: readonly Root[];
}

/** From a thirtieth of the slowest to thirty times the fastest corner, in rad/s. */
function cornerSpan({ zeros, poles }: Roots): readonly [from: number, to: number] {
  const corners = [...poles, ...zeros].map(({ re, im }) => Math.hypot(re, im)).filter((size) => size > 0);
  if (corners.length === 0) return [1 / 30, 30];
  return [Math.min(...corners) / 30, Math.max(...corners) * 30];
}

/**
 * Frequencies for a plot of L(jω), rising: logarithmic over a span in rad/s, around all corners unless given, denser
 * where a lightly damped pair bends the curve.
 */
export function plotFrequencies(system: Roots, count = 400, [from, to] = cornerSpan(system)): Float64Array {
  const [low, high] = [Math.log(from), Math.log(to)];
  const sharp = [...system.poles, ...system.zeros].filter(
    ({ re, im }) => im > from && im < to && Math.abs(re) < 0.3 * im,
  );
  const perPair = sharp.length > 0 ? Math.floor(count / (3 * sharp.length)) : 0;
  const even = count - perPair * sharp.length;
  const points = Array.from({ length: even }, (_, k) => Math.exp(low + ((high - low) * k) / (even - 1)));
  for (const { re, im } of sharp) {
    const width = Math.max(Math.abs(re), 1e-6 * im);
    for (let k = 0; k < perPair; k++) {
      // Equal steps of angle seen from the pole.
      const angle = (Math.PI * (k + 0.5)) / perPair - Math.PI / 2;
      points.push(Math.min(to, Math.max(im + width * Math.tan(0.95 * angle), im / 30, from)));
    }
  }
  return Float64Array.from(points).sort();
}
