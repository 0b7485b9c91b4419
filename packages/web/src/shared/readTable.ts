import type { FrequencyTable, Series } from '@nailset/core';
import { parse } from 'csv-parse/browser/esm/sync';

interface Columns {
  /** What the rows lack when they cannot be read, and what must rise. */
  readonly words: string;
  readonly first: string;
  readonly needed: number;
  readonly least: (first: number) => boolean;
  readonly most: number;
}

type Row = [number, number, ...number[]];

/**
 * Rows of numbers, the first of them rising, after a heading if there is one; semicolons and decimal commas are taken
 * as they come. A long record is thinned evenly; its ends stay.
 * @throws Error saying what is wrong, for people.
 */
function readRows(text: string, { words, first, needed, least, most }: Columns): { heading: string; rows: Row[] } {
  const delimiter = text.includes(';') ? ';' : text.includes('\t') ? '\t' : ',';
  const data = parse(text, { delimiter, bom: true, trim: true, relax_column_count: true, skip_empty_lines: true });
  const number = (cell: string): number =>
    cell.trim() === '' ? NaN : Number(delimiter === ',' ? cell : cell.replace(',', '.'));
  const rows = data.map((row) => row.map(number));
  const isFull = (row: readonly number[]): row is Row =>
    row.length >= needed && row.slice(0, needed).every((value) => Number.isFinite(value));
  const start = rows.findIndex(isFull);
  if (start < 0) throw new Error(`No row with ${words} was found: ${needed} columns of numbers are needed.`);
  const bad = rows.slice(start).findIndex((row) => !isFull(row));
  if (bad >= 0) throw new Error(`Row ${start + bad + 1} has no ${words.replace(/\ba /g, '')}.`);
  const kept = rows.slice(start).filter(isFull);
  const falling = kept.findIndex(([at], k) => !least(at) || at <= (kept[k - 1]?.[0] ?? -Infinity));
  if (falling >= 0) throw new Error(`Row ${start + falling + 1}: ${first}.`);
  const step = Math.ceil(kept.length / most);
  return {
    heading: data.slice(0, start).flat().join(' '),
    rows: kept.filter((_, k) => k % step === 0 || k === kept.length - 1),
  };
}

/** Times and values from a table with two columns. @throws Error saying what is wrong, for people. */
export function readTable(text: string): Pick<Series, 'times' | 'values'> {
  const { rows } = readRows(text, {
    ...{ words: 'a time and a value', first: 'times must rise from 0 on', needed: 2, most: 2000 },
    least: (time) => time >= 0,
  });
  if (rows.length < 2) throw new Error('A table needs at least two rows.');
  return { times: rows.map(([time]) => time), values: rows.map(([, value]) => value) };
}

/**
 * A frequency response from a table of frequency, magnitude and, where there is one, phase in degrees. A heading that
 * says Hz, or ratio, is taken at its word; otherwise they are rad/s and decibels.
 * @throws Error saying what is wrong, for people.
 */
export function readFrequencyTable(text: string): Omit<FrequencyTable, 'name'> {
  const { heading, rows } = readRows(text, {
    ...{ words: 'a frequency and a magnitude', first: 'frequencies must rise, above 0', needed: 2, most: 500 },
    least: (omega) => omega > 0,
  });
  if (rows.length < 5) throw new Error('A frequency response needs at least five rows.');
  const turn = /\bhz\b/i.test(heading) ? 2 * Math.PI : 1;
  const isRatio = /ratio|abs|linear/i.test(heading) && !/db/i.test(heading);
  if (isRatio && rows.some(([, magnitude]) => !(magnitude > 0))) throw new Error('Ratios must be more than 0.');
  const short = (value: number): number => Number(value.toPrecision(8));
  const phases = rows.map(([, , phase]) => phase ?? NaN);
  return {
    omegas: rows.map(([omega]) => short(omega * turn)),
    magnitudesDb: rows.map(([, magnitude]) => (isRatio ? short(20 * Math.log10(magnitude)) : magnitude)),
    ...(phases.every((phase) => Number.isFinite(phase)) ? { phasesDegrees: phases } : {}),
  };
}
