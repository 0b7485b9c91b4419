import { must } from '../expression/must.js';
import { type Fraction, isSameFraction } from '../rational/fraction.js';
import { compareRational } from '../rational/number.js';
import { coefficients, multiply, type Polynomial } from '../rational/polynomial.js';
import { coefficientsOf } from '../system/system.js';
import { asDelayedFraction, type Transfer, withDeadTime } from '../system/transfer.js';
import { listOf } from './words.js';

/** What differs between an answer and the expected fraction; an empty list when they count as equal. */
export interface Comparison {
  readonly differences: readonly string[];
  /** Equal up to a constant factor. */
  readonly onlyGain: boolean;
}

/**
 * Compares coefficient by coefficient, both in lowest terms with a monic denominator. Equal forms are equal exactly;
 * otherwise each coefficient may be off by the tolerance (relative), and one that should be zero must be zero. Where a
 * factor of the expected fraction cancels with these numbers, an answer that keeps it, rounded, is compared with the
 * fraction as it was written.
 */
export function compareFractions(answer: Fraction, expected: Fraction, tolerance: number): Comparison {
  if (isSameFraction(answer, expected)) return { differences: [], onlyGain: false };
  const got = coefficientsOf(answer);
  const lowest = coefficientsOf(expected);
  const differences = differencesOf(got, lowest, tolerance);
  if (differences.length === 0) return { differences, onlyGain: false };
  const written = writtenCoefficients(expected);
  if (written.denominator.length > lowest.denominator.length) {
    const kept = [got, writtenCoefficients(answer)].some(
      (given) => differencesOf(given, written, tolerance).length === 0,
    );
    if (kept) return { differences: [], onlyGain: false };
  }
  const ratio = must(got.numerator[0]) / must(lowest.numerator[0]);
  const onlyGain =
    differences.length === 1 &&
    must(differences[0]).startsWith('numerator') &&
    lowest.numerator.every((c, k) => Math.abs(must(got.numerator[k]) - ratio * c) <= tolerance * Math.abs(ratio * c));
  return { differences, onlyGain };
}

interface Coefficients {
  readonly numerator: readonly number[];
  readonly denominator: readonly number[];
}

/** As written, common factors kept, for a leading 1 below the line. */
function writtenCoefficients({ numerator, denominator }: Fraction): Coefficients {
  const below = coefficients(denominator);
  const scaled = (falling: readonly number[]): number[] => falling.map((c) => c / must(below[0]));
  return { numerator: scaled(coefficients(numerator)), denominator: scaled(below) };
}

function differencesOf(got: Coefficients, want: Coefficients, tolerance: number): string[] {
  const differences: string[] = [];
  if (got.denominator.length !== want.denominator.length) {
    differences.push(`the denominator is of order ${got.denominator.length - 1} in lowest terms, which is not right`);
  }
  if (got.numerator.length !== want.numerator.length) {
    differences.push(`the numerator is of degree ${got.numerator.length - 1} in lowest terms, which is not right`);
  }
  if (differences.length > 0) return differences;
  for (const part of ['numerator', 'denominator'] as const) {
    const off = want[part].flatMap((c, k) =>
      Math.abs(must(got[part][k]) - c) <= tolerance * Math.abs(c) * (1 + 1e-9) ? [] : [want[part].length - 1 - k],
    );
    if (off.length > 0) differences.push(`${part}, ${listOf(off.map(powerName))}`);
  }
  return differences;
}

const powerName = (power: number): string =>
  power === 0 ? 'the constant term' : power === 1 ? 'the term in s' : `the term in s^${power}`;

/** The fraction of a transfer function, refused when dead time is inside a loop; and its dead time in seconds. */
export function withoutLoops(transfer: Transfer): { fraction: Fraction; deadTime: number } {
  return asDelayedFraction(transfer, 'This comparison');
}

/** Compares dead time and coefficients. */
export function compareTransfers(answer: Transfer, expected: Transfer, tolerance: number): Comparison {
  const [got, want] = [withoutLoops(answer), withoutLoops(expected)];
  const comparison = compareFractions(got.fraction, want.fraction, tolerance);
  if (Math.abs(got.deadTime - want.deadTime) <= tolerance * want.deadTime * (1 + 1e-9)) return comparison;
  return { differences: [...comparison.differences, 'the dead time'], onlyGain: false };
}

/** Twelve figures: more than anyone types, and fewer than the doubles that roots are rounded to. */
const roundedRoots = 1e-12;

/** Whether two fractions are one but for the rounding of roots, common factors kept or not: a/b and c/d where ad ≈ cb. */
export function isRoundedFrom(typed: Transfer, expected: Transfer): boolean {
  const [got, want] = [withDeadTime(typed), withDeadTime(expected)];
  if (!got || !want || compareRational(got.deadTime, want.deadTime) !== 0) return false;
  const [left, right] = [
    [got.fraction.numerator, want.fraction.denominator],
    [want.fraction.numerator, got.fraction.denominator],
  ].map(([a, b]) => ({ product: coefficients(multiply(must(a), must(b))), sizes: sizesOf(must(a), must(b)) }));
  const [first, second] = [must(left), must(right)];
  if (first.sizes.length !== second.sizes.length) return false;
  return first.sizes.every((size, k) => {
    const [x, y] = [first, second].map(({ product, sizes }) => product[product.length - sizes.length + k] ?? 0);
    return Math.abs(must(x) - must(y)) <= roundedRoots * size;
  });
}

/** The size of each coefficient of a product before anything cancels in it. */
function sizesOf(a: Polynomial, b: Polynomial): number[] {
  const [left, right] = [coefficients(a), coefficients(b)];
  const sizes = Array.from({ length: left.length + right.length - 1 }, () => 0);
  left.forEach((x, i) => right.forEach((y, j) => (sizes[i + j] = must(sizes[i + j]) + Math.abs(x * y))));
  return sizes;
}
