/** One line on the board: what is done, in words, and what it gives, as LaTeX. */
export interface WorkingStep {
  readonly words: string;
  readonly latex: string;
}

/** A number as it is written on the board: five significant digits. */
export function numeral(value: number): string {
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
