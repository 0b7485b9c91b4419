import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { ratioToNumber } from '../rational/integer.js';
import { rationalToNumber } from '../rational/number.js';
import { coefficient, coefficients, commonFactor, isHurwitz, isZero } from '../rational/polynomial.js';
import { type Root, roots } from './roots.js';

/** A pole with what course books read off it. Times in seconds, frequencies in rad/s. */
export interface Pole extends Root {
  /** −re/|p|; 1 on the negative real axis, 0 on the imaginary axis; null for a pole at the origin. */
  readonly dampingRatio: number | null;
  readonly naturalFrequency: number;
  /** −1/re; null unless the pole decays. */
  readonly timeConstant: number | null;
}

/** A transfer function in numbers, in lowest terms. */
export interface System {
  readonly fraction: Fraction;
  /** Ratio of the leading coefficients. */
  readonly gain: number;
  readonly zeros: readonly Root[];
  readonly poles: readonly Pole[];
  /** Every pole strictly in the left half-plane; decided exactly. */
  readonly stable: boolean;
  /** Value at s = 0; null for a pole there. */
  readonly dcGain: number | null;
}

/** Poles, zeros and gains of a fraction, common factors taken out. */
export function systemOf(fraction: Fraction): System {
  const lowest = lowestTerms(fraction);
  const { numerator, denominator } = lowest;
  const lead = numerator.integers[numerator.integers.length - 1] ?? 0n;
  const below = coefficient(denominator, 0);
  return {
    fraction: lowest,
    gain: ratioToNumber(lead, numerator.denominator),
    zeros: roots(numerator),
    poles: roots(denominator).map(poleOf),
    stable: isHurwitz(denominator),
    dcGain: below.numerator === 0n ? null : rationalToNumber(coefficient(numerator, 0)) / rationalToNumber(below),
  };
}

/** Damping ratio, natural frequency and time constant of one pole. */
export function poleOf(root: Root): Pole {
  const naturalFrequency = Math.hypot(root.re, root.im);
  return {
    re: root.re,
    im: root.im,
    multiplicity: root.multiplicity,
    naturalFrequency,
    dampingRatio: naturalFrequency === 0 ? null : -root.re / naturalFrequency,
    timeConstant: root.re < 0 ? -1 / root.re : null,
  };
}

/** Modes that were written down but cancel between numerator and denominator. */
export function hiddenModes(fraction: Fraction): Pole[] {
  if (isZero(fraction.numerator)) return roots(fraction.denominator).map(poleOf);
  return roots(commonFactor(fraction.numerator, fraction.denominator)).map(poleOf);
}

/** Numerator and denominator as doubles, highest power first, in lowest terms with a monic denominator. */
export function coefficientsOf(fraction: Fraction): { numerator: number[]; denominator: number[] } {
  const lowest = lowestTerms(fraction);
  return { numerator: coefficients(lowest.numerator), denominator: coefficients(lowest.denominator) };
}
