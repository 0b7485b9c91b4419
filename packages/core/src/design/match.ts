import { Problem } from '../expression/problem.js';
import { type Fraction, isProper } from '../rational/fraction.js';
import { solveLinear } from '../rational/matrix.js';
import { multiplyRational, type Rational, rational, subtractRational } from '../rational/number.js';
import { coefficient, degree, monic, multiply, one, type Polynomial, s } from '../rational/polynomial.js';
import { type ControllerForm, type Gain, gainsOfForm } from '../system/controller.js';

/**
 * The gains for which the loop with unity feedback has the wanted characteristic polynomial, exact: coefficients are
 * matched one by one, which is linear in the gains.
 * @throws Problem `notPossible` when the form leaves too few gains open, with what fits the order.
 */
export function matchPolynomial(plant: Fraction, form: ControllerForm, wanted: Polynomial): Record<Gain, Rational> {
  if (!isProper(plant)) throw new Problem('improper', 'The plant has more zeros than poles.');
  const integrates = form === 'PI' || form === 'PID';
  const base = multiply(plant.denominator, integrates ? s : one);
  const parts: Record<Gain, Polynomial> = {
    Kp: multiply(plant.numerator, integrates ? s : one),
    Ki: plant.numerator,
    Kd: multiply(multiply(plant.numerator, s), integrates ? s : one),
  };
  const gains = gainsOfForm[form];
  const order = Math.max(degree(base), ...gains.map((gain) => degree(parts[gain])));
  if (degree(wanted) !== order) {
    throw new Problem(
      'notPossible',
      `This loop has ${order} poles; the wanted polynomial is of degree ${degree(wanted)}.`,
    );
  }
  const target = monic(wanted);
  // base + Σ gain·part = lead·target, where lead is the left side's own highest coefficient.
  const match = (p: Polynomial, power: number): Rational =>
    subtractRational(coefficient(p, power), multiplyRational(coefficient(p, order), coefficient(target, power)));
  const rows = Array.from({ length: order }, (_, power) => gains.map((gain) => match(parts[gain], power)));
  const right = Array.from({ length: order }, (_, power) => subtractRational(rational(0n), match(base, power)));
  const solved = solveLinear(rows, right);
  if (!solved) {
    throw new Problem(
      'notPossible',
      `No ${form} gains give this polynomial: ${order} coefficients are to be met with ${gains.length} gains.`,
    );
  }
  const result: Record<Gain, Rational> = { Kp: rational(0n), Ki: rational(0n), Kd: rational(0n) };
  gains.forEach((gain, k) => (result[gain] = solved.x[k]!));
  return result;
}
