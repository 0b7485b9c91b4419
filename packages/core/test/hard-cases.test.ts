import {
  fractionOf,
  marginsOf,
  measuresOf,
  measuresOfTransfer,
  respond,
  stableGains,
  systemOf,
  transferOf,
} from '../src/index';
import { loopOf } from './documents';
import { stepResponseExactly } from './exactly';

const product = (factors: string[]) => factors.join('*');
const cases: [string, string, number[]][] = [
  ['five equal poles', '1/(s+1)^5', [0.1, 1, 5, 12, 30]],
  ['twelve equal poles', '1/(s+1)^12', [0.5, 4, 12, 20, 40]],
  ['twenty equal poles', '1/(s+1)^20', [2, 10, 20, 30, 60]],
  ['an equal pair, three times', '8000/((s^2+2s+20)^3)', [0.1, 0.5, 1.5, 4]],
  ['poles a thousandth apart', '1.003003001/((s+1)(s+1.001)(s+1.002))', [0.1, 1, 3, 10]],
  ['poles 1e-7 apart', '1/((s+1)(s+1.0000001)(s+1.0000002)(s+2))', [0.1, 1, 3, 10]],
  ['pairs 1e-6 apart', '16/((s^2+s+4)(s^2+1.000001s+4.000001))', [0.3, 1, 4, 12]],
  ['a cluster with zeros in it', '2(s+1.01)(s+0.99)/((s+1)^3*(s+2))', [0.1, 1, 3, 10]],
  ['stiff, 1 against 1e5', '1e5/((s+1)(s+1e5))', [1e-6, 1e-5, 1e-4, 3e-3]],
  ['stiff with a direct term', '(s+3e4)(s+1)/((s+1e5)(s+0.3))', [1e-6, 1e-4, 3e-3]],
  ['nearly cancelling', '(s+1.0000001)(s+0.3)/((s+1)(s+0.3000001)(s+2))', [0.2, 1, 4, 12]],
  ['on the axis', '4/((s^2+4)(s+1))', [0.5, 3, 10, 30]],
  ['a double pair on the axis', '16/((s^2+4)^2)', [0.5, 3, 10, 30]],
  ['integrators', '(s+1)/(s^3*(s+2))', [0.5, 3, 10]],
  ['biproper', '(3s^2+1)/(s^2+0.2s+4)', [0.001, 1, 7, 30]],
  ['non-minimum phase', '(s-1)(s-3)/((s+1)(s+2)(s+3))', [0.1, 0.7, 3, 9]],
  ['an unstable plant', '5/((s-2)(s+3)(s^2+s+9))', [0.1, 1, 5]],
  ['negative gain', '-7/(s^2+0.2s+9)', [0.1, 1, 5, 20]],
  ['order ten, spread', product(['3628800/((s+1)(s+2)(s+3)(s+4)(s+5)(s+6)(s+7)(s+8)(s+9)(s+10))']), [0.2, 1, 3, 9]],
  [
    'order twenty, spread',
    `1e9/(${Array.from({ length: 20 }, (_, k) => `(s+${(1 + k / 7).toFixed(3)})`).join('*')})`,
    [1, 4, 12, 25],
  ],
];

test.each(cases)('the step response with %s is good to 1e-9 of its largest value', (_name, text, times) => {
  const motion = respond(transferOf(text));
  const wanted = times.map((time) => stepResponseExactly(text, time));
  const largest = Math.max(...wanted.map(Math.abs));
  times.forEach((time, k) => {
    // The series takes the time to 40 binary places.
    const exact = Math.round(time * 2 ** 40) / 2 ** 40;
    expect(Math.abs(motion.at(exact) - wanted[k]!)).toBeLessThanOrEqual(1e-9 * largest);
  });
});

test.each(cases.filter(([, text]) => systemOf(fractionOf(text)).stable))(
  'measures with %s agree with the exact response',
  (_name, text) => {
    const found = measuresOf(systemOf(fractionOf(text)));
    const yf = found.finalValue!;
    const z = (time: number) => stepResponseExactly(text, Math.round(time * 2 ** 40) / 2 ** 40) / yf;
    const fastest = Math.max(...systemOf(fractionOf(text)).poles.map(({ naturalFrequency }) => naturalFrequency));
    const reachable = (time: number | null): time is number => time !== null && time * fastest < 350;
    if (reachable(found.delayTime) && found.delayTime > 0) expect(z(found.delayTime)).toBeCloseTo(0.5, 6);
    if (reachable(found.time63) && found.time63 > 0) expect(z(found.time63)).toBeCloseTo(1 - Math.exp(-1), 6);
    if (reachable(found.settlingTime)) expect(Math.abs(z(found.settlingTime) - 1)).toBeCloseTo(0.02, 6);
    if (reachable(found.peakTime) && found.peakTime > 0) {
      const peak = z(found.peakTime);
      expect(100 * (peak - 1)).toBeCloseTo(found.overshootPercent!, 6);
      for (const share of [0.99, 1.01]) expect(z(share * found.peakTime)).toBeLessThanOrEqual(peak + 1e-9);
    }
  },
);

describe('loops at the edge', () => {
  test('conditionally stable: stable between two gains, unstable below and above', () => {
    const plant = '(s+1)^2/(s^3*(s+40)^2)';
    const [[from, to]] = stableGains(fractionOf(plant)) as [[number, number]];
    const stable = [0.99 * from, 1.01 * from, 0.99 * to, 1.01 * to].map((gain) => loopOf(plant, String(gain)).stable);
    expect(stable).toEqual([false, true, true, false]);
    expect(marginsOf(transferOf('1e4*(s+1)^2/(s^3*(s+40)^2)')).gainMargins.map(({ gain }) => gain > 1)).toEqual([
      false,
      true,
    ]);
  });

  test('marginal loops have modes exactly on the axis and no measures', () => {
    const loop = loopOf('1/(s^3+7s^2+10s)', '70');
    expect(loop.stable).toBe(false);
    expect(loop.modes.filter(({ re }) => re === 0).map(({ im }) => Math.abs(im))).toEqual([
      Math.sqrt(10),
      Math.sqrt(10),
    ]);
    expect(loop.subject().measures.settlingTime).toBeNull();
  });

  test('dead time longer than the time constant', () => {
    const found = measuresOfTransfer(transferOf('0.8*exp(-5s)/(s+1)/(1+0.8*exp(-5s)/(s+1))'));
    expect(found).toMatchObject({ stable: true, peakTime: expect.any(Number) as number });
    // What left at t = 5 is heard of at t = 10; until then the response climbs its first plateau.
    expect(found.peakTime).toBeGreaterThan(10);
    expect(found.peakTime).toBeLessThan(10.1);
    const y = respond(transferOf('0.8*exp(-5s)/(s+1)/(1+0.8*exp(-5s)/(s+1))'));
    for (const time of [9, 9.999, 10.02, 11]) expect(y.at(time)).toBeLessThan(found.peakValue!);
  });
});
