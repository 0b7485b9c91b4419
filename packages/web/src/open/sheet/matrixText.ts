import { decimalIn, type Matrix, matrixFromNumbers, numberIn, Problem } from '@nailset/core';

/** A matrix of numbers as it is typed: rows between semicolons, entries between blanks, with commas or without. @throws Problem `matrix`. */
export function rationalMatrix(text: string, name: string): Matrix {
  const rows = text
    .replace(/^\s*\[|\]\s*$/g, '')
    .split(/[;\n]/)
    .filter((row) => row.trim())
    .map((row) => row.trim().split(/,?\s+/));
  const entries = rows.flat();
  const bad = entries.find((entry) => decimalIn(entry) === undefined);
  if (entries.length === 0) throw new Problem('matrix', `${name} is empty; it is written 1 1; 0 1.`);
  if (bad !== undefined) throw new Problem('matrix', `“${bad}” is no number; ${name} is written 1 1; 0 1.`);
  return matrixFromNumbers(
    rows.map((row) => row.map(numberIn)),
    name,
  );
}
