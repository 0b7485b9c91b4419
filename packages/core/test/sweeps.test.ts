import type { GainsPart } from '../src/kinds/gains/part';
import { LoopModel } from '../src/loop/model';
import { sweepParameter, sweepSetting } from '../src/loop/sweep';

const window = { left: -20, right: 20, bottom: -12, top: 12 };
const noNames = { names: new Map() };
const rung = { start: 1, fine: 1, coarse: 1 };

function modelOf(plant: string, names: readonly ('Kp' | 'Ki' | 'Kd')[]): LoopModel {
  const terms = names.length === 3 ? 'PID' : names.includes('Ki') ? 'PI' : 'PD';
  const controller: GainsPart['controller'] = {
    ...{ terms, form: 'parallel' },
    gains: names.map((name) => ({ name, ...rung })),
  };
  return new LoopModel({ plant, controller, horizon: 5 }, noNames);
}

describe('closed-loop poles over a setting', () => {
  test('are those of the loop at each value, from the first to the last', () => {
    const model = modelOf('1/(s^2 + s + 1)', ['Kp', 'Kd']);
    const branches = sweepSetting(model, { Kp: '8', Kd: '0' }, 'Kd', [0, 10], window);
    expect(branches).toHaveLength(2);
    for (const { gains, re, im } of branches) {
      expect([gains[0], gains.at(-1)]).toEqual([0, 10]);
      gains.forEach((Kd, k) => {
        // s² + (1 + Kd) s + 9
        const { real, imaginary } = square(re[k]!, im[k]!);
        expect(real + (1 + Kd) * re[k]! + 9).toBeCloseTo(0, 5);
        expect(imaginary + (1 + Kd) * im[k]!).toBeCloseTo(0, 5);
      });
    }
  });

  test('begin beside a value at which the loop has a pole less', () => {
    const model = modelOf('1/(s + 2)', ['Kp', 'Ki']);
    const branches = sweepSetting(model, { Kp: '1', Ki: '0' }, 'Ki', [0, 4], window);
    expect(branches).toHaveLength(2);
    expect(Math.max(...branches.map(({ re }) => re[0]!))).toBeCloseTo(0, 4);
    expect(branches[0]!.gains.at(-1)).toBe(4);
  });

  test('are not drawn with dead time', () => {
    const model = modelOf('exp(-s)/(s + 2)', ['Kp', 'Ki']);
    expect(() => sweepSetting(model, { Kp: '1', Ki: '1' }, 'Ki', [0, 4], window)).toThrow('dead time');
  });
});

describe('closed-loop poles over a parameter', () => {
  const loopsOf = (values: readonly number[], plantAt: (value: number) => string) =>
    values.map((value) => ({
      value,
      loop: modelOf(plantAt(value), ['Kp', 'Kd']).loopWith({ Kp: '3', Kd: '1' }),
    }));

  test('follow the loops at the values given and in between', () => {
    const values = Array.from({ length: 17 }, (_, k) => 2 ** ((k - 8) / 4));
    const branches = sweepParameter(
      loopsOf(values, (a) => `1/(s^2 + ${a}*s + ${a}^2)`),
      window,
    );
    for (const { gains, re, im } of branches) {
      expect(gains[0]).toBeCloseTo(0.25, 9);
      gains.forEach((a, k) => {
        // s² + (a + 1) s + a² + 3
        const { real, imaginary } = square(re[k]!, im[k]!);
        expect(Math.abs(real + (a + 1) * re[k]! + a * a + 3)).toBeLessThan(2e-3 * (1 + a * a));
        expect(Math.abs(imaginary + (a + 1) * im[k]!)).toBeLessThan(2e-3 * (1 + a * a));
      });
    }
  });

  test('need loops with as many poles each', () => {
    expect(() =>
      sweepParameter(
        loopsOf([1, 2, 4], (a) => `1/(s^2 + ${a})`),
        window,
      ),
    ).toThrow('number of poles changes');
  });
});

const square = (re: number, im: number) => ({ real: re * re - im * im, imaginary: 2 * re * im });
