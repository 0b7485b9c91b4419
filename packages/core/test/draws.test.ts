import type { ExerciseDocument } from '../src/index';
import { drawValues, examine } from '../src/checks';
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
