import { readFileSync } from 'node:fs';
import path from 'node:path';
import { answer, answerLine, asks } from '../src/batch/answer';
import reference from './fixtures/reference.json';

interface Tolerance {
  relative?: number;
  absolute?: number;
}

/** Compares what came with what is wanted: sets of complex numbers in any order, everything else as it stands. */
function expectLike(got: unknown, want: unknown, tolerance: Tolerance, at = 'result'): void {
  if (typeof want === 'number') {
    const turns = at.includes('phasesDegrees') ? 360 * Math.round(((got as number) - want) / 360) : 0;
    const allowed = (tolerance.absolute ?? 0) + (tolerance.relative ?? 0) * Math.abs(want);
    const off = Math.abs((got as number) - turns - want);
    if (!(off <= allowed)) throw new Error(`${at}: ${String(got)} instead of ${want}`);
  } else if (Array.isArray(want)) {
    if (!Array.isArray(got) || got.length !== want.length) {
      throw new Error(`${at}: ${JSON.stringify(got)} instead of ${JSON.stringify(want)}`);
    }
    const rest = [...(got as unknown[])];
    want.forEach((item, k) => {
      const place = pointOf(item);
      const index = place && !at.endsWith('intervals') ? nearest(rest, place) : 0;
      expectLike(rest.splice(index, 1)[0], item, tolerance, `${at}[${k}]`);
    });
  } else if (want !== null && typeof want === 'object') {
    for (const [key, item] of Object.entries(want)) {
      expectLike((got as Record<string, unknown>)[key], item, tolerance, `${at}.${key}`);
    }
  } else {
    expect({ at, value: got }).toEqual({ at, value: want });
  }
}

function pointOf(value: unknown): [number, number] | null {
  if (Array.isArray(value) && value.length === 2 && typeof value[0] === 'number') return value as [number, number];
  if (value !== null && typeof value === 'object' && 're' in value) {
    const { re, im } = value as { re: number; im: number };
    return [re, im];
  }
  return null;
}

function nearest(among: readonly unknown[], [re, im]: [number, number]): number {
  const distances = among.map((item) => {
    const place = pointOf(item);
    return place ? Math.hypot(place[0] - re, place[1] - im) : Infinity;
  });
  return distances.indexOf(Math.min(...distances));
}

describe('reference values of 60 digits', () => {
  test.each(reference.map((one) => [one.query.id, one] as const))('%s', (_id, one) => {
    const { id, result, error } = answer(one.query);
    expect({ id, error }).toEqual({ id: one.query.id, error: undefined });
    expectLike(result, one.expect, one);
  });
});

describe('the documented examples', () => {
  const page = readFileSync(path.join(__dirname, '../../../docs/compute.md'), 'utf8');
  const examples = [...page.matchAll(/^### (\w+)\n[\s\S]*?```json\n([\s\S]*?)```/gm)].map(
    ([, name, block]) => [name!, block!.trim().split('\n')] as const,
  );

  test('cover every ask', () => {
    expect(examples.map(([name]) => name).sort()).toEqual([...asks.keys()].sort());
  });

  test.each(examples)('%s', (name, [query, wanted]) => {
    const answered = answerLine(query!);
    expect(answered.error).toBeUndefined();
    expect((JSON.parse(query!) as { ask: string }).ask).toBe(name);
    if (wanted) expectLike(answered, JSON.parse(wanted), { relative: 1e-6, absolute: 1e-9 }, 'answer');
  });
});

describe('what cannot be answered is told with its place', () => {
  const refusals: [string, unknown, string, number?][] = [
    ['no JSON', '{', 'json'],
    ['no object', '[1]', 'query'],
    ['no ask', '{"id":1}', 'query'],
    ['an unknown ask', { ask: 'guess' }, 'query'],
    ['an unknown field', { ask: 'roots', polynomial: [1, 2], extra: 1 }, 'query'],
    ['an unknown field inside', { ask: 'poles', system: { numerator: [1], denominator: [1, 1], gian: 2 } }, 'query'],
    ['a missing field', { ask: 'roots' }, 'query'],
    ['a field of the wrong type', { ask: 'roots', polynomial: 'x' }, 'query'],
    ['no finite number', '{"ask":"roots","polynomial":[1e999]}', 'query'],
    ['no system', { ask: 'poles', system: {} }, 'query'],
    ['an open bracket', { ask: 'poles', system: '1/(s+1' }, 'unclosedBracket', 2],
    ['a name without a value', { ask: 'poles', system: '1/(s + K)' }, 'unknownName', 7],
    ['division by zero', { ask: 'poles', system: '1/(s - s)' }, 'divisionByZero', 1],
    ['a denominator of zeros', { ask: 'poles', system: { numerator: [1], denominator: [0] } }, 'divisionByZero'],
    ['more zeros than poles', { ask: 'measures', system: 's^2/(s+1)' }, 'improper'],
    ['a look ahead', { ask: 'poles', system: 'exp(0.5s)/(s+1)' }, 'deadTime', 0],
    ['dead time that is no factor of s', { ask: 'poles', system: 'exp(-2)/(s+1)' }, 'deadTime', 0],
    ['exp without a bracket', { ask: 'poles', system: 'exp s' }, 'deadTime', 0],
    ['poles of a loop with dead time', loop('poles', 'exp(-s)/(s+1)'), 'deadTime'],
    ['a locus with dead time', { ask: 'locus', system: 'exp(-s)/s' }, 'deadTime'],
    ['poles without partners', { ask: 'poles', system: { poles: [[1, 2]] } }, 'query'],
    ['matrices that do not fit', { ask: 'poles', system: { a: [[1]], b: [[1, 2]], c: [[1]], d: [[0]] } }, 'matrix'],
    ['rows of unequal length', { ask: 'poles', system: { a: [[1, 2], [3]], b: [[1], [1]], c: [[1, 1]] } }, 'matrix'],
    [
      'poles that cannot be placed',
      placed(
        [
          [1, 0],
          [0, 2],
        ],
        [[1], [0]],
      ),
      'notPossible',
    ],
    [
      'no series form',
      { ask: 'controller', controller: { form: 'ideal', Kp: 1, Ti: 1, Td: 1 }, to: 'series' },
      'notPossible',
    ],
    ['no ideal form', { ask: 'controller', controller: { form: 'parallel', Ki: 1 }, to: 'ideal' }, 'notPossible'],
    ['too few gains', { ask: 'matchPolynomial', plant: '1/(s^2+s+1)', form: 'P', poles: [-1, -5] }, 'notPossible'],
    ['samples that do not rise', responseTo({ kind: 'samples', times: [1, 1], values: [0, 1] }), 'query'],
    ['an input before the start', responseTo({ kind: 'step', at: -1 }), 'query'],
    [
      'a derivative without filter',
      { ask: 'simulate', plant: '1/s', controller: { Kd: 1 }, times: [1] },
      'notPossible',
    ],
    ['too few data', { ask: 'fit', structure: 'firstOrder', data: { times: [0, 1], values: [0, 1] } }, 'query'],
    ['the zero polynomial', { ask: 'routh', polynomial: [0] }, 'query'],
  ];

  test.each(refusals)('%s', (_what, query, code, at = 0) => {
    const answered = typeof query === 'string' ? answerLine(query) : answer(query);
    expect(answered.result).toBeUndefined();
    expect(answered.error).toMatchObject({ code, at });
    expect(answered.error!.message).toMatch(/[.]$/);
  });

  const equationRefusals: [string, string[], Record<string, string>, string][] = [
    ['no equals sign', ['y'], {}, 'Equation 1: An equals sign is missing.'],
    ['two equals signs', ['y = r = 2'], {}, 'Equation 1: There is more than one equals sign.'],
    ['two equations for a signal', ['y = r', 'y = 2r'], {}, 'Two equations give y.'],
    [
      'a product of signals',
      ['y = r*y'],
      {},
      'Equation 1: Two signals are multiplied; only linear equations are read.',
    ],
    ['division by a signal', ['y = 1/y + r'], {}, 'Equation 1: Nothing can be divided by a signal.'],
    [
      'a constant',
      ['y = r + 1'],
      {},
      'Equation 1: Every term on the right needs a signal; a constant is an input of its own.',
    ],
    ['names in a circle', ['y = G*r'], { G: 'H', H: 'G' }, 'G is defined by itself.'],
    ['a bound signal', ['y = r'], { y: '2' }, 'y is a signal here and a parameter or binding as well; rename one.'],
    [
      'no solution',
      ['e = r + e', 'y = e'],
      {},
      'These equations have no unique solution: some signals can be anything.',
    ],
  ];

  test.each(equationRefusals)('equations: %s', (_what, equations, where, message) => {
    const { error } = answer({ ask: 'transferFunction', system: { equations, where, from: 'r', to: 'y' } });
    expect(error?.message).toBe(message);
  });

  function loop(ask: string, L: string) {
    return { ask, system: { equations: ['e = r - y', 'y = L*e'], where: { L }, from: 'r', to: 'y' } };
  }
  function placed(a: number[][], b: number[][]) {
    return { ask: 'placePoles', system: { a, b }, poles: [-1, -2] };
  }
  function responseTo(input: unknown) {
    return { ask: 'response', system: '1/(s+1)', input, times: [1] };
  }
});
