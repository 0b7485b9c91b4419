import { Problem } from '../expression/problem.js';
import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { type Rational, rationalToNumber } from '../rational/number.js';
import { degree } from '../rational/polynomial.js';
import { systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import { FactoredFrequency } from './bode.js';
import { gainCrossings, phaseCrossings } from './crossings.js';
import { wrapped } from './delayedSum.js';
import { isLoopStable } from './stability.js';

/** Margins of the loop with unity feedback around L; frequencies in rad/s, rising. */
export interface Margins {
  /** At every ω > 0 where L is real and negative: 1/|L|, a ratio. */
  readonly gainMargins: readonly { omega: number; gain: number }[];
  /** At every ω > 0 with |L| = 1: the angle of −L in degrees, in (−180, 180]. */
  readonly phaseMargins: readonly { omega: number; degrees: number }[];
  readonly closedLoopStable: boolean;
  /** Smallest dead time in seconds that makes the stable loop unstable; null when it is unstable already. */
  readonly delayMargin: number | null;
}

/**
 * All margins. Crossings are zeros of polynomials with exact coefficients; with dead time, the phase is cut at the
 * zeros of its derivative into monotone pieces, so that none is missed.
 * @throws Problem `deadTime` when dead time is inside a loop or a sum.
 */
export function marginsOf(open: Transfer): Margins {
  const { fraction, delay } = plainLoop(open);
  const { numerator, denominator } = fraction;
  const response = new FactoredFrequency(systemOf(fraction), rationalToNumber(delay));
  const gainMargins = phaseCrossings(fraction, delay, response).map((omega) => ({
    omega,
    gain: Math.exp(-response.logMagnitude(omega)),
  }));
  const phaseMargins = gainCrossings(numerator, denominator).map((omega) => {
    const degrees = (180 / Math.PI) * wrapped(response.phase(omega) + Math.PI);
    return { omega, degrees };
  });
  const closedLoopStable = isLoopStable(open);
  return { gainMargins, phaseMargins, closedLoopStable, delayMargin: delayMargin() };

  function delayMargin(): number | null {
    if (!closedLoopStable) return null;
    const direct = degree(numerator) === degree(denominator) ? Math.abs(response.system.gain) : 0;
    // With a gain of 1 or more at high frequency any dead time, however short, is too much.
    if (direct >= 1) return 0;
    let smallest = Infinity;
    for (const { omega, degrees } of phaseMargins) {
      const turn = degrees < 0 ? degrees + 360 : degrees;
      smallest = Math.min(smallest, (turn * Math.PI) / 180 / omega);
    }
    return smallest;
  }
}

/** L as a fraction in lowest terms with its dead time. @throws Problem `deadTime`. */
export function plainLoop(open: Transfer): { fraction: Fraction; delay: Rational } {
  const plain = withDeadTime(open);
  if (!plain) throw new Problem('deadTime', 'Margins need dead time as a factor of L, not inside a loop or a sum.');
  return { fraction: lowestTerms(plain.fraction), delay: plain.deadTime };
}
