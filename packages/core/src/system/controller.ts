import { Problem } from '../expression/problem.js';
import { addFractions, type Fraction } from '../rational/fraction.js';
import { bitLength } from '../rational/integer.js';
import {
  addRational,
  divideRational,
  multiplyRational,
  type Rational,
  rational,
  subtractRational,
} from '../rational/number.js';
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

const none = rational(0n);

/**
 * The controller as a fraction: (Kd·s² + Kp·s + Ki)/s, or Kd·s + Kp when Ki is zero, because then nothing integrates;
 * with a filter time the derivative is Kd·s/(filterTime·s + 1).
 * Gains that are not given count as zero. Kp in output per error, Ki in that per second, Kd in that times seconds.
 */
export function controllerOf(gains: Gains, filterTime: Rational = none): Fraction {
  const derivative = multiply(constant(gains.Kd ?? none), s);
  if (filterTime.numerator !== 0n) {
    const filter = add(multiply(constant(filterTime), s), constant(rational(1n)));
    return addFractions(controllerOf({ ...gains, Kd: none }), { numerator: derivative, denominator: filter });
  }
  const proportional = constant(gains.Kp ?? none);
  const integral = gains.Ki ?? none;
  const withoutIntegral = add(proportional, derivative);
  if (integral.numerator === 0n) return { numerator: withoutIntegral, denominator: one };
  return { numerator: add(multiply(withoutIntegral, s), constant(integral)), denominator: s };
}

/**
 * What the reference goes through when the controller weighs it: setPoint·Kp + Ki/s + derivativeSetPoint·Kd·s; the
 * output always goes through `controllerOf`.
 */
export function weightedController(
  gains: Gains,
  weights: { readonly proportional: Rational; readonly derivative: Rational },
  filterTime: Rational = none,
): Fraction {
  const weighted: Gains = {
    Kp: multiplyRational(gains.Kp ?? none, weights.proportional),
    Ki: gains.Ki ?? none,
    Kd: multiplyRational(gains.Kd ?? none, weights.derivative),
  };
  return controllerOf(weighted, filterTime);
}

/**
 * The three forms of one PID controller. Parallel: Kp + Ki/s + Kd·s. Ideal: Kp·(1 + 1/(Ti·s) + Td·s). Series:
 * Kp·(1 + 1/(Ti·s))·(1 + Td·s). With a filter time Tf the term of each that has s above the line is divided by
 * Tf·s + 1. Times in seconds; Ti null means that nothing integrates.
 */
export type PidForm =
  | { readonly form: 'parallel'; readonly Kp: Rational; readonly Ki: Rational; readonly Kd: Rational }
  | { readonly form: 'ideal' | 'series'; readonly Kp: Rational; readonly Ti: Rational | null; readonly Td: Rational };

/** Gains of the parallel form with the same filter; always possible. @throws Problem `notPossible` for Ti = 0. */
export function toParallel(controller: PidForm, filterTime: Rational = none): Extract<PidForm, { form: 'parallel' }> {
  if (controller.form === 'parallel') return controller;
  const { Kp, Ti, Td } = controller;
  if (Ti?.numerator === 0n) throw new Problem('notPossible', 'Ti = 0 would integrate infinitely fast.');
  const Ki = Ti ? divideRational(Kp, Ti) : none;
  const Kd = multiplyRational(Kp, Td);
  if (controller.form === 'ideal' || !Ti) return { form: 'parallel', Kp, Ki, Kd };
  // Of the product (1/(Ti·s))·Td·s/(Tf·s + 1) one part is constant and one has the filter.
  const filtered = divideRational(multiplyRational(Kd, filterTime), Ti);
  return { form: 'parallel', Kp: addRational(Kp, divideRational(Kd, Ti)), Ki, Kd: subtractRational(Kd, filtered) };
}

/**
 * The same controller in another form with the same filter, exact; the series form is exact where its times are
 * rational, otherwise good to 128 binary places.
 * @throws Problem `notPossible` when the form cannot express it, with the reason.
 */
export function convertController(controller: PidForm, form: PidForm['form'], filterTime: Rational = none): PidForm {
  const { Kp, Ki, Kd } = toParallel(controller, filterTime);
  if (form === 'parallel') return { form, Kp, Ki, Kd };
  if (Kp.numerator === 0n) {
    throw new Problem('notPossible', `Without proportional action (Kp = 0) there is no ${form} form.`);
  }
  if (form === 'ideal') {
    return { form, Kp, Ti: Ki.numerator === 0n ? null : divideRational(Kp, Ki), Td: divideRational(Kd, Kp) };
  }
  if (Ki.numerator === 0n) return { form, Kp, Ti: null, Td: divideRational(Kd, Kp) };
  if (Kd.numerator === 0n) return { form, Kp, Ti: divideRational(Kp, Ki), Td: none };
  // Ti + (Td + Tf) = Kp/Ki + Tf and Ti·(Td + Tf) = (Kd + Kp·Tf)/Ki.
  const sum = addRational(divideRational(Kp, Ki), filterTime);
  const product = divideRational(addRational(Kd, multiplyRational(Kp, filterTime)), Ki);
  const square = subtractRational(multiplyRational(sum, sum), multiplyRational(rational(4n), product));
  if (square.numerator < 0n) {
    throw new Problem(
      'notPossible',
      filterTime.numerator === 0n
        ? 'There is no series form: its two zeros would be complex (Ti is less than four times Td).'
        : 'There is no series form: its two zeros would be complex.',
    );
  }
  const half = rational(1n, 2n);
  const root = squareRoot(square);
  const outward = sum.numerator < 0n ? subtractRational(sum, root) : addRational(sum, root);
  const Ti = multiplyRational(outward, half);
  const Td = subtractRational(divideRational(product, Ti), filterTime);
  return { form, Kp: multiplyRational(Ki, Ti), Ti, Td };
}

/** Exact for squares of rational numbers, otherwise to 128 binary places. */
function squareRoot({ numerator, denominator }: Rational): Rational {
  const whole = wholeRoot(numerator * denominator);
  if (whole * whole === numerator * denominator) return rational(whole, denominator);
  return rational(wholeRoot((numerator * denominator) << 256n), denominator << 128n);
}

/** ⌊√value⌋. Method: Newton. */
function wholeRoot(value: bigint): bigint {
  if (value < 2n) return value;
  let guess = 1n << BigInt(Math.ceil(bitLength(value) / 2) + 1);
  for (;;) {
    const next = (guess + value / guess) / 2n;
    if (next >= guess) return guess;
    guess = next;
  }
}

/**
 * A lead (zero to the right of the pole) or lag compensator gain·(s + zero)/(s + pole), both in rad/s.
 * @throws Problem `notPossible` unless both are positive.
 */
export function leadLag(gain: Rational, zero: Rational, pole: Rational): Fraction {
  if (zero.numerator <= 0n || pole.numerator <= 0n) {
    throw new Problem('notPossible', 'Zero and pole of a lead or lag lie in the left half-plane.');
  }
  return {
    numerator: multiply(constant(gain), add(s, constant(zero))),
    denominator: add(s, constant(pole)),
  };
}
