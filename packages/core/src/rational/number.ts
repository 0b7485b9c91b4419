import { greatestCommonDivisor, ratioToNumber } from './integer.js';

/** An exact rational number in lowest terms; the denominator is positive. */
export interface Rational {
  readonly numerator: bigint;
  readonly denominator: bigint;
}

/** @throws RangeError when the denominator is zero. */
export function rational(numerator: bigint, denominator = 1n): Rational {
  if (denominator === 0n) throw new RangeError('A rational number needs a denominator other than zero.');
  const common = greatestCommonDivisor(numerator, denominator) * (denominator < 0n ? -1n : 1n);
  return { numerator: numerator / common, denominator: denominator / common };
}

/**
 * The exact rational that a decimal spells: `1.5e-3` is 3/2000.
 * @throws SyntaxError when the text is not a decimal number.
 */
export function rationalFromDecimal(text: string): Rational {
  const parts = /^([+-]?)(\d*)(?:\.(\d*))?(?:[eE]([+-]?\d+))?$/.exec(text.trim());
  if (!parts || !(parts[2] || parts[3])) throw new SyntaxError(`“${text}” is not a decimal number.`);
  const fraction = parts[3] ?? '';
  const digits = BigInt(parts[1] + (parts[2] || '0') + fraction);
  const exponent = Number(parts[4] ?? 0) - fraction.length;
  return exponent >= 0 ? rational(digits * 10n ** BigInt(exponent)) : rational(digits, 10n ** BigInt(-exponent));
}

/** The exact rational with the shortest decimal that a double prints as. @throws SyntaxError for NaN and infinities. */
export function rationalFromNumber(value: number): Rational {
  return rationalFromDecimal(String(value));
}

/** The nearest double. */
export function rationalToNumber(value: Rational): number {
  return ratioToNumber(value.numerator, value.denominator);
}

/** Sum, exact. */
export function addRational(a: Rational, b: Rational): Rational {
  return rational(a.numerator * b.denominator + b.numerator * a.denominator, a.denominator * b.denominator);
}

/** Difference, exact. */
export const subtractRational = (a: Rational, b: Rational): Rational => addRational(a, negateRational(b));

/** Product, exact. */
export const multiplyRational = (a: Rational, b: Rational): Rational =>
  rational(a.numerator * b.numerator, a.denominator * b.denominator);

/** Quotient, exact. @throws RangeError for division by zero. */
export const divideRational = (a: Rational, b: Rational): Rational =>
  rational(a.numerator * b.denominator, a.denominator * b.numerator);

/** −a. */
export const negateRational = (a: Rational): Rational => ({ numerator: -a.numerator, denominator: a.denominator });

/** Sign of a − b. */
export function compareRational(a: Rational, b: Rational): number {
  const difference = a.numerator * b.denominator - b.numerator * a.denominator;
  return difference < 0n ? -1 : difference > 0n ? 1 : 0;
}
