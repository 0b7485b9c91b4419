import fc from 'fast-check';
import { curveOf, fractionOf, measuresOf, stepResponse, systemOf } from '../src/index';
import { crossing } from '../src/response/walk';
import { secondOrderRules } from '../src/system/secondOrderRules';
import { loopOf } from './documents';

const measures = (text: string) => measuresOf(systemOf(fractionOf(text)));

describe('measures', () => {
  test('second order in closed form', () => {
    const [zeta, wn] = [0.3, 2.5];
    const found = measures('6.25/(s^2+1.5s+6.25)');
    const wd = wn * Math.sqrt(1 - zeta ** 2);
    expect(found.peakTime).toBeCloseTo(Math.PI / wd, 10);
    expect(found.overshootPercent).toBeCloseTo(100 * Math.exp((-Math.PI * zeta) / Math.sqrt(1 - zeta ** 2)), 9);
    expect(found.riseTimeFull).toBeCloseTo((Math.PI - Math.acos(zeta)) / wd, 10);
  });

  test.each([0.4, 0.5, 0.6])('the rules of course books are near what is measured, ζ = %f', (zeta) => {
    const wn = 3;
    const found = measures(`9/(s^2 + ${2 * zeta * wn}s + 9)`);
    const off = (rule: number | null, real: number | null) => Math.abs(rule! / real! - 1);
    expect(off(secondOrderRules.overshootPercent(zeta), found.overshootPercent)).toBeLessThan(1e-9);
    expect(off(secondOrderRules.peakTime(zeta, wn), found.peakTime)).toBeLessThan(1e-9);
    expect(off(secondOrderRules.riseTime(wn), found.riseTime)).toBeLessThan(0.25);
    expect(off(secondOrderRules.settlingTime(zeta * wn), found.settlingTime)).toBeLessThan(0.35);
  });

  test('first order in closed form', () => {
    const found = measures('3/(4s+1)');
    expect(found.riseTime).toBeCloseTo(4 * Math.log(9), 9);
    expect(found.settlingTime).toBeCloseTo(4 * Math.log(50), 9);
    expect(found).toMatchObject({ finalValue: 3, overshootPercent: 0, peakTime: null, riseTimeFull: null });
  });

  test('a faster time axis scales times and leaves shares alone', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 2, max: 40 }),
        fc.integer({ min: 2, max: 9 }),
        (a, b, k) => {
          const slow = measures(`${b}/(s^3+${a + 1}s^2+(${a}+${b})s+${b})`);
          const fast = measures(`${b}/((s/${k})^3+${a + 1}(s/${k})^2+(${a}+${b})(s/${k})+${b})`);
          expect(fast.stable).toBe(slow.stable);
          if (!slow.stable) return;
          expect(fast.settlingTime! * k).toBeCloseTo(slow.settlingTime!, 7);
          expect(fast.overshootPercent).toBeCloseTo(slow.overshootPercent!, 7);
        },
      ),
      { numRuns: 60 },
    );
  });

  test.each([
    ['unstable', '1/(s-1)'],
    ['exactly marginal', '1/(s^2+1)'],
    ['an integrator', '1/(s(s+1.7))'],
  ])('%s has no measures', (_name, text) => {
    expect(measures(text)).toMatchObject({
      stable: false,
      finalValue: null,
      settlingTime: null,
      overshootPercent: null,
    });
  });

  test('biproper systems start at their direct term', () => {
    expect(measures('(2s+1)/(s+1)')).toMatchObject({ overshootPercent: 100, peakTime: 0, peakValue: 2, riseTime: 0 });
    expect(measures('(0.5s+1)/(s+1)').riseTime).toBeCloseTo(Math.log(5), 9);
  });

  test('a final value of zero has no relative measures', () => {
    expect(measures('s/(s+1)^2')).toMatchObject({
      stable: true,
      finalValue: 0,
      overshootPercent: null,
      riseTime: null,
    });
  });

  test('a constant is there at once', () => {
    expect(measures('4')).toMatchObject({ finalValue: 4, riseTime: 0, settlingTime: 0, overshootPercent: 0 });
  });

  test('a slow tail that creeps in from above is an overshoot', () => {
    const found = measures('(1.05s+0.1)/((s+1)(s+0.1))');
    expect(found.overshootPercent).toBeGreaterThan(1);
    expect(found.settlingTime).toBeGreaterThan(2);
  });

  test('very little damping is followed to the end', () => {
    const found = measures('1/(s^2+0.002s+1)');
    expect(found.settlingTime).toBeGreaterThan(3900);
    expect(found.settlingTime).toBeLessThan(Math.log(50) / 0.001);
  });
});

describe('step responses', () => {
  test('nearly equal poles give what equal ones give', () => {
    const equal = stepResponse(systemOf(fractionOf('1/(s+1)^6')));
    const near = stepResponse(systemOf(fractionOf('1/((s+1)(s+1.00001)(s+0.99999)(s+1.000005)(s+0.999995)(s+1))')));
    for (const time of [0.1, 1, 3, 8, 20]) expect(near.at(time)).toBeCloseTo(equal.at(time), 8);
  });

  test('the derivative is the slope', () => {
    for (const text of ['(s+3)/(s^2+2s+5)', '1/(s+2)^4', '1/((s+1)(s+1.0000001)(s+2))']) {
      const motion = stepResponse(systemOf(fractionOf(text)));
      const slope = motion.derivative();
      for (const time of [0.2, 1.3, 4]) {
        const h = 1e-5;
        expect((motion.at(time + h) - motion.at(time - h)) / (2 * h)).toBeCloseTo(slope.at(time), 6);
      }
    }
  });

  test('both ways of computing agree on random poles', () => {
    const pole = fc.integer({ min: 1, max: 12 });
    fc.assert(
      fc.property(
        fc.uniqueArray(pole, { minLength: 2, maxLength: 5 }),
        fc.integer({ min: 1, max: 9 }),
        (poles, zero) => {
          const text = `(s+${zero}.5)/(${poles.map((p) => `(s+${p})`).join('')})`;
          const system = systemOf(fractionOf(text));
          const shifted = systemOf(
            fractionOf(text.replace(`(s+${poles[0]})`, `(s+${poles[0]})*(s+1000001)/(s+1000002)`)),
          );
          for (const time of [0.3, 1, 2]) {
            expect(stepResponse(shifted).at(time)).toBeCloseTo(stepResponse(system).at(time), 5);
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  test('a drawn curve reaches its end, keeps to the response and does not miss the peak', () => {
    const system = systemOf(fractionOf('100/(s^2+0.4s+100)'));
    const motion = stepResponse(system);
    const { times, values } = curveOf(motion, 20, 0.005);
    expect(times[times.length - 1]).toBe(20);
    expect(Math.max(...values)).toBeGreaterThan(measuresOf(system).peakValue! - 0.01);
    values.forEach((value, k) => expect(value).toBeCloseTo(motion.at(times[k]!), 12));
  });

  test('an unstable curve stops before it overflows', () => {
    const { times, values } = curveOf(stepResponse(systemOf(fractionOf('1/(s-50)'))), 100, 0.01);
    expect(times[times.length - 1]).toBeLessThan(100);
    expect(values.every(Number.isFinite)).toBe(true);
  });

  test('more zeros than poles are refused', () => {
    expect(() => stepResponse(systemOf(fractionOf('s^2/(s+1)')))).toThrow(/impulse/);
  });
});

describe('loops', () => {
  test('integral action leaves no offset, proportional does', () => {
    const finalValue = (...gains: [string, string?, string?]) =>
      loopOf('5/(s^2+4s+2)', ...gains).subject().measures.finalValue;
    expect(finalValue('6')).toBeCloseTo(30 / 32, 14);
    expect(finalValue('6', '4', '1.5')).toBe(1);
  });

  test('an unstable mode that the controller cancels still counts', () => {
    const loop = loopOf('1/((s-1)(s+1))', '-1', '0', '1');
    expect(loop.subject().system?.stable).toBe(true);
    expect(loop.stable).toBe(false);
  });

  test('a loop that tends to −1 at high frequency is refused', () => {
    expect(() => loopOf('(s+2)/(s+1)', '-1')).toThrow(/well posed/);
    expect(() => loopOf('s^2/(s+1)', '1')).toThrow(/more zeros/);
  });

  test('the zero of a crossing is found to the last digits', () => {
    expect(crossing((x) => x ** 3 - 2, 0, 2)).toBeCloseTo(2 ** (1 / 3), 14);
    expect(crossing((x) => Math.exp(-40 * x) - 0.5, 0, 10)).toBeCloseTo(Math.log(2) / 40, 14);
  });
});
