import { modelOf, type ShownPlot } from '@nailset/core';
import { shownPlots } from '../../core/src/kinds/choice/plot';
import { curveOf } from '../../core/src/response/curve';
import { respond } from '../../core/src/response/respond';
import { transferOf } from '../../core/src/system/transfer';
import { measureMarks, placeOf } from '../src/plot/measureMarks';
import { plotWords } from '../src/plot/plotWords';
import { plainText } from '../src/statement/Statement';

const { scope } = modelOf({ systems: [], series: [] }, {});
const shown = (kind: ShownPlot['kind'], system: string): ShownPlot => shownPlots([{ kind, system }], scope)[0]!;
const words = (kind: ShownPlot['kind'], system: string): string => plotWords(shown(kind, system));

describe('a small plot in words', () => {
  test('a response: where it ends, how high it goes and how often it turns', () => {
    expect(words('step', '2/(s + 1)')).toBe('From 0 to 2 at 6 s. It never turns back.');
    // Overshoot 16.3 % at π/0.866 s.
    expect(words('step', '1/(s^2 + s + 1)')).toMatch(
      /^From 0 to 1(\.00)? at 12 s\. Highest 1\.16 at 3\.\d+ s\. It turns back/,
    );
    expect(words('step', '(1 - s)/(s + 1)^2')).toMatch(/Lowest −0\.\d+ at/);
    expect(words('step', '-2/(s + 1)')).toMatch(/^From 0 to −/);
  });

  test('an unstable one goes where it goes', () => {
    expect(words('step', '1/(s - 1)')).toMatch(/^From 0 to 1\d(\.\d)? at 3 s\. It never turns back\.$/);
  });

  test('poles and zeros: a pair once', () => {
    expect(words('poles', '(s + 3)/((s + 1)*(s^2 + 2*s + 5))')).toBe('Poles at −1 ± 2j, −1. Zeros at −3.');
    expect(words('poles', '4/(s + 4)')).toBe('Poles at −4. No zeros.');
  });

  test('a locus: its branches and where they begin', () => {
    const told = words('locus', '1/(s*(s + 2))');
    expect(told).toMatch(/^2 branches\. Poles at (0, −2|−2, 0)\. No zeros\./);
    expect(told.match(/One from/g)).toHaveLength(2);
  });

  test('a Bode plot: both ends, and a peak only where there is one', () => {
    expect(words('bode', '10/(s + 1)')).toMatch(/^Magnitude from 20 dB at .*Phase from −.*° at/);
    expect(words('bode', '10/(s + 1)')).not.toMatch(/highest/);
    expect(words('bode', '1/(s^2 + 0.1*s + 1)')).toMatch(/highest (19\.\d|20(\.\d)?) dB at (0\.99|1)/);
  });

  test('a Nyquist plot: where it crosses the real axis', () => {
    // At ω = √11 it is 6/(6 − 6·11) = −0.1.
    expect(words('nyquist', '6/((s + 1)*(s + 2)*(s + 3))')).toMatch(
      /^From 0\.997 − 0\.061j to 0\. It crosses the real axis at −0\.(0996|1)\.$/,
    );
    expect(words('nyquist', '1/(s + 1)')).toMatch(/It does not cross the real axis\.$/);
  });

  test('the words of options: pictures by their titles, signs of markup gone', () => {
    expect(plainText('![One loop](diagram:a)')).toBe('One loop');
    expect(plainText('![](diagram:winch)')).toBe('winch');
    expect(plainText('Plot **A**, $K$ = 2')).toBe('Plot A, K = 2');
  });
});

describe('where a number lies on a response', () => {
  const curve = curveOf(respond(transferOf('2*25/(s^2 + 4*s + 25)')), 6, 1e-4);
  const peak = Math.PI / Math.sqrt(21);

  test('percentages and levels are lines across', () => {
    expect(placeOf('overshootPercent', 25, curve)?.from.y).toBeCloseTo(2.5, 2);
    expect(placeOf('undershootPercent', 10, curve)?.from.y).toBeCloseTo(-0.2, 2);
    expect(placeOf('finalValue', 1.5, curve)).toEqual({ from: { t: 0, y: 1.5 }, to: { t: 6, y: 1.5 } });
    expect(placeOf('stepError', 0.2, curveOf(respond(transferOf('0.8/(s + 1)')), 8, 1e-4))?.from.y).toBeCloseTo(0.8, 6);
  });

  test('times are lines up to the curve', () => {
    const at = placeOf('peakTime', peak, curve);
    expect(at?.from).toEqual({ t: peak, y: 0 });
    expect(at?.to.y).toBeCloseTo(2 * (1 + Math.exp(-2 * peak)), 2);
    expect(placeOf('settlingTime', 1, curve)?.from.t).toBe(1);
  });

  test('a rise time is counted from where 10 % are reached', () => {
    const tenth = curve.times[curve.values.findIndex((value) => value >= 0.2)]!;
    expect(placeOf('riseTime', 0.5, curve)?.from.t).toBeCloseTo(tenth + 0.5, 2);
    expect(placeOf('riseTime', 0.5, curve)?.to.y).toBeCloseTo(1.8, 2);
  });

  test('what is not read off a response has no place on it', () => {
    expect(placeOf('phaseMargin', 40, curve)).toBeUndefined();
  });
});

test('marks of a step between levels stand where it moves, and times are told from its beginning', () => {
  const times = Float64Array.from({ length: 101 }, (_, k) => k / 5);
  const curve = { times, values: times.map((t) => (t < 2 ? 4 : 4 - 3 * (1 - Math.exp(-(t - 2))))) };
  const measures = {
    ...{ at: 2, restValue: 4, finalValue: 1, riseTime: Math.log(9), settlingTime: Math.log(50) },
    ...{ peakTime: null, peakValue: null },
  };
  const { marks, band } = measureMarks(measures, curve, 20);
  const mark = (id: string) => marks.find((each) => each.id === id)!;
  expect(mark('ten').to.t).toBeCloseTo(2 + Math.log(10 / 9), 1);
  expect(mark('ten').to.y).toBeCloseTo(3.7, 9);
  expect(mark('rise').from.t).toBeCloseTo(2 + Math.log(10), 1);
  expect(mark('rise').from.y).toBe(4);
  expect(mark('settled')).toMatchObject({ to: { t: 2 + Math.log(50), y: 1 }, words: 'settled 3.91 s' });
  expect(band?.low).toBeCloseTo(0.94, 9);
  expect(band?.high).toBeCloseTo(1.06, 9);
  const peaked = measureMarks({ ...measures, peakTime: 1.5, peakValue: 0.8 }, curve, 20).marks.at(-1);
  expect(peaked).toMatchObject({ to: { t: 3.5, y: 0.8 }, words: 'peak 0.8 after 1.5 s' });
  expect(measureMarks(measures, curve, 5).marks.map(({ id }) => id)).not.toContain('settled');
  expect(measureMarks(null, curve, 20)).toEqual({ marks: [], band: undefined });
});
