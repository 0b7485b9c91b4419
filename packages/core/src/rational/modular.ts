/** A prime whose squares are exact in doubles. */
export const prime = 33_554_393;

const wholePrime = BigInt(prime);

/** The remainder from 0 to prime − 1. */
export function modulo(value: bigint): number {
  const rest = Number(value % wholePrime);
  return rest < 0 ? rest + prime : rest;
}

/**
 * Whether two polynomials modulo the prime, lowest power first, share a factor. When neither leading coefficient
 * vanished on the way here, a no is certain for the polynomials over the whole numbers as well; a yes is not.
 */
export function shareFactorModulo(p: readonly number[], q: readonly number[]): boolean {
  if (p.length === 0 || q.length === 0 || p[p.length - 1] === 0 || q[q.length - 1] === 0) return true;
  let [a, b] = p.length >= q.length ? [p, q] : [q, p];
  while (b.length > 1) [a, b] = [b, remainder(a, b)];
  return b.length === 0;
}

function remainder(p: readonly number[], q: readonly number[]): number[] {
  const rest = [...p];
  const inverse = inverseModulo(q[q.length - 1]!);
  for (let top = rest.length - 1; top >= q.length - 1; top--) {
    const factor = (rest[top]! * inverse) % prime;
    if (factor === 0) continue;
    const shift = top - q.length + 1;
    for (let k = 0; k < q.length; k++) {
      rest[shift + k] = (rest[shift + k]! + (prime - factor) * q[k]!) % prime;
    }
  }
  rest.length = Math.min(rest.length, q.length - 1);
  while (rest.length > 0 && rest[rest.length - 1] === 0) rest.pop();
  return rest;
}

export function inverseModulo(value: number): number {
  let [a, b, x, y] = [value, prime, 1, 0];
  while (b !== 0) {
    const quotient = Math.floor(a / b);
    [a, b] = [b, a - quotient * b];
    [x, y] = [y, x - quotient * y];
  }
  return ((x % prime) + prime) % prime;
}

/**
 * The first unknown of linear equations modulo the prime; null when they have no unique solution. Each row holds its
 * coefficients and the right-hand side; the rows are used up. Method: elimination.
 */
export function solveModulo(rows: number[][]): number | null {
  const size = rows.length;
  for (let column = size - 1; column >= 0; column--) {
    const place = size - 1 - column;
    const pivot = rows.findIndex((row, k) => k >= place && row[column] !== 0);
    if (pivot < 0) return null;
    [rows[place], rows[pivot]] = [rows[pivot]!, rows[place]!];
    const top = rows[place];
    const inverse = inverseModulo(top[column]!);
    for (let k = place + 1; k < size; k++) {
      const row = rows[k]!;
      const factor = (row[column]! * inverse) % prime;
      if (factor === 0) continue;
      for (let j = 0; j <= size; j++) row[j] = (row[j]! + (prime - factor) * top[j]!) % prime;
    }
  }
  const last = rows[size - 1]!;
  return (last[size]! * inverseModulo(last[0]!)) % prime;
}

/** Rank of a matrix modulo the prime; the matrix is used up. */
export function rankModulo(rows: number[][]): number {
  let rank = 0;
  for (let column = 0; column < (rows[0]?.length ?? 0) && rank < rows.length; column++) {
    const pivot = rows.findIndex((row, k) => k >= rank && row[column] !== 0);
    if (pivot < 0) continue;
    [rows[rank], rows[pivot]] = [rows[pivot]!, rows[rank]!];
    const top = rows[rank]!;
    const inverse = inverseModulo(top[column]!);
    for (let k = rank + 1; k < rows.length; k++) {
      const row = rows[k]!;
      const factor = (row[column]! * inverse) % prime;
      if (factor === 0) continue;
      for (let j = column; j < row.length; j++) row[j] = (row[j]! + (prime - factor) * top[j]!) % prime;
    }
    rank += 1;
  }
  return rank;
}
