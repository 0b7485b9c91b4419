import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { ratioToNumber } from '../rational/integer.js';
import { type Rational, rational } from '../rational/number.js';
import {
  type Polynomial,
  coefficient,
  degree,
  divide,
  isZero,
  monic,
  polynomial,
  squareFreeFactors,
} from '../rational/polynomial.js';
import { roots } from './roots.js';

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

/** The factors; one alone needs no brackets where nothing multiplies it. */
function factors(p: Polynomial, bare: boolean): string {
  const found = rationalFactors(p);
  return found
    .map(({ factor, multiplicity }) => {
      const text = polynomialToLatex(factor);
      const alone = found.length === 1 && multiplicity === 1 && bare;
      const written = text === 's' || alone ? text : `\\left(${text}\\right)`;
      return `${written}${multiplicity > 1 ? `^{${multiplicity}}` : ''}`;
    })
    .join('');
}

/** Square-free factors with rational linear factors split off, all monic, by rising degree. */
function rationalFactors(p: Polynomial): { factor: Polynomial; multiplicity: number }[] {
  const found: { factor: Polynomial; multiplicity: number }[] = [];
  for (const { factor, multiplicity } of squareFreeFactors(p)) {
    let rest = factor;
    for (const linear of linearFactors(factor)) {
      found.push({ factor: linear, multiplicity });
      rest = divide(rest, linear).quotient;
    }
    if (degree(rest) > 0) found.push({ factor: monic(rest), multiplicity });
  }
  return found.sort((a, b) => degree(a.factor) - degree(b.factor));
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
