import { answerFromText, checkAnswer, examine, readAnswer } from '../src/checks';
import { rightAnswerOf } from '../src/checks';
import { modelOf, type StatesPart } from '../src/index';
import { exercise } from './documents';
import { randomNumbers } from './random';

const model = modelOf({ systems: [], series: [] }, {});
const part = (expected: string, tolerancePercent: number): StatesPart => ({
  ...{ id: 'x', title: 'X', prompt: '', kind: 'states', points: 2 },
  ...{ expected, tolerancePercent },
});
const met = (of: StatesPart, text: string) => checkAnswer(of, model, answerFromText(of, text)).met;

const three = '1/((s+1)*(s+3)*(s+7))';

test.each([
  ['-1 0 0; 0 -3 0; 0 0 -7 | 1; 1; 1 | 1/12 -1/8 1/24 | 0', three],
  ['{"a": [[-1, 1, 0], [0, -3, 1], [0, 0, -7]], "b": [[0], [0], [1]], "c": [[1, 0, 0]], "d": [[0]]}', three],
  ['-1 1 0; 0 -3 1; 0 0 -7 | 0; 0; 1 | 1 0 0 | 0', three],
  ['0 1 0; 0 0 1; -21 -31 -11 | 0; 0; 1 | 1 0 0 | 0', three],
  ['-1/3 | 1/3 | 1 | 0', '1/(3*s+1)'],
])('fractions stay exact: %s', (text, expected) => {
  expect(met(part(expected, 0), text)).toBe(true);
});

test('the right matrices can be typed and are right without any tolerance', () => {
  for (const expected of [three, '1/(3*s+1)', '(2*s^2+s+8)/(3*s^2+0.6*s+4)']) {
    const of = part(expected, 0);
    expect(checkAnswer(of, model, rightAnswerOf(of, model)!).met).toBe(true);
  }
});

/** Inverse by Gauss and Jordan, good enough for small well-conditioned matrices. */
function inverse(m: number[][]): number[][] {
  const n = m.length;
  const rows = m.map((row, i) => [...row, ...m.map((_, j) => Number(i === j))]);
  for (let k = 0; k < n; k++) {
    const best = rows.slice(k).reduce((at, row, i) => (Math.abs(row[k]!) > Math.abs(rows[at]![k]!) ? k + i : at), k);
    [rows[k], rows[best]] = [rows[best]!, rows[k]!];
    const lead = rows[k]![k]!;
    rows[k] = rows[k]!.map((value) => value / lead);
    rows.forEach((row, i) => {
      if (i !== k) rows[i] = row.map((value, j) => value - row[k]! * rows[k]![j]!);
    });
  }
  return rows.map((row) => row.slice(n));
}
const times = (a: number[][], b: number[][]) =>
  a.map((row) => b[0]!.map((_, j) => row.reduce((sum, value, k) => sum + value * b[k]![j]!, 0)));

const systems: [string, number[][], number[][], number[][]][] = [
  [
    three,
    [
      [0, 1, 0],
      [0, 0, 1],
      [-21, -31, -11],
    ],
    [[0], [0], [1]],
    [[1, 0, 0]],
  ],
  [
    '5/(s^2+1.2*s+4)',
    [
      [0, 1],
      [-4, -1.2],
    ],
    [[0], [1]],
    [[5, 0]],
  ],
  [
    '(2*s+3)/(s^2+3*s+2)',
    [
      [0, 1],
      [-2, -3],
    ],
    [[0], [1]],
    [[3, 2]],
  ],
];

describe.each(systems)('any change of the states of %s', (expected, a, b, c) => {
  test.each([
    [12, 1e-6],
    [6, 0.1],
    [4, 1],
  ])('given to %d digits is right within %d per cent, and a wrong one is not', (digits, percent) => {
    const random = randomNumbers(digits);
    const of = part(expected, percent);
    const text = (rows: number[][]) =>
      rows.map((row) => row.map((x) => Number(x.toPrecision(digits))).join(' ')).join('; ');
    for (let k = 0; k < 80; k++) {
      const t = a.map((row, i) => row.map((_, j) => Number(i === j) + 0.8 * random() - 0.4));
      const back = inverse(t);
      if (Math.max(...back.flat().map(Math.abs)) > 3) continue;
      const [A, B, C] = [times(times(t, a), back), times(t, b), times(c, back)];
      expect([k, met(of, `${text(A)} | ${text(B)} | ${text(C)} | 0`)]).toEqual([k, true]);
      // Twice the gain, and one pole moved by a tenth.
      const doubled = C.map((row) => row.map((x) => 2 * x));
      expect(met(of, `${text(A)} | ${text(B)} | ${text(doubled)} | 0`)).toBe(false);
      const moved = times(
        times(
          t,
          a.map((row, i) => (i === a.length - 1 ? row.map((x) => 1.1 * x) : row)),
        ),
        back,
      );
      expect(met(of, `${text(moved)} | ${text(B)} | ${text(C)} | 0`)).toBe(false);
    }
  });
});

test('few digits buy no more than the tolerance', () => {
  const of = part('2.46/(s+1.57)', 1);
  expect(met(of, '-1.57 | 1 | 2.47 | 0')).toBe(true);
  expect(met(of, '-1.6 | 1 | 2.5 | 0')).toBe(false);
});

test('several outputs are never read as the first alone', () => {
  const two = '0 1; -2 -3 | 0; 1 | 1 0; 0 1 | 0; 0';
  const of = part('1/(s^2+3*s+2)', 1);
  expect(() => readAnswer(of, model, answerFromText(of, two))).toThrow('1 input and 2 outputs');
  const [a, b, c, d] = two.split('|').map((m) => m.split(';').map((row) => row.trim().split(' '))) as [
    ...[string[][], string[][], string[][], string[][]],
  ];
  const systemsGiven = [{ name: 'G', meaning: '', form: { kind: 'states' as const, a, b, c, d } }];
  expect(examine({ ...exercise, systems: systemsGiven })).toMatchObject([
    { path: 'systems/0', message: expect.stringContaining('2 outputs') as string },
  ]);
});
