import { Problem } from '../expression/problem.js';
import { type Fraction, isProper } from '../rational/fraction.js';
import { isZero, multiply, s } from '../rational/polynomial.js';
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
  return inverseTransform({
    numerator: system.fraction.numerator,
    denominator: multiply(system.fraction.denominator, s),
  });
}

/** The time function of a strictly proper fraction. */
export function inverseTransform(fraction: Fraction): Motion {
  if (isZero(fraction.numerator)) return modalMotion(0, [], []).motion;
  const { gain, zeros, poles } = systemOf(fraction);
  const { motion, error } = modalMotion(gain, zeros, poles);
  const scale = typicalSize(motion, poles);
  if (error <= 1e-11 * scale) return motion;
  return dividedDifferenceMotion(gain, zeros, poles);
}

/** Largest value at the times that the poles set. */
function typicalSize(motion: Motion, poles: readonly { re: number; im: number }[]): number {
  let largest = 0;
  for (const { re, im } of poles) {
    const size = Math.hypot(re, im);
    if (size === 0) continue;
    for (const time of [0.5 / size, 1 / size, 3 / size, 8 / size]) {
      largest = Math.max(largest, Math.abs(motion.at(time)));
    }
  }
  return largest || Math.abs(motion.at(1));
}
