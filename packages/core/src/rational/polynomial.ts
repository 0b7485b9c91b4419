import { absolute, greatestCommonDivisor, ratioToNumber } from './integer.js';
import { modulo, shareFactorModulo } from './modular.js';
import { type Rational, rational } from './number.js';

/**
 * A polynomial in s with rational coefficients, kept as whole numbers over one positive denominator without a common
 * factor. `integers[k]` belongs to s^k; the last is not zero; the zero polynomial has none.
 */
export interface Polynomial {
  readonly integers: readonly bigint[];
  readonly denominator: bigint;
}

/** The zero polynomial. */
export const zero: Polynomial = { integers: [], denominator: 1n };
/** The polynomial 1. */
export const one: Polynomial = { integers: [1n], denominator: 1n };
/** The polynomial s. */
export const s: Polynomial = { integers: [0n, 1n], denominator: 1n };

/** Whole-number coefficients, lowest power first, over a common denominator. */
export function polynomial(integers: readonly bigint[], denominator = 1n): Polynomial {
  let length = integers.length;
  while (length > 0 && integers[length - 1] === 0n) length -= 1;
  if (length === 0) return zero;
  let common = absolute(denominator);
  for (let k = 0; k < length && common !== 1n; k++) common = greatestCommonDivisor(common, integers[k]!);
  if (denominator < 0n) common = -common;
  const trimmed = length === integers.length ? integers : integers.slice(0, length);
  if (common === 1n) return { integers: trimmed, denominator };
  return { integers: trimmed.map((c) => c / common), denominator: denominator / common };
}

/** A polynomial of degree zero. */
export function constant(value: Rational): Polynomial {
  return polynomial([value.numerator], value.denominator);
}

/** Exact coefficients, highest power first. */
export function polynomialOf(coefficients: readonly Rational[]): Polynomial {
  const common = coefficients.reduce(
    (m, { denominator }) => (m * denominator) / greatestCommonDivisor(m, denominator),
    1n,
  );
  return polynomial(coefficients.map((c) => (c.numerator * common) / c.denominator).reverse(), common);
}

/** Degree; −1 for the zero polynomial. */
export const degree = (p: Polynomial): number => p.integers.length - 1;

/** Whether a polynomial has no coefficients. */
export const isZero = (p: Polynomial): boolean => p.integers.length === 0;

/** Coefficient of s^power, exact. */
export function coefficient(p: Polynomial, power: number): Rational {
  return rational(p.integers[power] ?? 0n, p.denominator);
}

/** Coefficients as doubles, highest power first; `[0]` for the zero polynomial. */
export function coefficients(p: Polynomial): number[] {
  if (isZero(p)) return [0];
  return p.integers.map((c) => ratioToNumber(c, p.denominator)).reverse();
}

/** Sum, exact. */
export function add(p: Polynomial, q: Polynomial): Polynomial {
  const length = Math.max(p.integers.length, q.integers.length);
  const sum = new Array<bigint>(length);
  for (let k = 0; k < length; k++) {
    sum[k] = (p.integers[k] ?? 0n) * q.denominator + (q.integers[k] ?? 0n) * p.denominator;
  }
  return polynomial(sum, p.denominator * q.denominator);
}

/** −p. */
export function negate(p: Polynomial): Polynomial {
  return { integers: p.integers.map((c) => -c), denominator: p.denominator };
}

/** Product, exact. */
export function multiply(p: Polynomial, q: Polynomial): Polynomial {
  if (isZero(p) || isZero(q)) return zero;
  const product = new Array<bigint>(p.integers.length + q.integers.length - 1).fill(0n);
  p.integers.forEach((a, i) => {
    if (a !== 0n) q.integers.forEach((b, k) => (product[i + k]! += a * b));
  });
  return polynomial(product, p.denominator * q.denominator);
}

/** p to a whole power from 0. Method: repeated squaring. */
export function power(p: Polynomial, exponent: number): Polynomial {
  let result = one;
  for (let base = p, left = exponent; left > 0; left >>= 1) {
    if (left & 1) result = multiply(result, base);
    if (left > 1) base = multiply(base, base);
  }
  return result;
}

/** Derivative by s. */
export function derivative(p: Polynomial): Polynomial {
  return polynomial(
    p.integers.slice(1).map((c, k) => c * BigInt(k + 1)),
    p.denominator,
  );
}

/** Whether two polynomials are the same, coefficient by coefficient. */
export function isEqual(p: Polynomial, q: Polynomial): boolean {
  return (
    p.denominator === q.denominator &&
    p.integers.length === q.integers.length &&
    p.integers.every((c, k) => c === q.integers[k])
  );
}

/** The polynomial divided by its leading coefficient. @throws RangeError for zero. */
export function monic(p: Polynomial): Polynomial {
  if (isZero(p)) throw new RangeError('The zero polynomial has no leading coefficient.');
  return polynomial(p.integers, p.integers[p.integers.length - 1]);
}

/** Whole-number coefficients without a common factor and with a positive leading one; same roots. */
export function primitivePart(p: Polynomial): Polynomial {
  if (isZero(p)) return zero;
  let common = 0n;
  for (const c of p.integers) common = greatestCommonDivisor(common, c);
  if (p.integers[p.integers.length - 1]! < 0n) common = -common;
  return { integers: p.integers.map((c) => c / common), denominator: 1n };
}

/**
 * Quotient and remainder, exact: `p = quotient·q + remainder` with the remainder's degree below q's.
 * @throws RangeError when q is zero.
 */
export function divide(p: Polynomial, q: Polynomial): { quotient: Polynomial; remainder: Polynomial } {
  if (isZero(q)) throw new RangeError('Division by the zero polynomial.');
  const lead = q.integers[q.integers.length - 1]!;
  const steps = p.integers.length - q.integers.length + 1;
  if (steps <= 0) return { quotient: zero, remainder: p };
  const rest = [...p.integers];
  const quotient = new Array<bigint>(steps).fill(0n);
  for (let k = steps - 1; k >= 0; k--) {
    const top = rest[k + q.integers.length - 1]!;
    for (const [i, value] of rest.entries()) rest[i] = value * lead;
    for (let i = k + 1; i < steps; i++) quotient[i]! *= lead;
    quotient[k] = top;
    for (let i = 0; i < q.integers.length; i++) rest[k + i]! -= top * q.integers[i]!;
  }
  const scale = lead ** BigInt(steps);
  return {
    quotient: polynomial(
      quotient.map((c) => c * q.denominator),
      scale * p.denominator,
    ),
    remainder: polynomial(rest, scale * p.denominator),
  };
}

/**
 * Greatest common divisor, primitive; `one` when there is no common factor.
 * Method: an image modulo a prime, which decides most cases; then the primitive remainder sequence (Knuth, The Art of
 * Computer Programming 2, 4.6.1).
 */
export function commonFactor(p: Polynomial, q: Polynomial): Polynomial {
  if (!shareFactorModulo(p.integers.map(modulo), q.integers.map(modulo))) return one;
  let a = primitivePart(p);
  let b = primitivePart(q);
  if (degree(a) < degree(b)) [a, b] = [b, a];
  while (!isZero(b)) {
    if (degree(b) === 0) return one;
    [a, b] = [b, primitivePart(divide(a, b).remainder)];
  }
  return isZero(a) ? one : a;
}

/**
 * Square-free factors: `p` is a constant times the product of factor^multiplicity; factors have whole-number
 * coefficients, have only simple roots and share none. Method: Yun, On square-free decomposition algorithms (1976).
 */
export function squareFreeFactors(p: Polynomial): { factor: Polynomial; multiplicity: number }[] {
  if (degree(p) < 1) return [];
  if (!shareFactorModulo(p.integers.map(modulo), derivative(p).integers.map(modulo))) {
    return [{ factor: { integers: p.integers, denominator: 1n }, multiplicity: 1 }];
  }
  const factors: { factor: Polynomial; multiplicity: number }[] = [];
  const a = primitivePart(p);
  const repeated = commonFactor(a, derivative(a));
  let b = primitivePart(divide(a, repeated).quotient);
  let rest = repeated;
  for (let multiplicity = 1; degree(b) > 0; multiplicity++) {
    const shared = commonFactor(b, rest);
    const factor = primitivePart(divide(b, shared).quotient);
    if (degree(factor) > 0) factors.push({ factor, multiplicity });
    b = shared;
    rest = primitivePart(divide(rest, shared).quotient);
  }
  return factors;
}

/**
 * Whether every root lies strictly in the left half-plane; decided exactly. A constant other than zero is stable.
 * Method: Routh array on whole numbers, rows kept primitive.
 */
export function isHurwitz(p: Polynomial): boolean {
  if (isZero(p)) return false;
  const falling = [...primitivePart(p).integers].reverse();
  if (falling.some((c) => c <= 0n)) return false;
  let upper = falling.filter((_, k) => k % 2 === 0);
  let lower = falling.filter((_, k) => k % 2 === 1);
  while (lower.length > 0) {
    if (lower[0]! <= 0n) return false;
    const next: bigint[] = [];
    for (let k = 0; k < upper.length - 1; k++) {
      next.push(lower[0]! * upper[k + 1]! - upper[0]! * (lower[k + 1] ?? 0n));
    }
    let common = 0n;
    for (const c of next) common = greatestCommonDivisor(common, c);
    upper = lower;
    lower = common > 1n ? next.map((c) => c / common) : next;
  }
  return true;
}
