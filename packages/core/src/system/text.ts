import type { Fraction } from '../rational/fraction.js';
import { absolute } from '../rational/integer.js';
import { degree, isZero, type Polynomial } from '../rational/polynomial.js';

/** A fraction as text that can be typed again, whole numbers throughout, sorted by falling powers of the variable. */
export function fractionToText({ numerator, denominator }: Fraction, variable = 's'): string {
  const above = polynomialToText(numerator, denominator.denominator, variable);
  const below = polynomialToText(denominator, numerator.denominator, variable);
  if (below === '1' || isZero(numerator)) return above;
  return `${/[+-]/.test(above.slice(1)) ? `(${above})` : above}/${/^\d+$|^\p{L}$/u.test(below) ? below : `(${below})`}`;
}

function polynomialToText(p: Polynomial, factor: bigint, variable: string): string {
  if (isZero(p)) return '0';
  let text = '';
  for (let power = degree(p); power >= 0; power--) {
    const c = p.integers[power]! * factor;
    if (c === 0n) continue;
    const size = absolute(c);
    const symbol = power === 0 ? '' : power === 1 ? variable : `${variable}^${power}`;
    const shown = size === 1n && symbol ? symbol : symbol ? `${size}*${symbol}` : `${size}`;
    text += `${c < 0n ? '-' : text ? '+' : ''}${shown}`;
  }
  return text;
}
