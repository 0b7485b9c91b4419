import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';
import { greatestCommonDivisor } from './integer.js';
import { modulo, rankModulo } from './modular.js';
import {
  addRational,
  divideRational,
  multiplyRational,
  type Rational,
  rational,
  rationalFromNumber,
  subtractRational,
} from './number.js';

/** An exact matrix, rows of equal length. */
export type Matrix = readonly (readonly Rational[])[];

const nought = rational(0n);
const unit = rational(1n);

/**
 * The matrix with the decimals that the doubles print as.
 * @throws Problem `matrix` for rows of unequal length, entries that are no finite numbers, or more than the largest order.
 */
export function matrixFromNumbers(rows: readonly (readonly number[])[], name: string): Matrix {
  if (rows.some((row) => row.some((value) => !Number.isFinite(value)))) {
    throw new Problem('matrix', `${name}: every entry must be a number.`);
  }
  return checkedMatrix(
    rows.map((row) => row.map(rationalFromNumber)),
    name,
  );
}

/** The rows as a matrix. @throws Problem `matrix` for rows of unequal length, or more than the largest order. */
export function checkedMatrix(rows: readonly (readonly Rational[])[], name: string): Matrix {
  if (rows.length > limits.order || rows.some((row) => row.length > limits.order)) {
    throw new Problem('matrix', `${name}: at most ${limits.order} rows and columns are worked out.`);
  }
  if (rows.some((row) => row.length !== rows[0]!.length)) {
    throw new Problem('matrix', `${name}: its rows are not of equal length.`);
  }
  return rows;
}

/** The square matrix with ones on its diagonal. */
export function identity(size: number): Matrix {
  return Array.from({ length: size }, (_, i) => Array.from({ length: size }, (_, j) => (i === j ? unit : nought)));
}

/** A matrix as whole numbers over one denominator. */
interface WholeMatrix {
  readonly rows: readonly (readonly bigint[])[];
  readonly denominator: bigint;
}

function toWhole(a: Matrix): WholeMatrix {
  let denominator = 1n;
  for (const row of a) {
    for (const value of row) {
      denominator *= value.denominator / greatestCommonDivisor(denominator, value.denominator);
    }
  }
  return { rows: a.map((row) => row.map((v) => v.numerator * (denominator / v.denominator))), denominator };
}

const fromWhole = ({ rows, denominator }: WholeMatrix): Matrix =>
  rows.map((row) => row.map((value) => rational(value, denominator)));

function multiplyWhole(a: WholeMatrix['rows'], b: WholeMatrix['rows']): bigint[][] {
  return a.map((row) =>
    (b[0] ?? []).map((_, j) => {
      let sum = 0n;
      row.forEach((value, k) => (sum += value * b[k]![j]!));
      return sum;
    }),
  );
}

/** Product of matrices whose sizes fit. */
export function multiplyMatrices(a: Matrix, b: Matrix): Matrix {
  const [left, right] = [toWhole(a), toWhole(b)];
  return fromWhole({
    rows: multiplyWhole(left.rows, right.rows),
    denominator: left.denominator * right.denominator,
  });
}

/** Sum of matrices of equal size. */
export const addMatrices = (a: Matrix, b: Matrix): Matrix =>
  a.map((row, i) => row.map((value, j) => addRational(value, b[i]![j]!)));

/** Every entry times a number. */
export const scaleMatrix = (a: Matrix, by: Rational): Matrix =>
  a.map((row) => row.map((value) => multiplyRational(value, by)));

/** Rows and columns exchanged. */
export const transpose = (a: Matrix): Matrix => (a[0] ?? []).map((_, j) => a.map((row) => row[j]!));

/**
 * Rows in echelon form over whole numbers, each a multiple of a combination of the given rows, and the pivot columns.
 * Method: fraction-free elimination (Bareiss 1968).
 */
function echelon(given: WholeMatrix['rows']): { rows: bigint[][]; pivots: number[] } {
  const rows = given.map((row) => [...row]);
  const pivots: number[] = [];
  let before = 1n;
  for (let column = 0; column < (rows[0]?.length ?? 0) && pivots.length < rows.length; column++) {
    const top = pivots.length;
    const lead = rows.findIndex((row, k) => k >= top && row[column] !== 0n);
    if (lead < 0) continue;
    [rows[top], rows[lead]] = [rows[lead]!, rows[top]!];
    const pivot = rows[top][column]!;
    for (let k = top + 1; k < rows.length; k++) {
      const factor = rows[k]![column]!;
      rows[k] = rows[k]!.map((value, j) => (j < column ? 0n : (value * pivot - factor * rows[top]![j]!) / before));
    }
    before = pivot;
    pivots.push(column);
  }
  return { rows, pivots };
}

/** Number of independent rows, exact. Full rank modulo a prime is full rank; anything less is worked out. */
export function rank(a: Matrix): number {
  const { rows } = toWhole(a);
  const full = Math.min(rows.length, rows[0]?.length ?? 0);
  return rankModulo(rows.map((row) => row.map(modulo))) === full ? full : echelon(rows).pivots.length;
}

/** One x with a·x = b, free unknowns zero; null when there is none. */
export function solveLinear(a: Matrix, b: readonly Rational[]): { x: Rational[]; unique: boolean } | null {
  const unknowns = a[0]?.length ?? 0;
  const { rows, pivots } = echelon(toWhole(a.map((row, k) => [...row, b[k]!])).rows);
  if (pivots.includes(unknowns)) return null;
  const x = Array.from({ length: unknowns }, () => nought);
  for (let k = pivots.length - 1; k >= 0; k--) {
    const row = rows[k]!;
    let rest = rational(row[unknowns]!);
    for (let j = pivots[k]! + 1; j < unknowns; j++) {
      if (x[j]!.numerator !== 0n) rest = subtractRational(rest, multiplyRational(rational(row[j]!), x[j]!));
    }
    x[pivots[k]!] = divideRational(rest, rational(row[pivots[k]!]!));
  }
  return { x, unique: pivots.length === unknowns };
}

/**
 * Characteristic polynomial of a (highest power first, monic) and the matrices of adj(sI − a) by falling powers of s.
 * Method: Faddeev and LeVerrier on whole numbers.
 */
export function characteristicOf(a: Matrix): { coefficients: Rational[]; adjugate: Matrix[] } {
  const size = a.length;
  const { rows, denominator } = toWhole(a);
  const coefficients = [unit];
  const adjugate: Matrix[] = [];
  let current: bigint[][] = rows.map((row, i) => row.map((_, j) => (i === j ? 1n : 0n)));
  let scale = 1n;
  for (let k = 1; k <= size; k++) {
    adjugate.push(fromWhole({ rows: current, denominator: scale }));
    const next = multiplyWhole(rows, current);
    scale *= denominator;
    const trace = next.reduce((total, row, i) => total + row[i]!, 0n);
    const c = -trace / BigInt(k);
    coefficients.push(rational(c, scale));
    current = next.map((row, i) => row.map((value, j) => (i === j ? value + c : value)));
  }
  return { coefficients, adjugate };
}
