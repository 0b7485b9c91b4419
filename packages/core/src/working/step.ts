import type { Complex } from '../system/complex.js';
import type { Root } from '../system/roots.js';

/** One line on the board: what is done, in words, and what it gives, as LaTeX. */
export interface WorkingStep {
  readonly words: string;
  readonly latex: string;
}

/** A way to a number: its lines, and the number that the last of them ends with. */
export interface Worked {
  readonly steps: readonly WorkingStep[];
  readonly value: number;
}

export const line = (words: string, latex: string): WorkingStep => ({ words, latex });

/** A number as it is written on the board: five significant digits. */
export function numeral(value: number): string {
  if (!Number.isFinite(value)) return value > 0 ? '\\infty' : '-\\infty';
  const [mantissa, exponent] = String(Number(value.toPrecision(5))).split('e');
  return exponent === undefined ? String(mantissa) : `${mantissa}\\cdot 10^{${Number(exponent)}}`;
}

/** With its sign behind another term: `+ 3` or `- 3`. */
export const signed = (value: number): string => (value < 0 ? `- ${numeral(-value)}` : `+ ${numeral(value)}`);

/** A row of numbers. */
export const rowLatex = (row: readonly number[]): string => row.map(numeral).join(' & ');

/** A matrix in square brackets. */
export const matrixLatex = (rows: readonly (readonly number[])[]): string =>
  `\\begin{bmatrix}${rows.map(rowLatex).join('\\\\')}\\end{bmatrix}`;

/** With its unit behind. */
export const withUnitLatex = (value: number, unit: string): string => {
  if (unit === '') return numeral(value);
  if (unit === '%') return `${numeral(value)}\\,\\%`;
  if (unit === '°') return `${numeral(value)}^\\circ`;
  return `${numeral(value)}\\ \\mathrm{${unit.replace('²', '^2')}}`;
};

/** A point of the s-plane: `-1 + 2j`. */
export function complexLatex({ re, im }: Complex): string {
  const size = Math.hypot(re, im);
  const [x, y] = [re, im].map((part) => (Math.abs(part) < 1e-9 * size ? 0 : part)) as [number, number];
  if (y === 0) return numeral(x);
  const imaginary = `${numeral(Math.abs(y))}\\,j`;
  if (x === 0) return `${y < 0 ? '-' : ''}${imaginary}`;
  return `${numeral(x)}${y < 0 ? '-' : '+'}${imaginary}`;
}

/** Roots, pairs as one entry; repeated ones as often as they are. */
export function rootsLatex(roots: readonly Root[]): string {
  const shown = roots.filter(({ im }) => im >= 0);
  if (shown.length === 0) return '\\text{none}';
  return shown
    .flatMap((root) => {
      const { re, im, multiplicity } = root;
      const pair = `${re === 0 ? '' : numeral(re)}\\pm ${numeral(im)}\\,j`;
      return new Array<string>(multiplicity).fill(im === 0 ? numeral(re) : pair);
    })
    .join(',\\ ');
}
