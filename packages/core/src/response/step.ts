import { Problem } from '../expression/problem.js';
import { type Fraction, isProper } from '../rational/fraction.js';
import type { Root } from '../system/roots.js';
import { type System, systemOf } from '../system/system.js';
import { dividedDifferenceMotion } from './dividedDifferences.js';
import { modalMotion } from './modes.js';
import type { Motion } from './motion.js';

/**
 * Response to a unit step at t = 0 of a system at rest, exact up to rounding (1e-9 of the largest value): a sum of
 * modes, or divided differences of exponentials where poles nearly coincide.
 * @throws Problem `improper` when the system has more zeros than poles.
 */
export function stepResponse(system: System): Motion {
  if (!isProper(system.fraction)) {
    throw new Problem('improper', 'More zeros than poles: the step response would start with an impulse.');
  }
  return integratedMotion(system, 1);
}

/** The time function of a strictly proper fraction. */
export const inverseTransform = (fraction: Fraction): Motion => integratedMotion(systemOf(fraction), 0);

/**
 * The time function of a system over s^integrators, which must be strictly proper: the response to an impulse, step,
 * ramp or parabola for 0, 1, 2 or 3 integrators.
 */
export function integratedMotion({ gain, zeros, poles }: System, integrators: number): Motion {
  if (gain === 0) return modalMotion(0, [], []).motion;
  const isOrigin = ({ re, im }: Root): boolean => re === 0 && im === 0;
  const count = (roots: readonly Root[]): number => roots.find(isOrigin)?.multiplicity ?? 0;
  const atOrigin = integrators + count(poles) - count(zeros);
  const ownPoles: Root[] = poles.filter((pole) => !isOrigin(pole));
  const ownZeros: Root[] = zeros.filter((zero) => !isOrigin(zero));
  if (atOrigin > 0) ownPoles.push({ re: 0, im: 0, multiplicity: atOrigin });
  if (atOrigin < 0) ownZeros.push({ re: 0, im: 0, multiplicity: -atOrigin });
  const { motion, error } = modalMotion(gain, ownZeros, ownPoles);
  if (error <= 1e-11 * typicalSize(motion, ownPoles)) return motion;
  return dividedDifferenceMotion(gain, ownZeros, ownPoles);
}

/** Largest value at the times that the poles set. */
function typicalSize(motion: Motion, poles: readonly Root[]): number {
  let largest = 0;
  // After the sum of all time constants a response has long begun, whatever the order.
  const together = poles.reduce((sum, { re, multiplicity }) => (re < 0 ? sum - multiplicity / re : sum), 0);
  if (together > 0) largest = Math.max(Math.abs(motion.at(together)), Math.abs(motion.at(2 * together)));
  for (const { re, im } of poles) {
    const size = Math.hypot(re, im);
    if (size === 0) continue;
    for (const time of [0.5 / size, 1 / size, 3 / size, 8 / size]) {
      largest = Math.max(largest, Math.abs(motion.at(time)));
    }
  }
  return largest || Math.abs(motion.at(1));
}
