import { emptySheet, must, readLines, type Sheet, tunedDesign } from '@nailset/core';
import { drawnOf } from '../src/open/sheet/drawn';
import { ghostsOf } from '../src/open/sheet/ghosts';

const sheet: Sheet = {
  ...emptySheet,
  lines: [
    { name: 'G', text: '2/((s + 1)*(0.4*s + 1)*(0.1*s + 1))', drawn: true, panes: 'all' },
    { name: '', text: '', drawn: true, panes: 'all' },
  ],
};
const [plant] = drawnOf(sheet, readLines(sheet.lines));
const candidate = (peak: number) => ({
  words: `sensitivity peak ${peak}`,
  design: tunedDesign(must(plant).transfer, 'PI', peak),
});

test('each design that was not taken is the closed loop that it would have made, by its name', () => {
  const ghosts = ghostsOf(sheet, 'G', [candidate(1.3), candidate(2)]);
  expect(ghosts.map(({ label }) => label)).toEqual(['T, sensitivity peak 1.3', 'T, sensitivity peak 2']);
  expect(new Set(ghosts.map(({ id }) => id)).size).toBe(2);
  const [calm, quick] = ghosts.map(({ facts }) => facts.measures);
  for (const measures of [calm, quick]) expect(measures).toMatchObject({ stable: true });
  expect(must(calm?.overshootPercent)).toBeLessThan(must(quick?.overshootPercent));
});

test('what is on the bench is not among them, and stays as it is', () => {
  const before = structuredClone(sheet);
  expect(ghostsOf(sheet, 'G', [candidate(1.6)]).some(({ label }) => label.startsWith('G'))).toBe(false);
  expect(ghostsOf(sheet, 'G', [])).toEqual([]);
  expect(sheet).toEqual(before);
});

test('names that are taken are left alone', () => {
  const taken: Sheet = { ...sheet, lines: [...sheet.lines, { name: 'T', text: '5', drawn: false, panes: 'all' }] };
  const [ghost] = ghostsOf(taken, 'G', [candidate(1.6)]);
  expect(ghost?.label).toMatch(/^T\d, sensitivity peak 1\.6$/);
  expect(ghost?.facts.measures?.finalValue).toBeCloseTo(1, 9);
});
