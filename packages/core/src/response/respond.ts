import { Problem } from '../expression/problem.js';
import { type Fraction, isProper } from '../rational/fraction.js';
import {
  addRational,
  divideRational,
  multiplyRational,
  type Rational,
  rational,
  rationalFromNumber,
  rationalToNumber,
} from '../rational/number.js';
import { coefficient, degree, divide, type Polynomial, polynomialOf } from '../rational/polynomial.js';
import { systemOf } from '../system/system.js';
import { highestDegree, simplified, type Transfer } from '../system/transfer.js';
import { delayRun } from './delayLoop.js';
import { type Input, type InputPart, partsOf } from './input.js';
import type { Motion } from './motion.js';
import { PiecewiseMotion } from './piecewise.js';
import { integratedMotion, inverseTransform } from './step.js';
import { StretchedMotion } from './stretched.js';
import { type ShiftedMotion, Superposition } from './superposition.js';

const unitStep: Input = { kind: 'step' };

/**
 * Response of a system at rest to an input. Without dead time in loops exact up to rounding (1e-9 of the largest
 * value), otherwise 1e-6. Of an impulse response the impulse of a direct term at t = 0 is left out.
 * @param initial what is added: the free motion from initial conditions
 * @throws Problem `improper` when the system has more zeros than poles; `query` for an input that cannot be read.
 */
export function respond(written: Transfer, input: Input = unitStep, initial?: Motion): Motion {
  const transfer = simplified(written);
  if (highestDegree(transfer.numerator) > highestDegree(transfer.denominator)) {
    throw new Problem('improper', 'More zeros than poles: the response would start with an impulse.');
  }
  const { level, parts } = partsOf(input);
  const rest = level === 0 ? 0 : level * restGain(transfer);
  const known = new Map<number, ShiftedMotion[]>();
  const shifted = parts.flatMap(({ power, amplitude, at }) => {
    const unit = known.get(power) ?? unitResponses(transfer, power);
    known.set(power, unit);
    return unit.map(({ motion, factor, from }) => ({ motion, factor: factor * amplitude, from: from + at }));
  });
  if (initial) shifted.push({ motion: initial, factor: 1, from: 0 });
  const [only] = shifted;
  if (shifted.length === 1 && only!.from === 0 && only!.factor === 1 && rest === 0) return only!.motion;
  return new Superposition(shifted, rest);
}

/** Output at rest for a constant input of 1. @throws Problem `notPossible` for a system that integrates. */
function restGain(transfer: Transfer): number {
  const gain = dcGainOf(transfer);
  if (gain === null) {
    throw new Problem('notPossible', 'A system that integrates cannot rest at a level other than zero.');
  }
  return gain;
}

/** Value at s = 0; null for a pole there. */
export function dcGainOf(transfer: Transfer): number | null {
  const at = (terms: Transfer['numerator']): Rational =>
    terms.reduce((sum, { polynomial: p }) => addRational(sum, coefficient(p, 0)), rational(0n));
  const below = at(transfer.denominator);
  return below.numerator === 0n ? null : rationalToNumber(divideRational(at(transfer.numerator), below));
}

/** Response to t^power/power!, one motion for each dead time of the numerator. */
function unitResponses(transfer: Transfer, power: InputPart['power']): ShiftedMotion[] {
  if (transfer.denominator.length > 1) {
    const { run, unit } = delayRun(transfer, power < 0 ? 0 : (power as 0 | 1 | 2));
    const motion = new StretchedMotion(new PiecewiseMotion(run.source(0)), unit, unit ** Math.max(0, power));
    return [{ motion: power < 0 ? motion.derivative() : motion, factor: 1, from: 0 }];
  }
  const denominator = transfer.denominator[0]!.polynomial;
  return transfer.numerator.map(({ delay, polynomial: numerator }) => ({
    motion: integratedMotion(systemOf(withoutImpulse({ numerator, denominator }, power)), power + 1),
    factor: 1,
    from: rationalToNumber(delay),
  }));
}

/** The fraction; for an impulse response without its direct term. */
function withoutImpulse(fraction: Fraction, power: InputPart['power']): Fraction {
  if (power >= 0 || degree(fraction.numerator) < degree(fraction.denominator)) return fraction;
  return { numerator: divide(fraction.numerator, fraction.denominator).remainder, denominator: fraction.denominator };
}

/**
 * Free motion of den(s)·y = num(s)·u from y and its derivatives at t = 0, without input.
 * @param values y(0), y′(0), …, as many as the order of the denominator
 */
export function freeMotion(fraction: Fraction, values: readonly number[]): Motion {
  const { denominator } = fraction;
  const n = degree(denominator);
  if (values.length !== n || !isProper(fraction)) {
    throw new Problem('query', `Initial conditions are y and its derivatives at t = 0: ${n} numbers here.`);
  }
  return inverseTransform({ numerator: initialNumerator(denominator, values), denominator });
}

/** Σ over k of a_k·(s^(k−1)·y(0) + … + y^(k−1)(0)). */
function initialNumerator(denominator: Polynomial, values: readonly number[]): Polynomial {
  const exact = values.map(rationalFromNumber);
  const n = degree(denominator);
  const falling = Array.from({ length: n }, (_, row) => {
    const power = n - 1 - row;
    let sum = rational(0n);
    for (let k = power + 1; k <= n; k++) {
      sum = addRational(sum, multiplyRational(coefficient(denominator, k), exact[k - 1 - power]!));
    }
    return sum;
  });
  return polynomialOf(falling);
}
