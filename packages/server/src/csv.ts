import { cellText } from '@nailset/core';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { Refusal } from './errors.js';

/** Tables as other programs write and read them. */

const delimiters = ['\t', ';', ','] as const;

/** What stands between the cells: the sign that every one of the first lines holds, in the order of its rarity in texts. */
function delimiterOf(text: string): string {
  const lines = text
    .split(/\r\n|\r|\n/)
    .filter((line) => line.trim() !== '')
    .slice(0, 8)
    .map((line) => line.replace(/"[^"]*"/g, ''));
  return delimiters.find((sign) => lines.length > 0 && lines.every((line) => line.includes(sign))) ?? ',';
}

/** The cells of a table, row by row; blank rows stay, so that line numbers are those of the file. @throws Refusal `badRequest`. */
export function cellsOf(name: string, text: string): string[][] {
  try {
    return parse(text.replace(/^\uFEFF/, ''), {
      delimiter: delimiterOf(text),
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: false,
    });
  } catch (error) {
    throw new Refusal('badRequest', `“${name}” is no table: ${(error as Error).message}`);
  }
}

/** A table that is safe to open in a spreadsheet: texts that look like formulas are marked as texts. */
export const tableText = (rows: readonly (readonly (string | number | null)[])[]): string =>
  stringify(
    rows.map((row) => row.map((cell) => (typeof cell === 'string' ? cellText(cell) : (cell ?? '')))),
    { record_delimiter: 'windows' },
  );
