import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { answer } from '../src/batch/answer';
import { problemCodes } from '../src/expression/problem';

interface Point {
  re: number;
  im: number;
}
const ask = <Result = Record<string, unknown>>(query: Record<string, unknown>): Result => {
  const { result, error } = answer(query);
  if (error) throw new Error(error.message);
  return result as Result;
};

describe('every form of a system is the same system', () => {
  const forms: Record<string, unknown> = {
    expression: '6(s+1)/(s^2+2s+5)',
    coefficients: { numerator: [6, 6], denominator: [1, 2, 5] },
    'gain, zeros and poles': {
      gain: 6,
      zeros: [-1],
      poles: [
        [-1, 2],
        [-1, -2],
      ],
    },
    states: {
      a: [
        [0, 1],
        [-5, -2],
      ],
      b: [[0], [1]],
      c: [[6, 6]],
      d: [[0]],
    },
    'states without D': {
      a: [
        [0, 1],
        [-5, -2],
      ],
      b: [[0], [1]],
      c: [[6, 6]],
    },
    'one of several inputs': {
      a: [
        [0, 1],
        [-5, -2],
      ],
      b: [
        [3, 0],
        [3, 1],
      ],
      c: [
        [1, 0],
        [6, 6],
      ],
      d: [
        [0, 0],
        [0, 0],
      ],
      input: 1,
      output: 1,
    },
    equations: { equations: ['y = G*u'], where: { G: '6(s+1)/(s^2+2s+5)' }, from: 'u', to: 'y' },
    'equations as one text': {
      equations: 'v = 6*u + 6*x\ny = v/G\nx = s^-1*0*u + w\nw = 0*u',
      where: { G: '(s^2+2s+5)/(s+1)' },
      from: 'u',
      to: 'y',
    },
    derivatives: { equations: ["x'' = -2*x' - 5*x + u", "y = 6*x' + 6*x"], from: 'u', to: 'y' },
    'states as equations': {
      equations: ['s*x1 = x2', 's*x2 = -5*x1 - 2*x2 + u', 'y = 6*x1 + 6*x2'],
      from: 'u',
      to: 'y',
    },
    'a loop': {
      equations: ['e = u - H*y', 'y = G*e'],
      where: { G: '6(s+1)/(s^2+2s)', H: '5/(6(s+1))' },
      from: 'u',
      to: 'y',
    },
  };

  test.each(Object.entries(forms))('%s', (_name, system) => {
    expect(ask({ ask: 'transferFunction', system })).toEqual({
      numerator: [6, 6],
      denominator: [1, 2, 5],
      deadTime: 0,
    });
    expect(ask({ ask: 'response', system, times: [0.5] })).toEqual({
      values: [
        expect.closeTo(
          ask<{ values: number[] }>({ ask: 'response', system: forms['expression'], times: [0.5] }).values[0]!,
          10,
        ),
      ],
    });
  });

  test('standard second order, by frequency or by time constant', () => {
    const byFrequency = { gain: 3, dampingRatio: 0.25, naturalFrequency: 4 };
    const byTime = { gain: 3, dampingRatio: 0.25, timeConstant: 0.25 };
    for (const system of [byFrequency, byTime]) {
      expect(ask({ ask: 'transferFunction', system })).toMatchObject({ numerator: [48], denominator: [1, 2, 16] });
    }
  });

  test('dead time beside coefficients or inside the expression', () => {
    const times = [0.3, 0.7, 2];
    const left = ask({ ask: 'response', system: { numerator: [3], denominator: [5, 1], deadTime: 0.4 }, times });
    expect(left).toEqual(ask({ ask: 'response', system: '3*exp(-0.4s)/(5s+1)', times }));
  });
});

describe('signals of a loop', () => {
  const diagram = (from: string, to: string) => ({
    equations: 'e = r - b\nu = C*e\ny = G*(u + d)\nb = H*y\nwhere C = 2 + 1/s, G = 4/(s^2 + 1.2 s + 4), H = 1',
    from,
    to,
  });

  test('output, error and effort fit together at every time', () => {
    const times = [0, 0.2, 1, 3, 8];
    const of = (from: string, to: string) =>
      ask<{ values: number[] }>({ ask: 'response', system: diagram(from, to), times }).values;
    const [y, e, u] = [of('r', 'y'), of('r', 'e'), of('r', 'u')];
    y.forEach((value, k) => expect(value + e[k]!).toBeCloseTo(1, 9));
    const integral = ask<{ values: number[] }>({
      ask: 'response',
      system: diagram('r', 'e'),
      input: { kind: 'ramp' },
      times,
    }).values;
    u.forEach((value, k) => expect(value).toBeCloseTo(2 * e[k]! + integral[k]!, 9));
    // A constant disturbance is taken up by the integrator: y returns, u ends at −d.
    const late = ask<{ values: number[] }>({ ask: 'response', system: diagram('d', 'u'), times: [60] }).values;
    expect(late[0]).toBeCloseTo(-1, 9);
  });

  test('inputs and signals that are not there are told with those that are', () => {
    expect(answer({ ask: 'measures', system: diagram('r', 'z') }).error?.message).toBe(
      '“z” is no signal here; signals: e, u, y, b.',
    );
    expect(answer({ ask: 'measures', system: diagram('e', 'y') }).error?.message).toBe(
      'e is given by an equation, so it is no input.',
    );
  });

  test('a controller that cancels an unstable pole leaves no measures', () => {
    const system = {
      equations: ['e = r - y', 'u = C*e', 'y = G*u'],
      where: { C: '(s-1)/(s+4)', G: '5/(s-1)' },
      from: 'r',
      to: 'y',
    };
    expect(ask({ ask: 'measures', system })).toMatchObject({ stable: false, finalValue: null, riseTime: null });
    const { stable, hidden } = ask<{ stable: boolean; hidden: Point[] }>({ ask: 'poles', system });
    expect(stable).toBe(false);
    expect(hidden).toMatchObject([{ re: 1, im: 0 }]);
    // Read as one fraction, the mode that was written down counts as well.
    expect(ask({ ask: 'poles', system: '5(s-1)/((s-1)(s+9))' })).toMatchObject({ stable: false, poles: [{ re: -9 }] });
  });

  test.each([
    '2*(s-1)/((s-1)*(s+1)*(s+3))',
    {
      a: [
        [1, 0],
        [0, -2],
      ],
      b: [[1], [1]],
      c: [[0, 1]],
      d: [[0]],
    },
    { numerator: [1, -1], denominator: [1, 1, -2] },
  ])('every ask counts a hidden mode that grows: %j', (system) => {
    expect(ask({ ask: 'poles', system })).toMatchObject({ stable: false, hidden: [{ re: 1 }] });
    expect(ask({ ask: 'measures', system })).toMatchObject({ stable: false, finalValue: null });
    expect(ask({ ask: 'peak', system })).toEqual({ value: null, time: null });
    for (const name of ['margins', 'nyquist', 'robustness', 'steadyState']) {
      expect(ask({ ask: name, system })).toMatchObject({ closedLoopStable: false });
    }
    expect(ask({ ask: 'nyquist', system })).toMatchObject({ openLoopUnstable: 1, closedLoopUnstable: 1 });
    expect(ask({ ask: 'stableGains', system })).toEqual({ intervals: [] });
  });

  test.each([
    '5/(s-1)/(1+5/(s-1))',
    '(5/(s-1))/(1+(5/(s-1))*(2/(s+3)))',
    'exp(-0.1s)*(5/(s-1))/(1+exp(-0.1s)*(5/(s-1)))',
  ])('a loop written as G/(1 + G·H) hides nothing: %s', (system) => {
    expect(ask({ ask: 'measures', system })).toMatchObject({ stable: true });
  });

  test('a loop written out keeps what its blocks cancel', () => {
    const [C, G] = ['((s-1)/(s+4))', '(5/(s-1))'];
    expect(ask({ ask: 'measures', system: `${C}*${G}/(1+${C}*${G})` })).toMatchObject({ stable: false });
  });
});

describe('asks that take more than a system', () => {
  test('initial conditions add to the driven response', () => {
    const system = {
      a: [
        [0, 1],
        [-4, -1],
      ],
      b: [[0], [1]],
      c: [[1, 0]],
      d: [[0]],
    };
    const values = (extra: Record<string, unknown>) =>
      ask<{ values: number[] }>({ ask: 'response', system, times: [0, 0.5, 2], ...extra }).values;
    const [driven, both] = [values({}), values({ initialState: [2, -1] })];
    const free = values({ initialState: [2, -1], input: { kind: 'step', amplitude: 0 } });
    both.forEach((value, k) => expect(value).toBeCloseTo(driven[k]! + free[k]!, 12));
    expect(free[0]).toBeCloseTo(2, 12);
    const derivatives = ask<{ values: number[] }>({
      ask: 'response',
      system: '1/(s^2+s+4)',
      initial: [2, -1],
      input: { kind: 'step', amplitude: 0 },
      times: [0, 0.5, 2],
    }).values;
    derivatives.forEach((value, k) => expect(value).toBeCloseTo(free[k]!, 9));
    expect(answer({ ask: 'response', system, initialState: [1], times: [1] }).error?.message).toContain(
      'needs 2 numbers',
    );
  });

  test('a curve without times is dense where the response bends', () => {
    const { times, values } = ask<{ times: number[]; values: number[] }>({
      ask: 'response',
      system: '4/(s^2+0.4s+4)',
      until: 20,
    });
    expect(times[0]).toBe(0);
    expect(times[times.length - 1]).toBe(20);
    expect(values).toHaveLength(times.length);
    expect(Math.max(...values)).toBeCloseTo(1 + Math.exp((-Math.PI * 0.1) / Math.sqrt(0.99)), 3);
  });

  test('frequencies chosen for the plot show every corner', () => {
    const { omegas, magnitudesDb } = ask<{ omegas: number[]; magnitudesDb: number[] }>({
      ask: 'frequency',
      system: '1/((s+0.01)(s^2+0.02s+100))',
    });
    expect(omegas).toHaveLength(400);
    expect([...omegas].sort((a, b) => a - b)).toEqual(omegas);
    expect(Math.max(...omegas)).toBeGreaterThan(100);
    expect(Math.min(...omegas)).toBeLessThan(0.001);
    const peak = Math.max(...magnitudesDb.filter((_, k) => omegas[k]! > 5));
    // |1/((j10)(2·0.001·100))| at resonance.
    expect(peak).toBeCloseTo(20 * Math.log10(1 / (10 * 0.2)), 1);
  });

  test('integrals and robustness of an unstable loop are null, not numbers', () => {
    expect(ask({ ask: 'errorIntegrals', system: '90/(s^3+7s^2+10s)' })).toEqual({
      absolute: null,
      squared: null,
      timeWeighted: null,
    });
    expect(ask({ ask: 'errorIntegrals', system: '3/(s+1)' })).toEqual({
      absolute: null,
      squared: null,
      timeWeighted: null,
    });
    expect(ask({ ask: 'robustness', system: '90/(s^3+7s^2+10s)' })).toEqual({
      closedLoopStable: false,
      bandwidth: null,
      resonancePeak: null,
      sensitivityPeak: null,
    });
    expect(ask({ ask: 'nyquist', system: '70/(s^3+7s^2+10s)' })).toMatchObject({
      encirclements: null,
      closedLoopStable: false,
    });
  });

  test('letters that stay, and letters that are bound', () => {
    const loop = { equations: ['e = r - y', 'y = K*G*e'], from: 'r', to: 'y' };
    expect(ask({ ask: 'transferFunction', system: { ...loop, where: { G: '1/(s+a)' } } })).toEqual({
      text: 'K/(s+K+a)',
    });
    expect(ask({ ask: 'transferFunction', system: { ...loop, where: { G: '1/(s+a)', a: 2, K: '3' } } })).toEqual({
      numerator: [3],
      denominator: [1, 5],
      deadTime: 0,
    });
    const lateLoop = { ...loop, where: { G: 'exp(-0.5s)/(s+2)', K: 1 } };
    expect(ask({ ask: 'transferFunction', system: lateLoop })).toEqual({ text: 'exp(-1/2*s)/(s+2+exp(-1/2*s))' });
    expect(ask({ ask: 'equivalent', left: lateLoop, right: '1/(exp(0*s)*exp(-0*s) + (s+1)*1 + 0)' })).toEqual({
      equivalent: false,
    });
    expect(ask({ ask: 'equivalent', left: { numerator: [1], denominator: [2, 4] }, right: '0.5/(s+2)' })).toEqual({
      equivalent: true,
    });
  });
});

it('tells programs in the docs what each code of a refusal means', () => {
  const page = readFileSync(join(__dirname, '../../../docs/compute.md'), 'utf8');
  const documented = [...page.matchAll(/^\| `(\w+)` +\| (.*?) +\|$/gm)].map(([, code, means]) => [code, means]);
  expect(documented).toEqual(Object.entries(problemCodes));
});
