import { Problem } from '../expression/problem.js';
import { type Fraction, isProper, multiplyFractions } from '../rational/fraction.js';
import { type Polynomial, add, degree, isHurwitz, isZero } from '../rational/polynomial.js';
import { type Pole, type System, poleOf, systemOf } from './system.js';
import { roots } from './roots.js';

/** A loop with unity negative feedback. */
export interface Loop {
  /** Controller times plant, common factors kept. */
  readonly open: Fraction;
  /** Reference to output, in lowest terms. */
  readonly closed: System;
  /** Its roots are all the modes of the loop, those hidden by cancellation included. */
  readonly characteristic: Polynomial;
  /** Every mode decays, hidden ones included; decided exactly. */
  readonly stable: boolean;
}

/**
 * The loop y = L·(r − y) around L = controller · plant, exact: open loop, reference to output with common factors kept,
 * and characteristic polynomial. No root is computed, so it is quick whatever the order.
 * @throws Problem `improper` when the loop has no solution that starts from rest (L tends to −1 at high frequency, or the plant is improper).
 */
export function closedFraction(
  controller: Fraction,
  plant: Fraction,
): { open: Fraction; fraction: Fraction; characteristic: Polynomial } {
  if (!isProper(plant)) {
    throw new Problem('improper', 'The plant has more zeros than poles, so it cannot be built or simulated.');
  }
  const open = multiplyFractions(controller, plant);
  const characteristic = add(open.numerator, open.denominator);
  const fraction: Fraction = { numerator: open.numerator, denominator: characteristic };
  if (isZero(characteristic) || !isProper(fraction)) {
    throw new Problem(
      'improper',
      'With these gains the loop is not well posed: its gain tends to −1 at high frequency.',
    );
  }
  return { open, fraction, characteristic };
}

/** The closed loop in numbers. @throws Problem as `closedFraction`. */
export function closeLoop(controller: Fraction, plant: Fraction): Loop {
  const { open, fraction, characteristic } = closedFraction(controller, plant);
  const closed = systemOf(fraction);
  const hidesNone = degree(characteristic) === degree(closed.fraction.denominator);
  return { open, closed, characteristic, stable: hidesNone ? closed.stable : isHurwitz(characteristic) };
}

/** Every mode of the loop, hidden ones included. */
export function modesOf(loop: Loop): Pole[] {
  const hidesNone = degree(loop.characteristic) === degree(loop.closed.fraction.denominator);
  return hidesNone ? [...loop.closed.poles] : roots(loop.characteristic).map(poleOf);
}
