import { ControlLoop, type GainsPart, LoopModel, type StudentPart, systemFrom } from '@nailset/core';
import { bodeFrame } from '../src/frequency/BodeAxes';
import { frequencyOf, marginMarks } from '../src/frequency/frequencyData';
import { nyquistPoints } from '../src/frequency/NyquistPicture';
import { loopResponses } from '../src/loop/loopResponse';
import { additionsTo, handlesOf, moved, without } from '../src/plane/handles';
import {
  factorOf,
  frameAround,
  locusOf,
  openLoopOf,
  promisedOvershoot,
  regionEdge,
  regionOf,
} from '../src/plane/locus';
import { planeScale, stepFor } from '../src/plane/LocusLayers';
import { onBranch, readingsOn } from '../src/plane/readings';
import { sweepGain, sweepOver } from '../src/plane/sweep';
import { asymptoteAt, unity } from './planeHelpers';

type Gains = Extract<StudentPart, { kind: 'gains' }>;

const part: Gains = {
  id: 'lead',
  kind: 'gains',
  title: 'Lead',
  prompt: '',
  points: 2,
  attempts: 5,
  plant: '6/(s*(s + 1)*(s + 6))',
  controller: {
    terms: 'compensator',
    form: 'factors',
    gains: [
      { name: 'K', start: 1, fine: 0.1, coarse: 1, low: 0, high: 100 },
      { name: 'z1', start: -1, fine: 0.1, coarse: 1, low: -20, high: -0.1, optional: true },
      { name: 'p1', start: -8, fine: 0.1, coarse: 1, low: -80, high: -0.1, optional: true },
      { name: 'zr', start: -1, fine: 0.1, coarse: 1, optional: true },
      { name: 'zi', start: 2, fine: 0.1, coarse: 1, optional: true },
    ],
  },
  output: 'y',
  horizon: 10,
  views: ['locus'],
  families: [],
  nails: [
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 },
    { id: 'settle', quantity: 'settlingTime', relation: 'atMost', limit: 2, points: 1 },
    { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.6, points: 1 },
  ] satisfies GainsPart['nails'],
};
const noNames = { names: new Map() };
const model = new LoopModel(part, noNames);
const responses = loopResponses(part, noNames, []);

describe('the locus of a part', () => {
  test('is that of the loop without its factor', () => {
    expect(factorOf(part)).toBe('K');
    const locus = locusOf(openLoopOf(model, { K: '40' }, 'K')!, { re: -3, im: 0, reach: 6 });
    expect(locus.special.axisCrossings[0]!.gain).toBeCloseTo(7, 9);
    expect(locus.branches).toHaveLength(3);
  });

  test('has no branches to draw with dead time', () => {
    const late = new LoopModel({ ...part, plant: 'exp(-s)/(s + 1)' }, noNames);
    expect(openLoopOf(late, { K: '1' }, 'K')).toBeNull();
  });

  test.each([
    ['P', 'parallel', 'Kp'],
    ['PID', 'ideal', 'Kp'],
    ['PID', 'parallel', null],
  ] as const)('of a %s controller in %s form runs over %s', (terms, form, factor) => {
    const rung = { start: 1, fine: 1, coarse: 1 };
    const gains =
      terms === 'P'
        ? [{ name: 'Kp' as const, ...rung }]
        : (['Kp', 'Ki', 'Kd'] as const).map((name) => ({ name, ...rung }));
    expect(factorOf({ ...part, controller: { terms, form, gains } })).toBe(factor);
  });

  test('a reading tells the gain of its point, and what rule and response say', () => {
    const { branches } = locusOf(openLoopOf(model, { K: '1' }, 'K')!, { re: -3, im: 0, reach: 6 });
    const upper = branches.findIndex(({ im }) => im.some((value) => value > 0.5));
    const sweep = sweepGain(branches, responses, { K: '1' }, 'K');
    const [reading] = readingsOn(sweep, [{ id: 1, gain: 2, branch: upper }]);
    const pole = responses.of({ K: '2' }).poles.find(({ im }) => Math.sign(im) === Math.sign(reading!.im))!;
    expect(reading!.re).toBeCloseTo(pole.re, 3);
    expect(Math.abs(reading!.im)).toBeCloseTo(Math.abs(pole.im), 3);
    expect(reading!.actual).toBeCloseTo(responses.of({ K: '2' }).measures.overshootPercent!, 9);
    expect(reading!.promised).toBeCloseTo(promisedOvershoot(pole), 1);
    expect(reading!.words).toMatch(/^pole .*overshoot by the rule .* %, of the response .* %, K 2$/);
    expect(onBranch(branches[upper]!, 0).im).toBeCloseTo(0, 9);
  });

  test('where no gain is the factor, another gain multiplies every term', () => {
    const rung = { start: 1, fine: 1, coarse: 1 };
    const pd: Gains = {
      ...part,
      controller: { terms: 'PD', form: 'parallel', gains: (['Kp', 'Kd'] as const).map((name) => ({ name, ...rung })) },
    };
    const sweep = sweepGain([], loopResponses(pd, noNames, []), { Kp: '2', Kd: '0.5' }, null);
    expect(sweep.responseAt(3)!.settings).toEqual({ Kp: '6', Kd: '1.5' });
    expect(sweepGain([], responses, { K: '2', z1: '-1', p1: '-9' }, 'K').responseAt(3)!.settings).toEqual({
      ...{ K: '3', z1: '-1', p1: '-9' },
    });
  });
});

describe('poles over something else than the gain', () => {
  const frame = { re: -3, im: 0, reach: 6 };
  const steps = Array.from({ length: 33 }, (_, k) => 2 ** ((k - 16) / 8));
  const plantAt = (b: number) => `6/(s*(s + ${b.toPrecision(6)})*(s + 6))`;
  const family = {
    parameter: 'b',
    members: [],
    sweep: steps.map((b) => ({ value: b.toPrecision(6), plant: plantAt(b) })),
  };
  const over = (name: string) =>
    sweepOver(
      name,
      { ...part, families: [family] },
      loopResponses({ ...part, families: [family] }, noNames, []),
      {
        ...{ K: '2', z1: '-1.5', p1: '-8' },
      },
      frame,
    );

  test('run over a place of the compensator in its range', () => {
    const sweep = over('p1');
    const { branches } = sweep;
    expect(branches).toHaveLength(4);
    expect([branches[0]!.gains[0], branches[0]!.gains.at(-1)]).toEqual([-80, -0.1]);
    for (const k of [0, 20, 40]) {
      const value = branches[0]!.gains[k]!;
      const poles = sweep.responseAt(value)!.poles;
      for (const { re, im } of branches) {
        const off = poles.map(
          (pole) => Math.hypot(pole.re - re[k]!, pole.im - im[k]!) / (1 + Math.hypot(pole.re, pole.im)),
        );
        expect(Math.min(...off)).toBeLessThan(1e-4);
      }
    }
  });

  test('run over a parameter of the plant, true between its values too', () => {
    const sweep = over('b');
    const { branches } = sweep;
    expect(branches[0]!.gains[0]).toBeCloseTo(0.25, 6);
    expect(branches[0]!.gains.at(-1)).toBeCloseTo(4, 4);
    const k = branches[0]!.gains.findIndex((value) => value > 1.04);
    const b = branches[0]!.gains[k]!;
    const { poles } = loopResponses({ ...part, plant: plantAt(b) }, noNames, []).of({ K: '2', z1: '-1.5', p1: '-8' });
    for (const { re, im } of branches) {
      expect(Math.min(...poles.map((pole) => Math.hypot(pole.re - re[k]!, pole.im - im[k]!)))).toBeLessThan(1e-3);
    }
    expect(sweep.snapped(1.02)).toBe(1);
    expect(sweep.stepped(1, 10)).toBeCloseTo(2 ** (1 / 8), 5);
    expect(sweep.stepped(4, 1)).toBe(4);
  });

  test('readings name what they were read over', () => {
    const sweep = over('b');
    const [reading] = readingsOn(sweep, [{ id: 1, gain: 2, branch: 0 }]);
    expect(reading!.words).toMatch(/^pole .*, b 2$/);
    expect(reading!.actual).toBeCloseTo(sweep.responseAt(2)!.measures.overshootPercent!, 9);
  });
});

describe('what the nails ask of poles', () => {
  const region = regionOf(part.nails);

  test('follows from the second-order rules', () => {
    expect(region.dampingRatio).toBeCloseTo(0.5912, 4);
    expect(region.naturalFrequency).toBeCloseTo(3, 9);
    expect(region.decay).toBeCloseTo(2, 9);
    expect(
      regionOf([{ id: 'd', quantity: 'overshootPercent', input: 'd', relation: 'atMost', limit: 1, points: 1 }]),
    ).toEqual({
      ...{ dampingRatio: null, naturalFrequency: null, decay: null },
    });
  });

  test('every point of the edge keeps all of them, and none could come nearer', () => {
    const edge = regionEdge(region, 1000).slice(0, -1);
    for (const { re, im } of edge) {
      const size = Math.hypot(re, im);
      expect(-re / size).toBeGreaterThanOrEqual(region.dampingRatio! - 1e-9);
      expect(size).toBeGreaterThanOrEqual(3 - 1e-9);
      expect(-re).toBeGreaterThanOrEqual(2 - 1e-9);
      expect(Math.min(size - 3, -re - 2)).toBeLessThan(1e-9);
    }
  });
});

describe('the compensator’s zeros and poles', () => {
  test('are handles where the settings have them, a pair as one', () => {
    const handles = handlesOf(part, { K: '1', z1: '−2', zr: '-1', zi: '3' });
    expect(handles.map(({ name, kind, re, im }) => [name, kind, re, im])).toEqual([
      ['z1', 'zero', -2, 0],
      ['zr', 'zero', -1, 3],
    ]);
    expect(moved(part, { K: '1', z1: '-2' }, handles[0]!, { re: 5, im: 3 })).toEqual({ K: '1', z1: '-0.1' });
    const [, limited] = handlesOf(part, { z1: '-2.97', p1: '-8' });
    const ten = { ...part, controller: { ...part.controller, largestRatio: 10 } } as Gains;
    const pole = (to: number, held = {}, of = ten) =>
      Number(moved(of, { K: '1', z1: '-2.97', p1: '-8' }, limited!, { re: to, im: 0 }, held)['p1']);
    // Its largest ratio stops it, on either side, and rounding does not lead beyond.
    expect([pole(-500), pole(-1e-6), pole(-20)]).toEqual([-29.7, -0.297, -20]);
    expect(Math.abs(pole(-500) / 2.97)).toBeLessThanOrEqual(10);
    // What goes along stops it as well: z1 at a quarter of p1 stays above its own lowest place.
    expect(pole(-500, { 1: 4 }, part)).toBe(-80);
    expect(pole(-0.11, { 1: 4 }, part)).toBe(-0.4);
    expect(moved(part, { K: '1', zr: '-1', zi: '3' }, handles[1]!, { re: -1.23456, im: -2 })).toEqual({
      ...{ K: '1', zr: '-1.235', zi: '2' },
    });
  });

  test('come one by one, as a lead, or as a pair, and go again', () => {
    const labels = (settings: Record<string, string>) => additionsTo(part, settings).map(({ label }) => label);
    expect(labels({ K: '1' })).toEqual(['lead z1, p1', 'zero z1', 'pole p1', 'pair of zeros']);
    expect(labels({ K: '1', z1: '-1', zr: '-1', zi: '2' })).toEqual(['pole p1']);
    expect(without({ K: '1', zr: '-1', zi: '2' }, 'zr')).toEqual({ K: '1' });
  });
});

describe('the plane', () => {
  test('has one scale on both axes, the frame’s middle in its middle', () => {
    const { x, y } = planeScale({ re: -2, im: 0, reach: 4 }, 600, 400);
    expect([x(-2), y(0), x(-1) - x(-2), y(0) - y(1)]).toEqual([300, 200, 50, 50]);
    const frame = frameAround([
      { re: -8, im: 0 },
      { re: -1, im: 3 },
    ]);
    const scale = planeScale(frame, 380, 360);
    expect(scale.x(-8)).toBeGreaterThan(0);
    expect(scale.y(3)).toBeGreaterThan(0);
    expect(scale.x(0)).toBeLessThan(380);
  });

  test.each([
    [10, 5, 2],
    [7, 6, 2],
    [0.9, 5, 0.2],
    [100, 6, 20],
  ])('marks over %d, about %d of them, stand %d apart', (span, count, step) => {
    expect(stepFor(span, count)).toBeCloseTo(step, 12);
  });
});

describe('the frequency response', () => {
  const loop = new ControlLoop({ plant: systemFrom('30/(s*(s + 2)*(s + 10))', noNames), sensor: model.sensor }, unity);
  const response = frequencyOf(loop);

  test('carries its margins as points of its own', () => {
    const { omega } = response.margins.phaseMargins[0]!;
    const k = response.omegas.indexOf(omega);
    expect(response.magnitudesDb[k]).toBeCloseTo(0, 6);
    const point = nyquistPoints(response)[k]!;
    expect(Math.hypot(point.re, point.im)).toBeCloseTo(1, 6);
  });

  test('straight lines meet at the corners and fall by 20 dB a decade for each pole', () => {
    expect(asymptoteAt(response, 0.2) - asymptoteAt(response, 2)).toBeCloseTo(20, 6);
    expect(asymptoteAt(response, 50) - asymptoteAt(response, 200)).toBeCloseTo(60 * Math.log10(4), 6);
  });

  test('says what the encirclements mean', () => {
    expect(response.count).toBe(
      'L goes round −1 not at all and has no pole in the right half-plane: the closed loop is stable.',
    );
    const unstable = new ControlLoop({ plant: systemFrom('3/(s - 1)', noNames), sensor: model.sensor }, unity);
    expect(frequencyOf(unstable).count).toBe(
      'L goes round −1 once counter-clockwise and has one pole in the right half-plane: the closed loop is stable.',
    );
    const fast = new ControlLoop(
      { plant: systemFrom('3000/(s*(s + 2)*(s + 10))', noNames), sensor: model.sensor },
      unity,
    );
    expect(frequencyOf(fast).count).toMatch(/twice clockwise.*the closed loop has 2 poles in the right half-plane/);
  });

  test('the margin nearest to instability decides, in decibels or as a ratio', () => {
    const marks = marginMarks(
      {
        ...{ closedLoopStable: true, delayMargin: 1 },
        gainMargins: [
          { omega: 1, gain: 0.5 },
          { omega: 9, gain: 10 },
        ],
        phaseMargins: [
          { omega: 2, degrees: 60 },
          { omega: 5, degrees: -20 },
        ],
      },
      true,
    );
    expect(marks.map(({ omega, decides }) => [omega, decides])).toEqual([
      [1, true],
      [9, false],
      [2, false],
      [5, true],
    ]);
    expect(marks[1]!.words).toBe('× 10');
  });

  test('a frame holds the whole curve on round ends', () => {
    const frame = bodeFrame(response);
    expect([frame.dbLow % 20, frame.phaseLow % 45].map(Math.abs)).toEqual([0, 0]);
    expect(frame.phaseLow).toBeLessThan(Math.min(...response.phasesDegrees));
  });
});
