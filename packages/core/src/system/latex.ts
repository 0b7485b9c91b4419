import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { ratioToNumber } from '../rational/integer.js';
import { type Rational, rational, rationalFromNumber } from '../rational/number.js';
import {
  coefficient,
  degree,
  divide,
  isZero,
  monic,
  type Polynomial,
  polynomial,
  squareFreeFactors,
} from '../rational/polynomial.js';
import { type Root, roots } from './roots.js';
import type { System } from './system.js';

/** An exact number for reading: an integer or short decimal as it is, anything longer to five significant digits. */
export function rationalToLatex(value: Rational): string {
  const rounded = Number(ratioToNumber(value.numerator, value.denominator).toPrecision(5));
  const [mantissa, exponent] = String(rounded).split('e');
  return exponent === undefined ? mantissa! : `${mantissa}\\cdot 10^{${Number(exponent)}}`;
}

/** Expanded, highest power first. */
export function polynomialToLatex(p: Polynomial): string {
  if (isZero(p)) return '0';
  let text = '';
  for (let k = degree(p); k >= 0; k--) {
    const c = coefficient(p, k);
    if (c.numerator === 0n) continue;
    const size = rational(c.numerator < 0n ? -c.numerator : c.numerator, c.denominator);
    const sign = c.numerator < 0n ? '-' : text ? '+' : '';
    const variable = k === 0 ? '' : k === 1 ? 's' : `s^{${k}}`;
    const factor = variable && size.numerator === size.denominator ? '' : rationalToLatex(size);
    text += `${sign}${factor}${factor && variable ? '\\,' : ''}${variable}`;
  }
  return text;
}

/** Numerator over denominator, both expanded, as they were written down. */
export function fractionToLatex(fraction: Fraction): string {
  const above = polynomialToLatex(fraction.numerator);
  if (degree(fraction.denominator) === 0 && fraction.denominator.integers[0] === fraction.denominator.denominator) {
    return above;
  }
  return `\\frac{${above}}{${polynomialToLatex(fraction.denominator)}}`;
}

/** A fraction with its dead time in seconds. */
export function delayedToLatex(fraction: Fraction, deadTime: number): string {
  const shown = fractionToLatex(fraction);
  return deadTime === 0 ? shown : `${shown}\\,e^{-${Number(deadTime.toPrecision(4))}\\,s}`;
}

/** Lowest terms over the rational numbers, each part as a constant times monic factors with their powers. */
export function factoredToLatex(fraction: Fraction): string {
  const { numerator, denominator } = lowestTerms(fraction);
  const lead = isZero(numerator) ? rational(0n) : coefficient(numerator, degree(numerator));
  const unit = lead.numerator === lead.denominator;
  const above = factors(numerator, unit);
  const below = factors(denominator, true);
  const minus = lead.numerator === -lead.denominator;
  const start = unit && above ? '' : minus && above ? '-' : rationalToLatex(lead);
  const top = `${start}${start && above && !minus ? '\\,' : ''}${above}`;
  return below ? `\\frac{${top}}{${below}}` : top;
}

/** Gain, zeros and poles: K·Π(s − zero)/Π(s − pole), numbers to five digits, pairs as quadratics. */
export function gainZeroPoleToLatex({ gain, zeros, poles }: System): string {
  const part = (roots: readonly Root[]): string =>
    roots
      .filter(({ im }) => im >= 0)
      .map((root) => raised(monicFactor(root), root.multiplicity))
      .join('');
  return quotientToLatex(gain, part(zeros), part(poles));
}

/**
 * Time constants: K·Π(1 + T·s)/(s^type·Π(1 + T·s)·Π(1 + 2ζ·s/ω + s²/ω²)), numbers to five digits.
 */
export function timeConstantToLatex({ gain, zeros, poles }: System): string {
  let constant = gain;
  for (const [roots, power] of [
    [zeros, 1],
    [poles, -1],
  ] as const) {
    for (const { re, im, multiplicity } of roots) {
      const size = im === 0 ? -re : Math.hypot(re, im);
      if (size !== 0) constant *= size ** (power * multiplicity);
    }
  }
  const part = (roots: readonly Root[]): string =>
    roots
      .filter(({ im }) => im >= 0)
      .map((root) => raised(unitFactor(root), root.multiplicity))
      .join('');
  return quotientToLatex(constant, part(zeros), part(poles));
}

const numberToText = (value: number): string => rationalToLatex(rationalFromNumber(value));

function quotientToLatex(gain: number, above: string, below: string): string {
  const lead =
    above && Math.abs(gain - 1) < 1e-12 ? '' : above && Math.abs(gain + 1) < 1e-12 ? '-' : numberToText(gain);
  const top = `${lead}${lead && lead !== '-' && above ? '\\,' : ''}${above}`;
  return below ? `\\frac{${top}}{${below}}` : top;
}

const raised = (factor: string, multiplicity: number): string =>
  `${factor === 's' ? 's' : `\\left(${factor}\\right)`}${multiplicity > 1 ? `^{${multiplicity}}` : ''}`;

const signedTerm = (value: number, variable: string): string =>
  Math.abs(value) < 1e-300
    ? ''
    : `${value < 0 ? '-' : '+'}${Math.abs(value) === 1 && variable ? '' : numberToText(Math.abs(value))}${variable && Math.abs(value) !== 1 ? '\\,' : ''}${variable}`;

function monicFactor({ re, im }: Root): string {
  if (im === 0) return `s${signedTerm(-re, '')}`;
  return `s^{2}${signedTerm(-2 * re, 's')}${signedTerm(re * re + im * im, '')}`;
}

function unitFactor({ re, im }: Root): string {
  if (re === 0 && im === 0) return 's';
  if (im === 0) return `1${signedTerm(-1 / re, 's')}`;
  const square = re * re + im * im;
  return `1${signedTerm((-2 * re) / square, 's')}${signedTerm(1 / square, 's^{2}')}`;
}

/** The factors; one alone needs no brackets where nothing multiplies it. */
function factors(p: Polynomial, bare: boolean): string {
  const parts = rationalFactors(p);
  return parts
    .map(({ factor, multiplicity }) => {
      const text = polynomialToLatex(factor);
      const alone = parts.length === 1 && multiplicity === 1 && bare;
      const written = text === 's' || alone ? text : `\\left(${text}\\right)`;
      return `${written}${multiplicity > 1 ? `^{${multiplicity}}` : ''}`;
    })
    .join('');
}

/** Square-free factors with rational linear factors split off, all monic, by rising degree. */
function rationalFactors(p: Polynomial): { factor: Polynomial; multiplicity: number }[] {
  const factors: { factor: Polynomial; multiplicity: number }[] = [];
  for (const { factor, multiplicity } of squareFreeFactors(p)) {
    let rest = factor;
    for (const linear of linearFactors(factor)) {
      factors.push({ factor: linear, multiplicity });
      rest = divide(rest, linear).quotient;
    }
    if (degree(rest) > 0) factors.push({ factor: monic(rest), multiplicity });
  }
  return factors.sort((a, b) => degree(a.factor) - degree(b.factor));
}

/**
 * The factors s − a with rational a: each numeric real root is tried as the fraction whose denominator divides the
 * leading coefficient, and kept only if it divides exactly.
 */
function linearFactors(p: Polynomial): Polynomial[] {
  const lead = p.integers[p.integers.length - 1]!;
  return roots(p).flatMap(({ re, im }) => {
    const above = re * Number(lead);
    if (im !== 0 || !(Math.abs(above) <= Number.MAX_SAFE_INTEGER)) return [];
    const linear = monic(polynomial([-BigInt(Math.round(above)), lead]));
    return isZero(divide(p, linear).remainder) ? [linear] : [];
  });
}
