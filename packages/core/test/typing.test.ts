import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  isSameTransfer,
  numberFromText,
  pointsFromText,
  transferOf,
  typedTransferFrom,
  typedTree,
} from '@nailset/core';

const page = readFileSync(path.resolve(__dirname, '../../../docs/typing.md'), 'utf8');

/** The rows of the table under a heading, cell by cell. */
function rowsUnder(heading: string): string[][] {
  const [, section = ''] = page.split(`## ${heading}\n`);
  const [own = ''] = section.split('\n## ');
  return own
    .split('\n')
    .filter((line) => line.startsWith('|'))
    .slice(2)
    .map((line) =>
      line
        .split('|')
        .slice(1, -1)
        .map((cell) => cell.trim()),
    );
}

const typedIn = (cell: string): string[] => [...cell.matchAll(/`([^`]+)`/g)].map(([, text]) => text!);
const bare = (cell: string): string => cell.replaceAll('`', '');

const known = ['K', 'wn', 'zeta', 'G1', 'G2'];
const values = new Map(known.map((name, k) => [name, transferOf(`${3 + 2 * k}/7`)]));
const meaning = (text: string) => typedTransferFrom(typedTree(text, known), values);

const expressions = [...rowsUnder('Fractions in s'), ...rowsUnder('Letters')].flatMap(([typed, read]) =>
  typedIn(typed!).map((text) => [text, bare(read!)] as const),
);
test.each(expressions)('%s is read as %s', (text, read) => {
  expect(isSameTransfer(meaning(text), meaning(read))).toBe(true);
});

const numbers = rowsUnder('Numbers').flatMap(([typed, unit, read]) =>
  typedIn(typed!).map((text) => [text, unit!, Number(read)] as const),
);
test.each(numbers)('%s in “%s” is read as %d', (text, unit, read) => {
  expect(numberFromText(text, unit)).toBeCloseTo(read, 12);
});

const lists = rowsUnder('Lists').flatMap(([typed, read]) => typedIn(typed!).map((text) => [text, read!] as const));
test.each(lists)('%s is read as %s', (text, read) => {
  expect(pointsFromText(text)).toEqual(pointsFromText(read));
});

test('the page has its tables', () => {
  expect([expressions.length, numbers.length, lists.length].map((count) => count > 5)).toEqual([true, true, true]);
});
