import { cellText } from '@nailset/core';
import { stringify } from 'csv-stringify/browser/esm/sync';
import { download } from './files';

/** Takes a table away as CSV that is safe to open in a spreadsheet. */
export function saveTable(
  heads: readonly string[],
  rows: readonly (readonly (string | number | null)[])[],
  title: string,
): void {
  // Names in it are typed by people.
  const cell = (value: string | number | null) => (typeof value === 'string' ? cellText(value) : value);
  const table = stringify([heads, ...rows].map((row) => row.map(cell)));
  download(new Blob([table], { type: 'text/csv' }), `${title}.csv`);
}
