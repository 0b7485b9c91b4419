import { drawValues, examine, keptValues } from '../src/checks';
import type { ExerciseDocument, GainsPart, NumberPart } from '../src/index';
import { exercise } from './documents';

type Drawn = Pick<ExerciseDocument, 'parameters' | 'systems' | 'guards'>;

const parameter = (symbol: string, draw: ExerciseDocument['parameters'][number]['draw']) => ({
  ...{ symbol, meaning: '', unit: '', draw },
});
const range = (from: number, to: number, step: number) => ({ kind: 'range' as const, from, to, step });
const expression = (name: string, text: string) => ({ name, meaning: '', form: { kind: 'expression' as const, text } });
const document = (more: Partial<Drawn>): Drawn => ({
  ...{ parameters: [parameter('a', range(1, 50, 1))], systems: [], guards: [] },
  ...more,
});
const everyone = (of: Drawn, count = 300) => Array.from({ length: count }, (_, k) => drawValues(of, `student ${k}`));

describe('numbers for every student', () => {
  test('however rare those are that the guards allow', () => {
    const rare = document({ guards: ['a < 2'] });
    expect(everyone(rare).every(({ a }) => a === '1')).toBe(true);
    const one = document({ parameters: [parameter('a', range(1, 2000, 1))], guards: ['a < 1.5'] });
    expect(everyone(one, 40).every(({ a }) => a === '1')).toBe(true);
  });

  test('spread evenly over what is allowed', () => {
    const four = document({ parameters: [parameter('a', range(1, 1000, 1))], guards: ['a < 5'] });
    const counts = new Map<string, number>();
    for (const { a } of everyone(four, 400)) counts.set(a!, (counts.get(a!) ?? 0) + 1);
    expect([...counts.keys()].sort()).toEqual(['1', '2', '3', '4']);
    for (const count of counts.values()) expect(Math.abs(count - 100)).toBeLessThan(40);
  });

  test('a guard keeps out what cannot be worked out, its own formula included', () => {
    const parameters = [parameter('a', range(1, 4, 1))];
    const divided = document({
      parameters,
      systems: [expression('G', '1/((a-2)*s+1)'), expression('k', '1/(a-2)')],
      guards: ['a > 2'],
    });
    expect(everyone(divided, 60).every(({ a }) => Number(a) > 2)).toBe(true);
    const within = document({ parameters, guards: ['1/(a-2) > 0'] });
    expect(everyone(within, 60).every(({ a }) => Number(a) > 2)).toBe(true);
  });
});

describe('before publishing', () => {
  const part = { ...exercise.parts[1]!, formula: 'a' } as ExerciseDocument['parts'][number];
  const guarded = (of: Drawn) => examine({ ...exercise, ...of, statement: '', parts: [part] });

  test.each([
    ['none of a few', document({ guards: ['a > 60'] }), /No values meet the guards/],
    [
      'one of a million',
      document({
        parameters: [parameter('a', range(1, 1000, 1)), parameter('b', range(1, 1000, 1))],
        guards: ['a + b < 3'],
      }),
      /too few for every student/,
    ],
  ])('guards that allow %s are refused', (_what, of, words) => {
    expect(guarded(of)).toMatchObject([{ path: 'guards', message: expect.stringMatching(words) as string }]);
  });

  test.each([
    ['one of fifty', document({ guards: ['a < 2'] })],
    ['what can be divided', document({ systems: [expression('k', '1/(a-2)')], guards: ['a > 2'] })],
  ])('guards that allow %s are fine', (_what, of) => expect(guarded(of)).toEqual([]));
});

describe('numbers that a student has seen', () => {
  const before = { a: '7', b: '3' };
  const [a, b] = [parameter('a', range(100, 200, 1)), parameter('b', range(1, 9, 1))];

  test('stay in a version with other ranges; what is new is drawn, what is gone goes', () => {
    const kept = keptValues(document({ parameters: [a, parameter('c', range(1, 5, 1))] }), before, 'seed')!;
    expect(Object.keys(kept)).toEqual(['a', 'c']);
    expect(kept).toMatchObject({ a: '7' });
    expect(Number(kept['c'])).toBeGreaterThanOrEqual(1);
    expect(keptValues(document({ parameters: [a, parameter('c', range(1, 5, 1))] }), before, 'seed')).toEqual(kept);
  });

  test('give way where the exercise now says one value for all, or its guards rule them out', () => {
    const fixed = parameter('b', { kind: 'fixed', value: 4.5 });
    expect(keptValues(document({ parameters: [a, fixed] }), before, 'seed')).toEqual({ a: '7', b: '4.5' });
    expect(keptValues(document({ parameters: [a, b], guards: ['a > 50'] }), before, 'seed')).toBeUndefined();
    // A number that is new is drawn until the guards are met with those that stay.
    const guarded = document({ parameters: [a, parameter('c', range(1, 9, 1))], guards: ['c > a'] });
    expect(Number(keptValues(guarded, before, 'seed')!['c'])).toBeGreaterThan(7);
  });
});

test.each([
  ['riseTime', -3, 'Rise time, 10–90 % is never below zero; its limit is −3.'],
  ['phaseMargin', -3, undefined],
  ['riseTime', 0.3, undefined],
] as const)('a limit on %s of %d is looked at before publishing', (quantity, limit, words) => {
  const [, , tune] = exercise.parts as [unknown, unknown, GainsPart];
  const nails = [{ id: 'n', quantity, relation: 'atMost' as const, limit, points: 1 }];
  const [finding] = examine({ ...exercise, parts: [{ ...tune, nails }] });
  expect(finding?.message).toBe(words);
});

test('per cent of what is zero but for rounding are refused; a tolerance in its unit is taken', () => {
  const [, overshoot] = exercise.parts as [unknown, NumberPart];
  const tiny = { ...overshoot, formula: '1 - (0.1 + 0.2)/0.3 + sin(pi)', unit: '', tolerancePercent: 1 };
  expect(examine({ ...exercise, parts: [tiny] })).toMatchObject([{ path: 'parts/0/tolerancePercent' }]);
  expect(examine({ ...exercise, parts: [{ ...tiny, toleranceAbsolute: 1e-6 }] })).toEqual([]);
});
