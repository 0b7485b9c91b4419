import fc from 'fast-check';
import { branchesOf, coefficientsOf, fractionOf, parse, specialPoints, systemOf } from '../src/index';

const around = { left: -12, right: 6, bottom: -9, top: 9 };
const fractionFrom = (text: string) => fractionOf(parse(text), new Map());

/** A loop with a few real poles and pairs, perhaps a zero, as it could be typed. */
const loops = fc
  .record({
    poles: fc.array(fc.integer({ min: 0, max: 8 }), { minLength: 1, maxLength: 3 }),
    pairs: fc.array(fc.record({ re: fc.integer({ min: 0, max: 4 }), im: fc.integer({ min: 1, max: 5 }) }), {
      maxLength: 1,
    }),
    zeros: fc.array(fc.integer({ min: 1, max: 9 }), { maxLength: 1 }),
  })
  .filter(({ poles, zeros }) => zeros.every((zero) => !poles.includes(zero)))
  .map(({ poles, pairs, zeros }) => {
    const below = [
      ...poles.map((pole) => `(s + ${pole})`),
      ...pairs.map(({ re, im }) => `(s^2 + ${2 * re}*s + ${re * re + im * im})`),
    ];
    return `(${zeros.map((zero) => `(s + ${zero})`).join('*') || '1'})/(${below.join('*')})`;
  });

const valueAt = (falling: readonly number[], re: number, im: number): { re: number; im: number; size: number } => {
  let [x, y, size] = [0, 0, 0];
  const modulus = Math.hypot(re, im);
  for (const c of falling) {
    [x, y] = [x * re - y * im + c, x * im + y * re];
    size = size * modulus + Math.abs(c);
  }
  return { re: x, im: y, size };
};

test('every drawn point of every branch is a pole of the closed loop at its gain', () => {
  fc.assert(
    fc.property(loops, (text) => {
      const fraction = fractionFrom(text);
      const branches = branchesOf(fraction, specialPoints(fraction), around);
      const { numerator, denominator } = coefficientsOf(fraction);
      for (const { gains, re, im } of branches) {
        for (let k = 0; k < gains.length; k += 3) {
          const n = valueAt(numerator, re[k]!, im[k]!);
          const d = valueAt(denominator, re[k]!, im[k]!);
          const off = Math.hypot(d.re + gains[k]! * n.re, d.im + gains[k]! * n.im);
          expect(off).toBeLessThanOrEqual(1e-6 * (d.size + gains[k]! * n.size));
        }
      }
    }),
    { numRuns: 40 },
  );
});

test('branches rise in gain from the poles on, and never jump while they are seen', () => {
  fc.assert(
    fc.property(loops, (text) => {
      const fraction = fractionFrom(text);
      const branches = branchesOf(fraction, specialPoints(fraction), around);
      const { poles } = systemOf(fraction);
      const isSeen = (re: number, im: number): boolean =>
        re > around.left && re < around.right && im > around.bottom && im < around.top;
      expect(branches).toHaveLength(poles.reduce((sum, { multiplicity }) => sum + multiplicity, 0));
      for (const { gains, re, im } of branches) {
        expect(Math.min(...poles.map((pole) => Math.hypot(pole.re - re[0]!, pole.im - im[0]!)))).toBeLessThan(1e-3);
        for (let k = 1; k < gains.length; k++) {
          expect(gains[k]!).toBeGreaterThanOrEqual(gains[k - 1]!);
          if (!isSeen(re[k]!, im[k]!) || !isSeen(re[k - 1]!, im[k - 1]!)) continue;
          expect(Math.hypot(re[k]! - re[k - 1]!, im[k]! - im[k - 1]!)).toBeLessThan(2);
        }
      }
    }),
    { numRuns: 40 },
  );
});

test('a branch that meets another leaves with it, mirrored', () => {
  const fraction = fractionFrom('1/(s*(s + 2)*(s + 6))');
  const branches = branchesOf(fraction, specialPoints(fraction), around);
  const complex = branches.filter(({ im }) => im.some((value) => Math.abs(value) > 1e-9));
  expect(complex).toHaveLength(2);
  const [upper, lower] = complex;
  for (let k = 0; k < upper!.gains.length; k++) {
    // Where they meet the root is double, known to half the digits.
    const digits = Math.abs(upper!.im[k]!) > 0.01 ? 9 : 5;
    if (upper!.im[k] !== 0) expect(upper!.re[k]).toBeCloseTo(lower!.re[k]!, digits);
    if (upper!.im[k] !== 0) expect(upper!.im[k]).toBeCloseTo(-lower!.im[k]!, digits);
  }
});
