import { curveMeasures } from '../src/checks';
import type { ChoicePart, ExerciseDocument, InputSignal } from '../src/index';
import { exercise } from './documents';

/** Measures of curves, those that come afterwards last. */
function measured(curves: NonNullable<ChoicePart['figure']>['curves'], input?: InputSignal) {
  const part: ChoicePart = {
    ...{ id: 'guess', kind: 'choice', title: 'Guess', prompt: '', points: 1, several: false },
    options: [{ id: 'a', text: 'up', right: true }],
    figure: { horizon: 8, curves, ...(input ? { input } : {}) },
  };
  const document: ExerciseDocument = {
    ...{ ...exercise, parameters: [], systems: [], parts: [part] },
    series: [{ id: 'log', name: 'Log', times: [0, 1], values: [0, 1] }],
  };
  return curveMeasures(document, part, {});
}
const curve = (system: string, afterwards = false) => ({ label: system, system, afterwards });

describe('measures of the curves beside a question', () => {
  test('are those of the closed forms, between the levels and from the step on', () => {
    const [first, second] = measured([curve('2/(s+1)'), curve('-4/(s^2+0.8*s+4)')], {
      ...{ kind: 'levels', from: 1, to: 3, at: 2 },
    });
    expect(first).toMatchObject({ at: 2, restValue: 2, finalValue: 6, peakTime: null, peakValue: null });
    expect(first!.riseTime).toBeCloseTo(Math.log(9), 6);
    expect(first!.settlingTime).toBeCloseTo(Math.log(50), 6);
    const damped = 2 * Math.sqrt(1 - 0.2 ** 2);
    expect(second!.peakTime).toBeCloseTo(Math.PI / damped, 6);
    // It rests at −1, goes to −3, and overshoots downwards.
    expect(second).toMatchObject({ restValue: -1, finalValue: -3 });
    expect(second!.peakValue).toBeCloseTo(-3 - 2 * Math.exp((-0.4 * Math.PI) / damped), 6);
  });

  test('come in the order in which the curves are shown, with none where nothing is measured', () => {
    const found = measured([
      curve('1/(s+1)', true),
      curve('1/(s-1)'),
      { label: 'log', series: 'log', afterwards: false },
      curve('s/(s+1)'),
      curve('1/(3*s+1)*exp(-2*s)', true),
    ]);
    expect(found.slice(0, 3)).toEqual([null, null, null]);
    expect(found.slice(3).map((each) => each!.riseTime)).toEqual([
      expect.closeTo(Math.log(9), 6),
      expect.closeTo(3 * Math.log(9), 6),
    ]);
    expect(found[4]!.settlingTime).toBeCloseTo(2 + 3 * Math.log(50), 5);
  });

  test('are of a step alone', () => {
    expect(measured([curve('1/(s+1)')], { kind: 'ramp', amplitude: 1, at: 0 })).toEqual([null]);
    expect(measured([curve('1/(s+1)')], { kind: 'levels', from: 2, to: 2, at: 0 })).toEqual([null]);
  });

  test.each([1e-9, 1e-3, 1e3, 1e9])('are the same at %p times the speed, whatever the gain', (speed) => {
    const loop = (w: number, gain: number, at: number) => {
      const [found] = measured([curve(`${gain * 25}*${w}^2/(s^2+2*${w}*s+25*${w}^2)`)], {
        ...{ kind: 'levels', from: 1, to: 3, at },
      });
      return found!;
    };
    const plain = loop(1, 1, 0);
    for (const gain of [1e-9, 1, 1e9]) {
      const found = loop(speed, gain, 2 / speed);
      for (const time of ['riseTime', 'settlingTime', 'peakTime'] as const) {
        expect((found[time]! * speed) / plain[time]!).toBeCloseTo(1, 9);
      }
      for (const value of ['restValue', 'finalValue', 'peakValue'] as const) {
        expect(found[value]! / gain / plain[value]!).toBeCloseTo(1, 9);
      }
    }
  });
});
