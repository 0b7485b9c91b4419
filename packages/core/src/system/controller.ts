import type { Fraction } from '../rational/fraction.js';
import { type Rational, rational } from '../rational/number.js';
import { add, constant, multiply, one, s } from '../rational/polynomial.js';

/** Controllers in parallel form: Kp + Ki/s + Kd·s, with the terms that the form leaves open. */
export type ControllerForm = 'P' | 'PI' | 'PD' | 'PID';
export type Gain = 'Kp' | 'Ki' | 'Kd';
export type Gains = Partial<Record<Gain, Rational>>;

/** The gains that each form leaves open, in the order in which people write them. */
export const gainsOfForm: Readonly<Record<ControllerForm, readonly Gain[]>> = {
  P: ['Kp'],
  PI: ['Kp', 'Ki'],
  PD: ['Kp', 'Kd'],
  PID: ['Kp', 'Ki', 'Kd'],
};

/**
 * The controller as a fraction: (Kd·s² + Kp·s + Ki)/s, or Kd·s + Kp when Ki is zero, because then nothing integrates.
 * Gains that are not given count as zero. Kp in output per error, Ki in that per second, Kd in that times seconds.
 */
export function controllerOf(gains: Gains): Fraction {
  const none = rational(0n);
  const proportional = constant(gains.Kp ?? none);
  const derivative = multiply(constant(gains.Kd ?? none), s);
  const integral = gains.Ki ?? none;
  const withoutIntegral = add(proportional, derivative);
  if (integral.numerator === 0n) return { numerator: withoutIntegral, denominator: one };
  return { numerator: add(multiply(withoutIntegral, s), constant(integral)), denominator: s };
}
