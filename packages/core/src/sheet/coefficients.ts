import { Problem } from '../expression/problem.js';

/**
 * A text in which polynomials given by their coefficients, highest power first, are written out in s: `[1, 1.2, 4]`,
 * `[1 1.2 K]`, `[1; 1,2; 4]`, or one a line. Two lists below each other are numerator and denominator, with or without
 * brackets. @throws Problem `missingOperand` for a list with a gap.
 */
export function withCoefficients(text: string): string {
  const rows = text
    .split('\n')
    .map((row) => row.trim())
    .filter(Boolean);
  const [above = '', below = ''] = rows.map(bracketed);
  const written = rows.length === 2 && above && below && rows.some(isSeveral) ? `${above}/${below}` : text;
  return written.replace(/\[([^[\]]*)\]/g, (whole, inside: string) => {
    const entries = coefficientsIn(inside);
    if (!entries) return whole;
    if (entries.some((entry) => !entry.trim())) {
      throw new Problem('missingOperand', `A coefficient is missing in ${whole}.`);
    }
    return `(${entries.map((entry, k) => termOf(entry.trim(), entries.length - 1 - k, k === 0)).join('')})`;
  });
}

/** A coefficient with its power of s and the sign before it, as one would write it. */
function termOf(coefficient: string, power: number, isFirst: boolean): string {
  const [, minus, size] = /^([−-]?)([\d.]+)$/.exec(coefficient) ?? [];
  const sign = minus ? '-' : isFirst ? '' : '+';
  const s = power === 0 ? '' : power === 1 ? 's' : `s^${power}`;
  if (s && Number(size) === 1) return sign + s;
  return `${sign}${size ?? `(${coefficient})`}${s && `*${s}`}`;
}

/** A row of coefficients in brackets; empty for what is none. */
function bracketed(row: string): string {
  if (/^\[[^[\]]*\]$/.test(row)) return row;
  return isSeveral(row) || isCoefficient(row) ? `[${row}]` : '';
}

const isSeveral = (row: string): boolean =>
  !row.includes(';') && coefficientsIn(row.replace(/^\[|\]$/g, '')) !== undefined;

/**
 * The entries of a list: between semicolons, with decimal commas, or else between commas, or else between blanks where
 * nothing but numbers and names stands; undefined for a formula.
 */
export function coefficientsIn(inside: string): string[] | undefined {
  if (inside.includes(';'))
    return splitOutside(inside.replace(/(\d),(?=\d)/g, '$1.'), /[;,]/).map((entry) => entry.trim());
  if (inside.includes(',')) return splitOutside(inside, /,/);
  const entries = splitOutside(inside.trim(), /\s/).filter(Boolean);
  // −1 +3j is one number.
  if (entries.some((entry) => /^[+−-][\d.]*[ij]$/.test(entry))) return undefined;
  return entries.length > 1 && entries.every(isCoefficient) ? entries : undefined;
}

/** A number, a name or what they make, with no operator left over and nothing in s. */
const isCoefficient = (entry: string): boolean =>
  /^[+−-]?[\p{L}\d.(]/u.test(entry) && /[\p{L}\d.)]$/u.test(entry) && !/(?<![\p{L}\d_])s(?![\p{L}\d_])/u.test(entry);

/** Pieces between separators that stand outside round brackets. */
function splitOutside(text: string, separator: RegExp): string[] {
  const pieces = [''];
  let depth = 0;
  for (const sign of text) {
    if (sign === '(') depth += 1;
    if (sign === ')') depth -= 1;
    if (depth <= 0 && separator.test(sign)) pieces.push('');
    else pieces[pieces.length - 1] += sign;
  }
  return pieces;
}
