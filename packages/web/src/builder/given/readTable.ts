import type { Series } from '@nailset/core';
import { parse } from 'csv-parse/browser/esm/sync';

const most = 2000;

/**
 * Times and values from a table with two columns of numbers; a heading is skipped, semicolons and decimal commas are
 * taken as they come.
 * @throws Error saying what is wrong, for people.
 */
export function readTable(text: string): Pick<Series, 'times' | 'values'> {
  const delimiter = text.includes(';') ? ';' : text.includes('\t') ? '\t' : ',';
  const data = parse(text, { delimiter, bom: true, trim: true, relax_column_count: true, skip_empty_lines: true });
  const commas = delimiter !== ',';
  const number = (cell: string | undefined): number =>
    cell === undefined || cell.trim() === '' ? NaN : Number(commas ? cell.replace(',', '.') : cell);
  const rows = data.map((row) => [number(row[0]), number(row[1])] as const);
  const first = rows.findIndex(([time, value]) => Number.isFinite(time) && Number.isFinite(value));
  if (first < 0) throw new Error('No row with a time and a value was found: two columns of numbers are needed.');
  const kept = rows.slice(first);
  const bad = kept.findIndex(([time, value]) => !Number.isFinite(time) || !Number.isFinite(value));
  if (bad >= 0) throw new Error(`Row ${first + bad + 1} has no time and value.`);
  const falling = kept.findIndex(([time], k) => time < 0 || (k > 0 && time <= kept[k - 1]![0]));
  if (falling >= 0) throw new Error(`Row ${first + falling + 1}: times must rise from 0 on.`);
  if (kept.length < 2) throw new Error('A table needs at least two rows.');
  // A long record is thinned evenly; its ends stay.
  const step = Math.ceil(kept.length / most);
  const thinned = kept.filter((_, k) => k % step === 0 || k === kept.length - 1);
  return { times: thinned.map(([time]) => time), values: thinned.map(([, value]) => value) };
}
