import { checkAnswer } from '../src/checks';
import { type Answer, modelOf, type Part } from '../src/index';

/** A verdict on a wrong answer says where it goes wrong, with the student's own numbers. */

const heading = { id: 'a', title: 'a', prompt: '', points: 2, tolerancePercent: 2 };
const check = (part: object, answer: object, values: Record<string, string> = {}, systems: object[] = []) =>
  checkAnswer(
    { ...heading, ...part } as unknown as Part,
    modelOf({ systems, series: [] } as unknown as Parameters<typeof modelOf>[0], values),
    answer as Answer,
  );

describe('a range', () => {
  const range = (text: string) => check({ kind: 'range', of: '1/(s*(s + 2)*(s + 6))' }, { kind: 'range', text }).words;
  test('tests a gain of it with which the loop is unstable', () => {
    expect(range('0 < K < 150')).toMatch(
      /^This is not the range\. K = 120 lies in yours, and there the loop is unstable\.$/,
    );
  });
  test('tests a gain outside with which it is stable', () => {
    expect(range('0 < K < 50')).toMatch(/K = 69 lies outside, and there the loop is stable\.$/);
  });
  test('tests both where both go wrong', () => {
    expect(range('K > 50')).toMatch(/lies in yours.*lies outside/);
  });
  test('every gain that is told is told rightly, for ranges of any size', () => {
    for (const scale of [1e-9, 1e-3, 1, 1e6, 1e9]) {
      for (const [from, to] of [
        [0, 150],
        [20, 60],
        [100, 200],
        [0.5, 95],
      ] as const) {
        const { words } = check(
          { kind: 'range', of: `${1 / scale}/(s*(s + 2)*(s + 6))` },
          { kind: 'range', text: `${from * scale} < K < ${to * scale}` },
        );
        const told = [...words.matchAll(/K = (\S+) lies (in|outside)/g)].map(([, gain, where]) => ({
          gain: Number(gain!.replace('−', '-')) / scale,
          where,
        }));
        expect(told.length).toBeGreaterThan(0);
        for (const { gain, where } of told) {
          expect([gain, gain > from && gain < to, gain < 96]).toEqual([gain, where === 'in', where === 'outside']);
        }
      }
    }
  });
});

describe('state matrices', () => {
  const states = (a: string, b: string, c: string, d = '0') =>
    check({ kind: 'states', expected: '(s + 3)/(s^2 + 3*s + 2)' }, { kind: 'states', a, b, c, d }).words;
  test('too few states', () => {
    expect(states('-1', '1', '1')).toBe('With one state there are as many poles; the system has 2.');
  });
  test('other poles', () => {
    expect(states('0 1\n-2 -4', '0\n1', '3 1')).toMatch(/characteristic polynomial differs/);
  });
  test('another constant factor', () => {
    expect(states('0 1\n-2 -3', '0\n2', '3 1')).toBe('The poles are right, and all but a constant factor of B and C.');
  });
  test('another numerator', () => {
    expect(states('0 1\n-2 -3', '0\n1', '1 3')).toBe(
      'The poles are right, so A can stay; B, C or D lead to another numerator.',
    );
  });
});

test('a trend that is right comes with its figures, a wrong one gives none away', () => {
  const part = {
    kind: 'trend',
    changes: [{ id: 'up', label: 'K up', symbol: 'K', factor: 2 }],
    rows: [
      { id: 'gain', label: 'Gain', formula: 'gainAtRest(K/(s + 4))' },
      { id: 'pace', label: 'Time constant', formula: 'timeConstant(K/(s + 4))' },
    ],
    samePercent: 1,
  };
  const { items } = check(part, { kind: 'trend', cells: { 'gain/up': 'up', 'pace/up': 'up' } }, { K: '2' });
  expect(items.map(({ words }) => words)).toEqual([
    'Gain, K up: right, 0.5 → 1.',
    'Time constant, K up: it does not go up.',
  ]);
});

describe('a number', () => {
  const number = (formula: string, text: string) =>
    check({ kind: 'number', formula, unit: '' }, { kind: 'number', text }).words;
  test('of a pair says what it would belong to', () => {
    expect(number('overshootPercent(4/(s^2 + 1.6*s + 4))', '15')).toMatch(/belongs to ζ = 0\.517\.$/);
    expect(number('peakTime(4/(s^2 + 1.6*s + 4))', '2')).toMatch(/damped frequency of 1\.57 rad\/s\.$/);
  });
  test('of an offset says to which constant', () => {
    expect(number('stepError(9/(s + 1))', '0.2')).toMatch(/position constant of 4\.$/);
  });
  test('of another system claims nothing', () => {
    expect(number('overshootPercent((s + 4)/(s^2 + 1.6*s + 4))', '15')).toBe('15: too low; within 2 % counts.');
  });
});

test('a point that is no crossing says by how much the angle fails, or that it lies on the locus all the same', () => {
  const points = (text: string) =>
    check({ kind: 'points', of: '1/(s*(s + 2)*(s + 6))', what: 'axisCrossings' }, { kind: 'points', text }).items[0]!
      .words;
  expect(points('3j, -3j')).toMatch(/^3j: no crossing here: the angle of the loop is off by 7\.\d+°\.$/);
  const breaks = check(
    { kind: 'points', of: '1/(s*(s + 2)*(s + 6))', what: 'breakPoints' },
    { kind: 'points', text: '-1.5' },
  );
  expect(breaks.items[0]!.words).toMatch(/though it lies on the locus\.$/);
});

test('two wrong results each name their slip', () => {
  const loop = { name: 'S', form: { kind: 'equations', text: 'y = G*e\ne = r - H*y', from: 'r', to: 'y' } };
  const asked = [
    { id: 'y', from: 'r', to: 'y', points: 1 },
    { id: 'e', from: 'r', to: 'e', points: 1 },
  ];
  const { slip } = check(
    { kind: 'diagram', system: 'S', asked },
    { kind: 'diagram', texts: { y: 'G/(1 - G*H)', e: '1/(1 - G*H)' } },
    {},
    [loop],
  );
  expect(slip!.words).toMatch(/^y\/r: .+ e\/r: .+/);
});
