import { addFractions, type Fraction, lowestTerms, multiplyFractions } from '../rational/fraction.js';
import { compareRational, type Rational, rational } from '../rational/number.js';
import {
  coefficient,
  constant,
  degree,
  derivative,
  isZero,
  negate,
  one,
  type Polynomial,
  polynomialOf,
  s,
  zero,
} from '../rational/polynomial.js';

/** A Routh array of a polynomial, exact. */
export interface RouthArray {
  readonly rows: readonly {
    /** The power of s that the row belongs to. */
    readonly power: number;
    /** Entries as fractions in ε (where the polynomials say s, read ε), which is small and positive. */
    readonly entries: readonly Fraction[];
    /** What was done before the row could be used. */
    readonly special?: 'epsilon' | 'auxiliary';
    /** The auxiliary polynomial whose derivative replaced a row of zeros, highest power first. */
    readonly auxiliary?: readonly Rational[];
  }[];
  /** Signs of the first column for ε → 0+. */
  readonly signs: readonly number[];
  /** Roots in the right half-plane. */
  readonly signChanges: number;
}

const nothing: Fraction = { numerator: zero, denominator: one };

/**
 * The Routh array with both special cases: a zero in front becomes ε, a row of zeros the derivative of the auxiliary
 * polynomial. Source: Routh, A Treatise on the Stability of a Given State of Motion (1877).
 * @throws RangeError for the zero polynomial.
 */
export function routhArray(p: Polynomial): RouthArray {
  if (isZero(p)) throw new RangeError('The zero polynomial has no Routh array.');
  const order = degree(p);
  const plain = (value: Rational): Fraction => ({ numerator: constant(value), denominator: one });
  const every = (start: number): Fraction[] => {
    const entries: Fraction[] = [];
    for (let power = start; power >= 0; power -= 2) entries.push(plain(coefficient(p, power)));
    return entries;
  };
  const rows: RouthArray['rows'][number][] = [];
  let upper = every(order);
  rows.push({ power: order, entries: upper });
  for (let power = order - 1; power >= 0; power--) {
    let entries = power === order - 1 ? every(power) : below(rows[rows.length - 2]!.entries, upper);
    let special: 'epsilon' | 'auxiliary' | undefined;
    let auxiliary: Rational[] | undefined;
    if (entries.every(({ numerator }) => isZero(numerator))) {
      special = 'auxiliary';
      const even = auxiliaryPolynomial(upper, power + 1);
      auxiliary = Array.from({ length: power + 2 }, (_, k) => coefficient(even, power + 1 - k));
      const slope = derivative(even);
      entries = upper.map((_, k) => plain(coefficient(slope, power - 2 * k)));
      entries = entries.slice(0, Math.floor(power / 2) + 1);
    } else if (isZero(entries[0]!.numerator)) {
      special = 'epsilon';
      entries = [{ numerator: s, denominator: one }, ...entries.slice(1)];
    }
    rows.push({ power, entries, ...(special ? { special } : {}), ...(auxiliary ? { auxiliary } : {}) });
    upper = entries;
  }
  const signs = rows.map(({ entries }) => signNearZero(entries[0]!));
  let signChanges = 0;
  for (let k = 1; k < signs.length; k++) if (signs[k]! * signs[k - 1]! < 0) signChanges += 1;
  return { rows, signs, signChanges };
}

/** The next row: (b0·a1 − a0·b1)/b0 and so on, a the upper and b the lower row. */
function below(upper: readonly Fraction[], lower: readonly Fraction[]): Fraction[] {
  const lead = lower[0]!;
  const ratio = multiplyFractions(upper[0]!, { numerator: lead.denominator, denominator: lead.numerator });
  const entries: Fraction[] = [];
  for (let k = 1; k < upper.length; k++) {
    const back = multiplyFractions(ratio, lower[k] ?? nothing);
    const value = addFractions(upper[k]!, { numerator: negate(back.numerator), denominator: back.denominator });
    entries.push(lowestTerms(value));
  }
  return entries.length > 0 ? entries : [nothing];
}

/** The even or odd polynomial that a row stands for, at ε = 0. */
function auxiliaryPolynomial(entries: readonly Fraction[], power: number): Polynomial {
  const falling: Rational[] = Array.from({ length: power + 1 }, () => rational(0n));
  entries.forEach(({ numerator, denominator }, k) => {
    if (2 * k > power || degree(denominator) < 0) return;
    const [above, under] = [coefficient(numerator, 0), coefficient(denominator, 0)];
    if (under.numerator === 0n) return;
    falling[2 * k] = rational(above.numerator * under.denominator, above.denominator * under.numerator);
  });
  return polynomialOf(falling);
}

/** Sign for a small positive ε. */
function signNearZero({ numerator, denominator }: Fraction): number {
  const lowest = (p: Polynomial): number => {
    for (let k = 0; k <= degree(p); k++) {
      const sign = compareRational(coefficient(p, k), rational(0n));
      if (sign !== 0) return sign;
    }
    return 0;
  };
  return lowest(numerator) * lowest(denominator);
}
