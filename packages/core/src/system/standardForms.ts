import { degree } from '../rational/polynomial.js';
import { coefficientsOf } from './system.js';
import { type Transfer, withDeadTime } from './transfer.js';

/** Gain, damping ratio and natural frequency (rad/s) of a system K·ωn²/(s² + 2ζωn·s + ωn²). */
export interface SecondOrder {
  readonly gain: number;
  readonly dampingRatio: number;
  readonly naturalFrequency: number;
}

/** Gain and time constant (s) of a lag K/(τ·s + 1). */
export interface Lag {
  readonly gain: number;
  readonly timeConstant: number;
}

/** Coefficients without dead time, highest power first, the denominator monic; null for what is no short fraction. */
function shortCoefficients(transfer: Transfer) {
  const plain = withDeadTime(transfer);
  if (plain?.deadTime.numerator !== 0n || degree(plain.fraction.denominator) > 6) return null;
  return coefficientsOf(plain.fraction);
}

/** The standard second-order form of a system; null when it is none. */
export function secondOrderOf(transfer: Transfer): SecondOrder | null {
  const short = shortCoefficients(transfer);
  if (short?.numerator.length !== 1 || short.denominator.length !== 3) return null;
  const [[above = 0], [, middle = 0, last = 0]] = [short.numerator, short.denominator];
  if (!(last > 0) || above === 0) return null;
  const naturalFrequency = Math.sqrt(last);
  return { gain: above / last, dampingRatio: middle / (2 * naturalFrequency), naturalFrequency };
}

/** The lag that a system is; null when it is none that decays. */
export function lagOf(transfer: Transfer): Lag | null {
  const short = shortCoefficients(transfer);
  if (short?.numerator.length !== 1 || short.denominator.length !== 2) return null;
  const [[above = 0], [, below = 0]] = [short.numerator, short.denominator];
  return below > 0 && above !== 0 ? { gain: above / below, timeConstant: 1 / below } : null;
}
