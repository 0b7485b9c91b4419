import { cellText, formatMark, withUnit } from '@nailset/core';
import { stringify } from 'csv-stringify/sync';
import type { CheckedRow } from './checkFile.js';

/** How results are written: a table for a spreadsheet, or one JSON object a line with every figure. */
export interface Report {
  readonly heading: string;
  line(row: CheckedRow): string;
}

const columns = [
  'row',
  'student',
  'part',
  'answer',
  'met',
  'points',
  'outOf',
  'close',
  'measured',
  'slip',
  'words',
  'problem',
];

export const reports: Readonly<Record<'csv' | 'jsonl', Report>> = {
  csv: {
    heading: stringify([columns]),
    line({ row, student, part, answer, verdict, problem }) {
      const measured = verdict?.items.flatMap(({ label, measured: value, unit }) =>
        value === null ? [] : [`${label} ${withUnit(value, unit)}`],
      );
      const yesNo = (value: boolean | undefined): string => (value === undefined ? '' : value ? 'yes' : 'no');
      return stringify([
        [
          row,
          ...[student, part, answer].map(cellText),
          yesNo(verdict?.met),
          verdict ? formatMark(verdict.points) : '',
          verdict ? formatMark(verdict.outOf) : '',
          yesNo(verdict?.items.some(({ close }) => close)),
          measured?.join('; ') ?? '',
          verdict?.slip?.words ?? '',
          verdict?.words ?? '',
          problem ?? '',
        ],
      ]);
    },
  },
  jsonl: {
    heading: '',
    line: (row) => `${JSON.stringify(row)}\n`,
  },
};
