import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';
import { checkSize } from './integer.js';
import {
  type Rational,
  addRational,
  divideRational,
  multiplyRational,
  negateRational,
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
  if (rows.length > limits.order || rows.some((row) => row.length > limits.order)) {
    throw new Problem('matrix', `${name}: at most ${limits.order} rows and columns are worked out.`);
  }
  if (rows.some((row) => row.length !== rows[0]!.length)) {
    throw new Problem('matrix', `${name}: its rows are not of equal length.`);
  }
  if (rows.some((row) => row.some((value) => !Number.isFinite(value)))) {
    throw new Problem('matrix', `${name}: every entry must be a number.`);
  }
  return rows.map((row) => row.map(rationalFromNumber));
}

export function identity(size: number): Matrix {
  return Array.from({ length: size }, (_, i) => Array.from({ length: size }, (_, j) => (i === j ? unit : nought)));
}

/** Product of matrices whose sizes fit. */
export function multiplyMatrices(a: Matrix, b: Matrix): Matrix {
  return a.map((row) =>
    (b[0] ?? []).map((_, j) =>
      row.reduce((total, value, k) => addRational(total, multiplyRational(value, b[k]![j]!)), nought),
    ),
  );
}

export const addMatrices = (a: Matrix, b: Matrix): Matrix =>
  a.map((row, i) => row.map((value, j) => addRational(value, b[i]![j]!)));

export const scaleMatrix = (a: Matrix, by: Rational): Matrix =>
  a.map((row) => row.map((value) => multiplyRational(value, by)));

export const transpose = (a: Matrix): Matrix => (a[0] ?? []).map((_, j) => a.map((row) => row[j]!));

const isNought = (value: Rational): boolean => value.numerator === 0n;

/** Reduced row echelon form and its pivot columns. Method: Gauss–Jordan on exact numbers. */
export function rowReduced(a: Matrix): { rows: Rational[][]; pivots: number[] } {
  const rows = a.map((row) => [...row]);
  const pivots: number[] = [];
  for (let column = 0; column < (rows[0]?.length ?? 0) && pivots.length < rows.length; column++) {
    const top = pivots.length;
    const found = rows.findIndex((row, k) => k >= top && !isNought(row[column]!));
    if (found < 0) continue;
    [rows[top], rows[found]] = [rows[found]!, rows[top]!];
    const pivot = rows[top][column]!;
    rows[top] = rows[top].map((value) => divideRational(value, pivot));
    for (let k = 0; k < rows.length; k++) {
      const factor = rows[k]![column]!;
      if (k === top || isNought(factor)) continue;
      rows[k] = rows[k]!.map((value, j) => subtractRational(value, multiplyRational(factor, rows[top]![j]!)));
      for (const { numerator } of rows[k]!) checkSize(numerator);
    }
    pivots.push(column);
  }
  return { rows, pivots };
}

/** Number of independent rows, exact. */
export const rank = (a: Matrix): number => rowReduced(a).pivots.length;

/** One x with a·x = b, free unknowns zero; null when there is none. */
export function solveLinear(a: Matrix, b: readonly Rational[]): { x: Rational[]; unique: boolean } | null {
  const unknowns = a[0]?.length ?? 0;
  const { rows, pivots } = rowReduced(a.map((row, k) => [...row, b[k]!]));
  if (pivots.includes(unknowns)) return null;
  const x = Array.from({ length: unknowns }, () => nought);
  pivots.forEach((column, k) => (x[column] = rows[k]![unknowns]!));
  return { x, unique: pivots.length === unknowns };
}

/**
 * Characteristic polynomial of a (highest power first, monic) and the matrices of adj(sI − a) by falling powers of s.
 * Method: Faddeev and LeVerrier.
 */
export function characteristicOf(a: Matrix): { coefficients: Rational[]; adjugate: Matrix[] } {
  const size = a.length;
  const coefficients = [unit];
  const adjugate: Matrix[] = [];
  let current = identity(size);
  for (let k = 1; k <= size; k++) {
    adjugate.push(current);
    const next = multiplyMatrices(a, current);
    const trace = next.reduce((total, row, i) => addRational(total, row[i]!), nought);
    const c = negateRational(divideRational(trace, rational(BigInt(k))));
    checkSize(c.numerator);
    coefficients.push(c);
    current = addMatrices(next, scaleMatrix(identity(size), c));
  }
  return { coefficients, adjugate };
}
