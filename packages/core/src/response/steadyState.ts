import { isLoopStable } from '../frequency/stability.js';
import { lowestTerms } from '../rational/fraction.js';
import { rationalToNumber } from '../rational/number.js';
import { coefficient, isZero, type Polynomial } from '../rational/polynomial.js';
import type { Transfer } from '../system/transfer.js';
import { asDelayedFraction } from '../system/transfer.js';

/** Error constants of the loop with unity feedback around L, and the errors that remain. Infinite where they are. */
export interface SteadyState {
  /** Integrators in L; negative for zeros at the origin. */
  readonly type: number;
  readonly closedLoopStable: boolean;
  /** lim L, lim s·L and lim s²·L for s → 0. */
  readonly positionConstant: number;
  readonly velocityConstant: number;
  readonly accelerationConstant: number;
  /** Errors to a unit step, ramp t and parabola t²/2; null when the loop is unstable. */
  readonly stepError: number | null;
  readonly rampError: number | null;
  readonly parabolaError: number | null;
}

/**
 * Error constants and steady-state errors, from the lowest coefficients of L, exact up to their rounding.
 * @throws Problem `deadTime` when dead time is inside a loop or a sum of L.
 */
export function steadyStateOf(open: Transfer): SteadyState {
  const { fraction } = asDelayedFraction(open, 'The steady state');
  const { numerator, denominator } = lowestTerms(fraction);
  const above = lowestPower(numerator);
  const below = lowestPower(denominator);
  const type = below - above;
  const ratio = isZero(numerator)
    ? 0
    : rationalToNumber(coefficient(numerator, above)) / rationalToNumber(coefficient(denominator, below));
  const constant = (power: number): number =>
    ratio === 0 || type < power ? 0 : type === power ? ratio : Math.sign(ratio) * Infinity;
  const closedLoopStable = isLoopStable(open);
  const [positionConstant, velocityConstant, accelerationConstant] = [constant(0), constant(1), constant(2)];
  const error = (value: number): number | null => (closedLoopStable ? value : null);
  return {
    type,
    closedLoopStable,
    positionConstant,
    velocityConstant,
    accelerationConstant,
    stepError: error(1 / (1 + positionConstant) || 0),
    rampError: error(velocityConstant === 0 ? Infinity : 1 / velocityConstant || 0),
    parabolaError: error(accelerationConstant === 0 ? Infinity : 1 / accelerationConstant || 0),
  };
}

function lowestPower(p: Polynomial): number {
  const at = p.integers.findIndex((c) => c !== 0n);
  return at < 0 ? 0 : at;
}
