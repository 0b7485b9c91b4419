import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { Value } from 'typebox/value';
import { emptySheet, orProblem, Problem, quantityNames, type Sheet, sheetFrom } from '../src/index';
import { SheetFile } from '../src/sheet/schema';
import { driveKinds, sheetLimits, sheetPanes, timeUnits } from '../src/sheet/sheet';

/** The schema in `docs/` is the one that is checked here, and says the same as what reads a file. */
const file = path.resolve(__dirname, '../../../docs/sheet.schema.json');
const schema = `${JSON.stringify(SheetFile, null, 2)}\n`;

test('stands in docs as it is (write it anew with RECORD_SCHEMA=1)', () => {
  if (process.env['RECORD_SCHEMA']) writeFileSync(file, schema);
  expect(readFileSync(file, 'utf8')).toBe(schema);
});

const fits = (value: unknown): boolean => Value.Check(SheetFile, value);
const isRead = (value: unknown): boolean => !(orProblem(() => sheetFrom(value)) instanceof Problem);

const size = fc.double({ min: -1e9, max: 1e9, noNaN: true });
const drive = fc.oneof(
  fc.record({ kind: fc.constant('step' as const), from: size, to: size, at: fc.constant(2) }),
  fc.record({
    kind: fc.constantFrom('ramp' as const, 'impulse' as const, 'parabola' as const),
    size,
    at: fc.constant(0),
  }),
  fc.record({ kind: fc.constant('sine' as const), size, omega: fc.constant(3), at: fc.constant(0) }),
  fc.record({ kind: fc.constant('typed' as const), text: fc.string() }),
  fc.constant({ kind: 'none' as const }),
);
const data = fc.oneof(
  fc.constant({ name: 'fender', times: [0, 1, 2.5], values: [0, 0.5, 1] }),
  fc.constant({ name: 'mast', omegas: [1, 10], magnitudesDb: [0, -20] }),
  fc.constant({ name: 'mast', omegas: [1, 10], magnitudesDb: [0, -20], phasesDegrees: [-5, -90] }),
);
const line = fc.record(
  {
    name: fc.string({ maxLength: sheetLimits.name }),
    text: fc.string(),
    drawn: fc.boolean(),
    panes: fc.constantFrom('all', 'time', 'frequency'),
    from: fc.constantFrom('', 'F'),
    probes: fc.array(fc.constantFrom('x', 'v'), { maxLength: sheetLimits.probes }),
    groups: fc.array(
      fc.record({ name: fc.constantFrom('motor', 'load'), signals: fc.constant(['x']), closed: fc.boolean() }),
      { maxLength: sheetLimits.groups },
    ),
  },
  { requiredKeys: ['name', 'text'] },
);
const sheet = fc.record(
  {
    format: fc.constant(1),
    title: fc.string({ maxLength: sheetLimits.title }),
    lines: fc.array(line, { minLength: 1, maxLength: sheetLimits.lines }),
    drives: fc.array(drive, { maxLength: sheetLimits.drives }),
    initial: fc.array(size, { maxLength: sheetLimits.initial }),
    unit: fc.constantFrom(...timeUnits),
    time: fc.constantFrom(null, 0.5, 40),
    panes: fc.subarray([...sheetPanes]),
    nails: fc.array(
      fc.record({ quantity: fc.constantFrom(...quantityNames), relation: fc.constant('atMost'), limit: size }),
      { maxLength: sheetLimits.nails },
    ),
    data: fc.array(data, { maxLength: sheetLimits.data }),
  },
  { requiredKeys: ['format', 'lines'] },
);

test('every sheet that the schema describes is read, and what is read fits it', () => {
  fc.assert(
    fc.property(sheet, (value) => {
      expect(fits(value)).toBe(true);
      const read: Sheet = sheetFrom(value);
      expect(fits(read)).toBe(true);
      const saved: unknown = JSON.parse(JSON.stringify(read));
      expect(sheetFrom(saved)).toEqual(saved);
    }),
    { numRuns: 200 },
  );
});

const whole = { ...emptySheet, title: 'Winch', lines: [{ name: 'G', text: '1/(s + 1)', drawn: true, panes: 'all' }] };
const broken: [what: string, change: object][] = [
  ['another format', { format: 2 }],
  ['no lines', { lines: [] }],
  ['too many lines', { lines: Array(sheetLimits.lines + 1).fill(whole.lines[0]) }],
  ['a line without a text', { lines: [{ name: 'G' }] }],
  ['a name that is too long', { lines: [{ name: 'G'.repeat(sheetLimits.name + 1), text: '1' }] }],
  ['a text that is too long', { lines: [{ name: 'G', text: '1'.repeat(sheetLimits.text + 1) }] }],
  ['a title that is too long', { title: 'x'.repeat(sheetLimits.title + 1) }],
  ['a title that is a number', { title: 7 }],
  ['an unknown input', { drives: [{ kind: 'saw' }] }],
  ['too many inputs', { drives: Array(sheetLimits.drives + 1).fill({ kind: 'none' }) }],
  ['an input at a negative time', { drives: [{ kind: 'step', at: -1 }] }],
  ['a sine without a frequency', { drives: [{ kind: 'sine', omega: 0 }] }],
  ['an initial value that is text', { initial: ['0'] }],
  ['a time of zero', { time: 0 }],
  ['a negative time', { time: -3 }],
  ['an unknown quantity', { nails: [{ quantity: 'beauty', relation: 'atMost', limit: 1 }] }],
  ['a relation that is none', { nails: [{ quantity: 'riseTime', relation: 'equal', limit: 1 }] }],
  ['a table of one row', { data: [{ name: 'a', times: [0], values: [1] }] }],
  ['a table without values', { data: [{ name: 'a', times: [0, 1] }] }],
  ['a table with text in it', { data: [{ name: 'a', times: [0, 1], values: [0, 'one'] }] }],
];
test.each(broken)('%s neither fits nor is read', (_what, change) => {
  expect([fits(whole), isRead(whole)]).toEqual([true, true]);
  expect([fits({ ...whole, ...change }), isRead({ ...whole, ...change })]).toEqual([false, false]);
});

test.each<[string, object]>([
  ['times that fall', { data: [{ name: 'a', times: [1, 0], values: [0, 1] }] }],
  ['a value too few', { data: [{ name: 'a', times: [0, 1, 2], values: [0, 1] }] }],
  ['a frequency of zero', { data: [{ name: 'a', omegas: [0, 1], magnitudesDb: [0, 1] }] }],
])('%s: what a schema cannot say is refused in words', (_what, change) => {
  expect(() => sheetFrom({ ...whole, ...change })).toThrow(/“a” has no/);
});

test('of two groups with one name the first is read', () => {
  const groups = ['x', 'v'].map((signal) => ({ name: 'motor', signals: [signal], closed: true }));
  const [line] = sheetFrom({ ...whole, lines: [{ ...whole.lines[0], groups }] }).lines;
  expect(line!.groups).toEqual([{ name: 'motor', signals: ['x'], closed: true }]);
});

test('every kind of input is in it', () => {
  for (const kind of driveKinds) {
    const own = kind === 'typed' ? { text: 't' } : kind === 'data' ? { name: 'a' } : {};
    const value = { ...whole, drives: [{ kind, ...own }] };
    expect([kind, fits(value), isRead(value)]).toEqual([kind, true, true]);
  }
});
