import { outsideBy } from '../src/checking/corridor';
import { checkAnswer, examine } from '../src/checks';
import { type ExerciseDocument, fractionOf, type GainsPart, modelOf, stepResponse, systemOf } from '../src/index';
import { exercise, tune } from './documents';

const nothing = modelOf({ systems: [], series: [] }, {});
const loopOf = (part: GainsPart, gains: Record<string, string>, of = nothing) =>
  checkAnswer(part, of, { kind: 'gains', gains });
const simple: GainsPart = { ...tune, plant: '1/(s^2 + 1.2*s)' };
const named = (
  terms: 'P' | 'PI' | 'PID',
  form: 'parallel' | 'ideal' | 'series',
  ...names: ('Kp' | 'Ki' | 'Kd' | 'Ti' | 'Td')[]
) => ({
  terms,
  form,
  gains: names.map((name) => ({ name, start: 1, fine: 0.1, coarse: 1 })),
});

describe('controllers', () => {
  test('of one loop in parallel and in ideal form are judged alike', () => {
    const parallel = loopOf(
      { ...simple, controller: named('PID', 'parallel', 'Kp', 'Ki', 'Kd') },
      { Kp: '8', Ki: '2', Kd: '4' },
    );
    const ideal = loopOf(
      { ...simple, controller: named('PID', 'ideal', 'Kp', 'Ti', 'Td') },
      { Kp: '8', Ti: '4', Td: '0.5' },
    );
    expect(ideal.items.map(({ measured }) => measured)).toEqual(parallel.items.map(({ measured }) => measured));
    expect(
      loopOf({ ...simple, controller: named('PI', 'ideal', 'Kp', 'Ti') }, { Kp: '2', Ti: '∞' }).items,
    ).toHaveLength(3);
  });

  test('take what is given of them from the exercise', () => {
    const controller: GainsPart['controller'] = {
      ...named('PID', 'parallel', 'Kp', 'Ki', 'Kd'),
      gains: [
        { name: 'Kp', start: 1, fine: 1, coarse: 5 },
        { name: 'Ki', value: '0' },
        { name: 'Kd', value: 'b + 1' },
      ],
    };
    const own = modelOf({ systems: [], series: [] }, { b: '3' });
    expect(loopOf({ ...simple, controller }, { Kp: '9' }, own).items[1]!.measured).toBeCloseTo(
      loopOf({ ...simple, controller: named('PID', 'parallel', 'Kp', 'Ki', 'Kd') }, { Kp: '9', Ki: '0', Kd: '4' })
        .items[1]!.measured!,
      9,
    );
    expect(() => loopOf({ ...simple, controller }, { Kp: '9', Kd: '1' }, own)).toThrow(/no gain Kd/);
  });
});

describe('nails on any signal', () => {
  const P = named('P', 'parallel', 'Kp');
  const first: GainsPart = { ...simple, plant: '1/(s + 1)', controller: P };
  const read = (nail: object, part = first, Kp = '4') =>
    loopOf(
      { ...part, nails: [{ id: 'n', relation: 'atMost', limit: 1, points: 1, ...nail } as GainsPart['nails'][number]] },
      { Kp },
    ).items[0]!;

  // y/r = 4/(s + 5): closed forms.
  test.each<[object, number]>([
    [{ quantity: 'finalValue' }, 0.8],
    [{ quantity: 'finalValue', signal: 'e' }, 0.2],
    [{ quantity: 'largestMagnitude', signal: 'u' }, 4],
    [{ quantity: 'finalValue', input: 'd' }, 0.2],
    [{ quantity: 'stepError' }, 0.2],
    [{ quantity: 'slowestRealPart' }, -5],
    [{ quantity: 'timeConstant' }, 0.2],
    [{ quantity: 'bandwidth' }, 5],
    [{ quantity: 'time63' }, 0.2],
    [{ quantity: 'phaseMargin' }, 180 - (180 / Math.PI) * Math.acos(1 / 4)],
  ])('%o is read', (nail, value) => {
    expect(read(nail).measured).toBeCloseTo(value, 6);
  });

  test('an error that stays has no integral, and says so', () => {
    expect(read({ quantity: 'integralAbsolute' })).toMatchObject({ measured: null, infinite: true, met: false });
    const integrating = { ...first, plant: '1/s' };
    expect(read({ quantity: 'integralAbsolute' }, integrating).measured).toBeCloseTo(0.25, 6);
  });

  test('a larger step makes levels larger, times and per cents not', () => {
    const tall: GainsPart = { ...first, input: { kind: 'levels', from: 0, to: 5, at: 0 } };
    expect(read({ quantity: 'finalValue' }, tall).measured).toBeCloseTo(4, 9);
    expect(read({ quantity: 'time63' }, tall).measured).toBeCloseTo(0.2, 9);
    expect(read({ quantity: 'largestMagnitude', signal: 'u' }, tall).measured).toBeCloseTo(20, 6);
  });

  test('a sensor belongs to the loop', () => {
    const sensed: GainsPart = { ...first, sensor: '2' };
    expect(read({ quantity: 'finalValue' }, sensed).measured).toBeCloseTo(4 / 9, 9);
    expect(read({ quantity: 'stepError' }, sensed).measured).toBeCloseTo(1 / 9, 9);
  });

  test('dead time in the loop is decided by its own stability', () => {
    const late: GainsPart = { ...first, plant: 'exp(-0.5 s)/(s + 1)' };
    expect(read({ quantity: 'finalValue' }, late, '2').measured).toBeCloseTo(2 / 3, 6);
    expect(read({ quantity: 'finalValue' }, late, '5')).toMatchObject({ met: false, measured: null });
  });

  test('all or nothing gives no share', () => {
    const nails: GainsPart['nails'] = [
      { id: 'a', quantity: 'finalValue', relation: 'atLeast', limit: 0.5, points: 2 },
      { id: 'b', quantity: 'finalValue', relation: 'atLeast', limit: 0.9, points: 1 },
    ];
    expect(loopOf({ ...first, nails }, { Kp: '4' }).points).toBe(2);
    expect(loopOf({ ...first, nails, marking: 'allOrNothing' }, { Kp: '4' })).toMatchObject({ points: 0, outOf: 3 });
  });
});

describe('limits of the effort', () => {
  const limited: GainsPart = {
    ...simple,
    plant: '1/(5 s + 1)',
    controller: named('PI', 'parallel', 'Kp', 'Ki'),
    limits: { low: '0', high: '1.5' },
    horizon: 40,
    nails: [
      { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 100, points: 1 },
      { id: 'effort', quantity: 'largestMagnitude', signal: 'u', relation: 'atMost', limit: 1.5, points: 1 },
    ],
  };
  const at = (part: GainsPart) => loopOf(part, { Kp: '4', Ki: '3' }).items;

  test('hold the effort, and anti-windup takes overshoot away', () => {
    const [wound, effort] = at(limited);
    expect(effort).toMatchObject({ met: true });
    expect(effort!.measured).toBeCloseTo(1.5, 6);
    const [tracked] = at({ ...limited, limits: { ...limited.limits!, trackingTime: '0.5' } });
    expect(tracked!.measured!).toBeLessThan(0.6 * wound!.measured!);
  });

  test('refuse what cannot be worked out with them', () => {
    const document: ExerciseDocument = { ...exercise, parts: [{ ...limited, sensor: '1/(s+1)' }] };
    expect(examine(document)[0]).toMatchObject({ path: 'parts/0/limits' });
  });
});

describe('a corridor', () => {
  const first = stepResponse(systemOf(fractionOf('1/(s+1)')));
  test('is left by as much as the response stands outside its lines', () => {
    const flat = [
      { time: 0, low: null, high: 0.5 },
      { time: 2, low: null, high: 0.5 },
    ];
    expect(outsideBy(first, flat)).toMatchObject({ time: 2, above: true });
    expect(outsideBy(first, flat).distance).toBeCloseTo(0.5 - Math.exp(-2), 9);
    // Furthest below a line of slope 1/2 where the response itself rises by 1/2.
    const rising = [
      { time: 0, low: 0.2, high: null },
      { time: 3, low: 1.7, high: null },
    ];
    const inside = outsideBy(first, [rising[0]!, { time: 1, low: 0.7, high: null }]);
    expect(inside.distance).toBeCloseTo(0.2, 9);
    expect(outsideBy(first, rising).time).toBe(3);
  });

  test('is about the response that is drawn: on a ramp, on a late step, with its disturbance', () => {
    // y lags a ramp by (1 − exp(−Kp t))/Kp behind an integrator.
    const lag = (most: number, to = 4): GainsPart['nails'] => [
      {
        id: 'corridor',
        corridor: [
          { time: 0, low: -most, high: null },
          { time: to, low: to - most, high: null },
        ],
        points: 2,
      },
    ];
    const integrator: GainsPart = { ...simple, plant: '1/s', controller: named('P', 'parallel', 'Kp') };
    const part: GainsPart = { ...integrator, nails: lag(0.6), input: { kind: 'ramp', amplitude: 1, at: 0 } };
    const { items } = loopOf(part, { Kp: '1' });
    expect(items[0]!.measured).toBeCloseTo(1 - Math.exp(-4) - 0.6, 6);
    expect(loopOf(part, { Kp: '2' }).met).toBe(true);
    // A disturbance of −0.4 takes another 0.4/Kp away.
    const disturbed: GainsPart = { ...part, disturbance: { kind: 'levels', from: 0, to: -0.4, at: 0 } };
    expect(loopOf(disturbed, { Kp: '2' }).items[0]!.measured).toBeCloseTo((1 - Math.exp(-8)) * (0.5 + 0.2) - 0.6, 6);
    const late: GainsPart = { ...part, nails: lag(1), input: { kind: 'levels', from: 0, to: 1, at: 1 } };
    // At 1 s the step has not yet begun to act, at 2 s the line is at 1.
    expect(loopOf(late, { Kp: '4' }).items[0]).toMatchObject({ met: false });
    expect(loopOf({ ...late, nails: lag(1, 1.9) }, { Kp: '4' }).met).toBe(true);
  });
});
