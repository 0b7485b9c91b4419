import fc from 'fast-check';
import { answer } from '../src/batch/answer';
import { isLoopStable } from '../src/frequency/stability';
import {
  branchesOf,
  fractionOf,
  nearestOnBranches,
  nearestOnLocus,
  onDampingRay,
  roots,
  routhArray,
  specialPoints,
  stableGains,
} from '../src/index';
import { transferOf } from '../src/index';
import { parameterBranches } from '../src/locus/branches';
import { atParameter, parametric, stableParameters } from '../src/locus/parameter';
import { gainAt, valueAt } from '../src/locus/specialPoints';
import { stableGainsWithDeadTime } from '../src/locus/stableRanges';
import type { Fraction } from '../src/rational/fraction';
import { rational, rationalFromNumber } from '../src/rational/number';
import { add, constant, isHurwitz, multiply } from '../src/rational/polynomial';
import { symbolicOf } from './symbolicOf';

const tenth = (low: number, high: number) => fc.integer({ min: low * 10, max: high * 10 }).map((k) => k / 10);
/** Loops of order 2 to 6 with real and complex poles and zeros on both sides. */
const loop = fc
  .tuple(
    fc.array(tenth(-6, 2), { minLength: 2, maxLength: 3 }),
    fc.array(fc.tuple(tenth(-4, 1), tenth(0.1, 5)), { maxLength: 2 }),
    fc.array(tenth(-7, 3), { maxLength: 2 }),
    fc.constantFrom(1, 1, 2.5, -1),
  )
  .map(([poles, pairs, zeros, gain]) => {
    const real = (roots: number[]) => roots.map((a) => `(s-(${a}))`).join('*') || '1';
    const complex = pairs.map(([a, b]) => `*((s-(${a}))^2+${b}^2)`).join('');
    return `(${gain})*${real(zeros.slice(0, poles.length))}/(${real(poles)}${complex})`;
  });

const characteristic = ({ numerator, denominator }: Fraction, gain: number) =>
  add(denominator, multiply(constant(rationalFromNumber(gain)), numerator));

const distance = (of: readonly { re: number; im: number }[], re: number, im: number) =>
  Math.min(...of.map((root) => Math.hypot(root.re - re, root.im - im)));

describe('special points', () => {
  test('break points are double roots, crossings are roots on the axis', () => {
    fc.assert(
      fc.property(loop, (text) => {
        const fraction = fractionOf(text);
        const { breakPoints, axisCrossings } = specialPoints(fraction);
        for (const { re, im, gain } of breakPoints) {
          const nearby = roots(characteristic(fraction, gain))
            .flatMap((root) => Array.from({ length: root.multiplicity }, () => Math.hypot(root.re - re, root.im - im)))
            .sort((a, b) => a - b);
          expect(nearby[1]).toBeLessThan(1e-3 * (1 + Math.hypot(re, im)));
        }
        for (const { omega, gain } of axisCrossings) {
          expect(distance(roots(characteristic(fraction, gain)), 0, omega)).toBeLessThan(1e-6 * (1 + omega));
        }
      }),
      { numRuns: 150 },
    );
  });

  test('far out, branches follow the asymptotes; near poles, the departure angles', () => {
    for (const text of ['1/(s^3+7s^2+10s)', '-(s+2)/((s+1)(s^2+4s+8)(s+5))', '(s-1)/((s+2)^2(s^2+1))']) {
      const fraction = fractionOf(text);
      const { asymptotes, departures } = specialPoints(fraction);
      const far = roots(characteristic(fraction, 1e9)).filter(({ re, im }) => Math.hypot(re, im) > 50);
      expect(far).toHaveLength(asymptotes!.anglesDegrees.length);
      for (const angle of asymptotes!.anglesDegrees) {
        const near = far.map(({ re, im }) =>
          Math.abs(Math.sin((Math.atan2(im, re - asymptotes!.centroid) - (angle * Math.PI) / 180) / 2)),
        );
        expect(Math.min(...near)).toBeLessThan(0.01);
      }
      for (const { re, im, degrees } of departures) {
        const near = roots(characteristic(fraction, 1e-6)).map((root) => ({ x: root.re - re, y: root.im - im }));
        const { x, y } = near.sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y))[0]!;
        expect(Math.cos(Math.atan2(y, x) - (degrees * Math.PI) / 180)).toBeCloseTo(1, 6);
      }
    }
  });

  test('real segments are where the gain is positive', () => {
    fc.assert(
      fc.property(loop, tenth(-9, 5), (text, place) => {
        const fraction = fractionOf(text);
        const x = place + 0.037;
        const inside = specialPoints(fraction).realAxis.some(({ from, to }) => x > from && x < to);
        expect(inside).toBe(gainAt(fraction, { re: x, im: 0 }).re > 0);
      }),
      { numRuns: 200 },
    );
  });

  test('a negative numerator gives the locus of zero degrees', () => {
    const { asymptotes, realAxis, axisCrossings } = specialPoints(fractionOf('-1/(s^2+3s+2)'));
    expect(asymptotes).toEqual({ centroid: -1.5, anglesDegrees: [0, 180] });
    expect(realAxis).toEqual([
      { from: -Infinity, to: -2 },
      { from: -1, to: Infinity },
    ]);
    expect(axisCrossings).toEqual([{ omega: 0, gain: 2 }]);
  });

  test('poles that cancel take part in nothing', () => {
    const hidden = specialPoints(fractionOf('(s+3)/((s+3)(s^3+7s^2+10s))'));
    expect(hidden).toEqual(specialPoints(fractionOf('1/(s^3+7s^2+10s)')));
  });
});

describe('branches', () => {
  const window = { left: -8, right: 4, bottom: -6, top: 6 };

  test('start at the poles, lie on the locus, and are smooth in the window', () => {
    fc.assert(
      fc.property(loop, (text) => {
        const fraction = fractionOf(text);
        const branches = branchesOf(fraction, specialPoints(fraction), window);
        for (const { gains, re, im } of branches) {
          expect(distance(roots(fraction.denominator), re[0]!, im[0]!)).toBeLessThan(1e-4);
          for (let k = 1; k < gains.length; k++) {
            expect(gains[k]).toBeGreaterThan(gains[k - 1]!);
            const seen =
              Math.abs(re[k]!) < 4 && Math.abs(im[k]!) < 6 && Math.abs(re[k - 1]!) < 4 && Math.abs(im[k - 1]!) < 6;
            if (seen) expect(Math.hypot(re[k]! - re[k - 1]!, im[k]! - im[k - 1]!)).toBeLessThan(1.3);
            if (k % 17 === 0) {
              const value = valueAt(characteristic(fraction, gains[k]!), { re: re[k]!, im: im[k]! });
              const slope = Math.hypot(re[k]!, im[k]!) + 1;
              const size = characteristic(fraction, gains[k]!).integers.length;
              expect(Math.hypot(value.re, value.im)).toBeLessThan(1e-5 * slope ** size * (1 + gains[k]!));
            }
          }
        }
      }),
      { numRuns: 40 },
    );
  });

  test('run through a break point in its own gain', () => {
    const fraction = fractionOf('1/(s^2+2s)');
    const [a, b] = branchesOf(fraction, specialPoints(fraction), window);
    const k = a!.gains.findIndex((gain) => Math.abs(gain - 1) < 1e-9);
    expect(k).toBeGreaterThan(0);
    for (const branch of [a!, b!]) {
      expect(branch.re[k]).toBeCloseTo(-1, 5);
      expect(branch.im[k]).toBeCloseTo(0, 5);
      expect(branch.re.slice(k + 1).every((re) => Math.abs(re + 1) < 1e-6)).toBe(true);
    }
    expect(Math.sign(a!.im[a!.im.length - 1]!)).toBe(-Math.sign(b!.im[b!.im.length - 1]!));
  });

  test('a click near a branch tells the gain there', () => {
    const fraction = fractionOf('1/(s^2+2s)');
    const found = nearestOnBranches(branchesOf(fraction, specialPoints(fraction), window), { re: -0.8, im: 1.5 })!;
    expect(found.re).toBeCloseTo(-1, 4);
    expect(found.gain).toBeCloseTo(1 + 1.5 ** 2, 1);
    const exact = nearestOnLocus(fraction, branchesOf(fraction, specialPoints(fraction), window), {
      re: -0.8,
      im: 1.5,
    })!;
    expect(exact.re).toBeCloseTo(-1, 9);
    expect(exact.gain).toBeCloseTo(1 + exact.im ** 2, 9);
    expect(nearestOnLocus(fraction, [], { re: 0, im: 0 })).toBeNull();
  });

  test('follow a parameter that does not enter linearly', () => {
    const given = parametric(symbolicOf('1/(s^3+3s^2+(2+a^2)*s+a)').denominator, 'a');
    const branches = parameterBranches(given, -2, 3, window);
    for (const { gains, re, im } of branches) {
      expect([gains[0], gains[gains.length - 1]]).toEqual([-2, 3]);
      for (let k = 0; k < gains.length; k += 5) {
        expect(distance(roots(atParameter(given, rationalFromNumber(gains[k]!))), re[k]!, im[k]!)).toBeLessThan(1e-4);
        if (k > 0) expect(Math.hypot(re[k]! - re[k - 1]!, im[k]! - im[k - 1]!)).toBeLessThan(1.1);
      }
    }
    const losing = parametric(symbolicOf('1/(a*s^2+s+1)').denominator, 'a');
    expect(() => parameterBranches(losing, -1, 1, window)).toThrow('number of poles changes');
    expect(parameterBranches(losing, 0.1, 1, window)).toHaveLength(2);
  });

  test('a damping ray meets the locus where the roots have that damping', () => {
    for (const ratio of [-0.2, 0, 0.3, 0.7]) {
      for (const { re, im, gain } of onDampingRay(fractionOf('(s+1)/(s^2*(s+8))'), ratio)) {
        expect(-re / Math.hypot(re, im)).toBeCloseTo(ratio, 9);
        expect(distance(roots(characteristic(fractionOf('(s+1)/(s^2*(s+8))'), gain)), re, im)).toBeLessThan(1e-7);
      }
    }
    expect(onDampingRay(fractionOf('1/(s^3+7s^2+10s)'), 0.5)).toHaveLength(1);
  });
});

describe('stable ranges', () => {
  test('every gain inside is stable, every gain outside is not', () => {
    fc.assert(
      fc.property(loop, fc.array(tenth(0.1, 300), { minLength: 10, maxLength: 10 }), (text, gains) => {
        const fraction = fractionOf(text);
        const ranges = stableGains(fraction);
        for (const gain of gains) {
          if (ranges.flat().some((end) => Math.abs(end - gain) < 1e-6)) continue;
          expect(ranges.some(([from, to]) => gain > from && gain < to)).toBe(isHurwitz(characteristic(fraction, gain)));
        }
      }),
      { numRuns: 150 },
    );
  });

  test('hidden modes and lost degrees count', () => {
    expect(stableGains(fractionOf('(s-1)/((s-1)(s+2))'))).toEqual([]);
    expect(stableGains(fractionOf('(s+3)/((s+3)(s+2))'))).toEqual([[0, Infinity]]);
    expect(stableGains(fractionOf('(1-s)/(s+2)'))).toEqual([[0, 1]]);
  });

  test('with dead time agree with the count on both sides', () => {
    const found = stableGainsWithDeadTime(fractionOf('1/(s-1)'), rational(1n, 4n));
    expect(found).toHaveLength(1);
    const [[from, to]] = found as [[number, number]];
    expect(from).toBeCloseTo(1, 9);
    // A small gain of L itself changes nothing but the scale.
    const [[, end]] = stableGainsWithDeadTime(fractionOf('0.0001/(s+1)'), rational(1n)) as [[number, number]];
    expect(isLoopStable(transferOf(`${end * 0.9999e-4}*exp(-s)/(s+1)`))).toBe(true);
    expect(isLoopStable(transferOf(`${end * 1.0001e-4}*exp(-s)/(s+1)`))).toBe(false);
    for (const [gain, stable] of [
      [from * 0.999, false],
      [from * 1.001, true],
      [to * 0.999, true],
      [to * 1.001, false],
    ] as const) {
      expect(isLoopStable(transferOf(`${gain}*exp(-0.25s)/(s-1)`))).toBe(stable);
    }
  });

  test('any parameter, linear or not, on both sides of zero', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(
          's^3+3s^2+a*s+a^2',
          's^4+2s^3+a*s^2+3s+1',
          's^2+(a-1)*s+(4-a)',
          'a*s^2+s+2-a^2',
          's^3+(a^2+1)*s^2+2s+a+3',
        ),
        fc.array(fc.integer({ min: -60, max: 60 }), { minLength: 12, maxLength: 12 }),
        (text, values) => {
          const given = parametric(symbolicOf(`1/(${text})`).denominator, 'a');
          const ranges = stableParameters(given);
          for (const value of values) {
            const at = value / 7 + 0.0123;
            const p = atParameter(given, rationalFromNumber(at));
            const stable = p.integers.length === given.coefficients.length && isHurwitz(p);
            expect(ranges.some(([from, to]) => at > from && at < to)).toBe(stable);
          }
        },
      ),
    );
    expect(answer({ ask: 'stableParameter', system: '1/(s+1)', parameter: 'a' }).error?.code).toBe('signal');
    expect(answer({ ask: 'stableParameter', system: '1/(s+a*b)', parameter: 'a' }).error?.message).toContain(
      'b need values',
    );
  });
});

describe('the Routh array', () => {
  test('counts the roots in the right half-plane', () => {
    fc.assert(
      fc.property(loop, (text) => {
        const { denominator } = fractionOf(text);
        const found = roots(denominator);
        if (found.some(({ re }) => re === 0)) return;
        const right = found.reduce((sum, { re, multiplicity }) => sum + (re > 0 ? multiplicity : 0), 0);
        expect(routhArray(denominator).signChanges).toBe(right);
      }),
      { numRuns: 200 },
    );
  });

  test.each([
    ['a zero in front', 's^4+2s^3+2s^2+4s+5', 2, ['epsilon']],
    ['a row of zeros', 's^5+2s^4+24s^3+48s^2-25s-50', 1, ['auxiliary']],
    ['roots on the axis', '(s^2+4)*(s+1)', 0, ['auxiliary']],
    ['a double pair on the axis', '(s^2+4)^2*(s+1)', 0, ['auxiliary', 'auxiliary']],
    ['an odd polynomial', 's^3+s', 0, ['auxiliary']],
  ])('%s', (_name, text, signChanges, specials) => {
    const array = routhArray(fractionOf(text).numerator);
    expect(array.signChanges).toBe(signChanges);
    expect(array.rows.flatMap(({ special }) => special ?? [])).toEqual(specials);
    expect(array.rows).toHaveLength(fractionOf(text).numerator.integers.length);
  });
});
