import {
  fractionOf,
  type MeasureNail,
  type Measures,
  measuresOf,
  type Nail,
  type NamedSystem,
  systemFrom,
  systemOf,
  TransferSubject,
} from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { checkNails } from '../../core/src/checking/nails';
import { newDiagram, newExercise, newPart } from '../src/builder/newExercise';
import { flockCurves, horizonOf } from '../src/classSheet/flock';
import { pointsByTenth, summarise } from '../src/classSheet/summary';
import { authorKind, offers } from '../src/kinds/authors';
import { frameAbout, frameFor, spread, valueAt } from '../src/plot/frame';
import { limitsOf, measuresAStep } from '../src/plot/limits';
import { Pen } from '../src/plot/pen';
import { understand } from '../src/shared/expression';
import { freeId } from '../src/shared/freeId';
import { awayFrom, type Place, pointsOf } from './paths';

const curve = (values: number[]) => ({ times: Float64Array.from(values.keys()), values: Float64Array.from(values) });

describe('a pen', () => {
  const drawn = (places: readonly Place[]) => {
    const pen = new Pen();
    for (const [x, y] of places) pen.to(x, y);
    return pen.written;
  };
  const along = (count: number, at: (share: number) => Place) =>
    Array.from({ length: count }, (_, k) => at(k / (count - 1)));
  const curves: [string, Place[]][] = [
    ['a line', along(400, (t) => [300 * t, 40 + 10 * t])],
    ['a dying oscillation', along(600, (t) => [500 * t, 150 - 140 * Math.exp(-3 * t) * Math.cos(12 * t)])],
    ['a spiral', along(900, (t) => [200 + 180 * t * Math.cos(20 * t), 200 + 180 * t * Math.sin(20 * t)])],
    ['one that turns back on itself', along(300, (t) => [100 * Math.sin(9 * t), 20])],
    ['a spike', along(301, (t) => [300 * t, t === 0.5 ? 5 : 100])],
  ];
  test.each(curves)('runs through every place of %s, with far fewer of them', (_, places) => {
    const path = drawn(places);
    for (const place of places) expect(awayFrom(path, place)).toBeLessThan(0.25);
    expect(pointsOf(path).length).toBeLessThan(places.length / 2);
    const ends = [0, -1].map((k) => [pointsOf(path).at(k)!, places.at(k)!] as const);
    for (const [is, was] of ends) expect(Math.hypot(is[0] - was[0], is[1] - was[1])).toBeLessThan(0.1);
  });

  test('leaves a gap where there is no place', () => {
    expect(
      drawn([
        [0, 0],
        [10, 0],
        [20, NaN],
        [30, 0],
        [40, 5],
        [Infinity, 5],
      ]),
    ).toBe('M0 0L10 0M30 0L40 5');
    expect(drawn([])).toBe('');
  });
});

describe('frames', () => {
  test('begin with room above the reference, wherever it goes', () => {
    const step = { times: Float64Array.of(0, 5), values: Float64Array.of(1, 1) };
    const down = { times: Float64Array.of(0, 5), values: Float64Array.of(-2, -2) };
    const ramp = { times: Float64Array.of(0, 5), values: Float64Array.of(0, 5) };
    expect(frameAbout(5, step, 1)).toEqual(frameFor(5, [], [0, 1.5]));
    expect(frameAbout(5, ramp, 1).yMax).toBeGreaterThanOrEqual(7.5);
    expect([frameAbout(5, down, -2).yMin <= -2, frameAbout(5, down, -2).yMax]).toEqual([true, 0]);
  });

  test('hold the curve and its levels with some air, ends round', () => {
    expect(frameFor(4, [curve([0, 1.3, 1])], [0, 1])).toEqual({ tMax: 4, yMin: 0, yMax: 1.5 });
    expect(frameFor(4, [curve([0, -2.2, -2])])).toMatchObject({ yMin: -2.5, yMax: 0 });
    expect(frameFor(4, [curve([0, 0])]).yMax).toBeGreaterThan(0);
  });

  test('readings lie on the chord between samples', () => {
    const shape = curve([0, 10, 20]);
    expect([valueAt(shape, 0.5), valueAt(shape, 1), valueAt(shape, 99)]).toEqual([5, 10, 20]);
    expect(valueAt(curve([]), 1)).toBeNaN();
  });

  test('labels are moved apart, in order, inside the plot', () => {
    expect(spread([100, 101, 20], 15, 0, 200)).toEqual([100, 115, 20]);
    expect(spread([198, 199], 15, 0, 200)).toEqual([185, 200]);
  });
});

describe('nails on the plot', () => {
  const nail = (
    quantity: MeasureNail['quantity'],
    limit: number,
    relation: MeasureNail['relation'] = 'atMost',
  ): MeasureNail => ({
    id: quantity,
    quantity,
    relation,
    limit,
    points: 1,
  });
  const subject = new TransferSubject(systemFrom('8/(s^2+1.2s+4)', { names: new Map() }));
  const loop = { stable: true, subject: () => subject, output: () => null };
  const place = (nails: MeasureNail[], measures: Measures) =>
    limitsOf(nails, checkNails(nails, loop), measures, 0.1, 10);
  const measures = measuresOf(systemOf(fractionOf('8/(s^2+1.2s+4)')));

  test('stand at the level that belongs to the final value', () => {
    const [limit] = place([nail('overshootPercent', 10)], measures);
    expect(limit).toMatchObject({ met: false, words: 'overshoot ≤ 10 %', pin: { up: true } });
    expect(limit!.ground!.y0).toBeCloseTo(2.2, 12);
  });

  test('settling hatches what lies below the band from its time on', () => {
    const [limit] = place([nail('settlingTime', 3)], measures);
    expect(limit!.ground).toMatchObject({ t0: 3, t1: Infinity, y1: 1.96 });
  });

  test('those without a place on the plot are left to the rail', () => {
    expect(place([nail('finalValue', 1), nail('riseTime', 1, 'atLeast')], measures)).toEqual([]);
  });
});

test('nails are said to be measured on a step where something else is drawn, if they are about one', () => {
  const overshoot: Nail = { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 };
  const margin: Nail = { id: 'margin', quantity: 'phaseMargin', relation: 'atLeast', limit: 45, points: 1 };
  const bounds = [0, 1].map((time) => ({ time, low: 0, high: 2 }));
  const corridor: Nail = { id: 'corridor', corridor: bounds, points: 1 };
  const ramp = { kind: 'ramp', amplitude: 1, at: 0 } as const;
  expect(measuresAStep({ input: ramp, nails: [margin, overshoot] })).toBe(true);
  expect(measuresAStep({ input: ramp, nails: [margin, corridor] })).toBe(false);
  expect(measuresAStep({ nails: [overshoot] })).toBe(false);
});

describe('the class sheet counts', () => {
  const cell = (points: number, look = false) => ({
    submissionId: '',
    attempt: 1,
    version: 1,
    checked: true,
    met: true,
    points,
    outOf: 10,
    look,
    tries: [],
    items: [],
  });
  const row = (points: number | null, cells = {}) => ({
    person: { id: '', name: '', email: '' },
    ...{ group: '', studentNumber: '', points, cells },
  });

  test('who handed in and what wants a look', () => {
    expect(summarise({ rows: [row(3, { a: cell(3, true), b: cell(0, true) }), row(null)] })).toEqual({
      handedIn: 1,
      look: 2,
    });
  });

  test('points by tenths; a full mark belongs to the last', () => {
    const tenths = pointsByTenth({ outOf: 10, rows: [row(0), row(1), row(1.5), row(10), row(null)] });
    expect(tenths.map(({ students }) => students)).toEqual([2, 1, 0, 0, 0, 0, 0, 0, 0, 1]);
  });
});

describe('the flock', () => {
  const part = newPart('gains', [], { system: '3/(s^2+s+1)' });
  const entry = (submissionId: string, Kp: string) => ({
    submissionId,
    values: {},
    answer: { kind: 'gains', gains: { Kp, Kd: '1' } } as const,
  });

  test('has one curve for every answer that can be drawn', () => {
    const curves = flockCurves(
      part,
      { systems: [], series: [] },
      [entry('a', '2'), entry('b', 'nothing'), entry('c', '5')],
      5,
    );
    expect(curves.map(({ submissionId }) => submissionId)).toEqual(['a', 'c']);
  });

  test('shows typed answers for as long as most of them take to settle', () => {
    const typed = (text: string) => ({
      submissionId: text,
      values: {},
      answer: { kind: 'transferFunction', text } as const,
    });
    const model = newPart('transferFunction', [], { system: '1/(s+1)' });
    const none = { systems: [], series: [] };
    expect(horizonOf(model, none, [typed('1/(s+1)'), typed('1/(s-1)'), typed('1/(s+1)')])).toBeCloseTo(5.5, 1);
    const systems: NamedSystem[] = [
      { name: 'G', meaning: '', form: { kind: 'expression', text: '1/(10*s+1)' } },
      { name: 'D', meaning: '', form: { kind: 'equations', text: 'y = G*r', from: 'r', to: 'y' } },
    ];
    expect(horizonOf(model, { systems, series: [] }, [typed('G')])).toBeCloseTo(55, 0);
  });
});

describe('a new exercise', () => {
  test('can be published as it is, with parts of every kind', () => {
    const start = newExercise();
    expect(examine(start)).toEqual([]);
    for (const { kind, name } of offers) {
      // Parts about diagrams come with one to start from.
      const drawn = authorKind({ kind }).aboutDiagram ? [{ name: 'D', meaning: '', form: newDiagram }] : [];
      const document = { ...start, systems: [...start.systems, ...drawn], parts: [newPart(name, [], { system: 'G' })] };
      expect([name, examine(document)]).toEqual([name, []]);
    }
  });

  test('gives parts names of their own', () => {
    expect(freeId('tune', ['tune', 'tune-2'])).toBe('tune-3');
  });
});

test('typed text is shown typeset even while a name is unknown', () => {
  const understood = understand('q/(s+1)', { names: new Map() });
  expect(understood).toMatchObject({ ok: false, typed: '\\frac{q}{s+1}' });
  expect(understand('(s+1', { names: new Map() })).toMatchObject({ ok: false, typed: null });
  expect(understand('s^2/(s+1)', { names: new Map() })).toMatchObject({ ok: false });
});
