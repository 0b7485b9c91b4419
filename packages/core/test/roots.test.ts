import fc from 'fast-check';
import { fractionOf, systemOf } from '../src/index';
import { polynomial } from '../src/rational/polynomial';
import { roots } from '../src/system/roots';

const rootsOf = (text: string) => roots(fractionOf(text).numerator);

/** Largest distance from a wanted root to the nearest one found, relative to its size. */
function farthestOff(found: readonly { re: number; im: number }[], wanted: readonly [number, number][]): number {
  return Math.max(
    ...wanted.map(([re, im]) => {
      const nearest = Math.min(...found.map((root) => Math.hypot(root.re - re, root.im - im)));
      return nearest / (Math.hypot(re, im) || 1);
    }),
  );
}

describe('closed forms', () => {
  test.each<[string, [number, number][]]>([
    ['2s + 3', [[-1.5, 0]]],
    ['s', [[0, 0]]],
    [
      's^2 + 2s + 5',
      [
        [-1, 2],
        [-1, -2],
      ],
    ],
    [
      's^2 - 1',
      [
        [-1, 0],
        [1, 0],
      ],
    ],
    [
      's^2 + 1e8 s + 1',
      [
        [-1e8, 0],
        [-1e-8, 0],
      ],
    ],
    [
      's^2 + 1',
      [
        [0, 1],
        [0, -1],
      ],
    ],
    [
      's^2 + 0.0002s + 1',
      [
        [-0.0001, Math.sqrt(1 - 1e-8)],
        [-0.0001, -Math.sqrt(1 - 1e-8)],
      ],
    ],
  ])('%s', (text, wanted) => {
    const found = rootsOf(text);
    expect(found).toHaveLength(wanted.length);
    expect(farthestOff(found, wanted)).toBeLessThan(1e-15);
  });

  test('a constant has none', () => {
    expect(rootsOf('7')).toEqual([]);
  });
});

describe('many roots', () => {
  test('roots of unity lie on their circle', () => {
    const found = rootsOf('s^12 - 1');
    const wanted = Array.from({ length: 12 }, (_, k): [number, number] => [
      Math.cos((k * Math.PI) / 6),
      Math.sin((k * Math.PI) / 6),
    ]);
    expect(farthestOff(found, wanted)).toBeLessThan(1e-14);
  });

  test('ten powers of ten apart', () => {
    const found = rootsOf('(s+0.00001)(s+0.01)(s+1)(s+1000)(s+100000)');
    expect(
      farthestOff(found, [
        [-1e-5, 0],
        [-0.01, 0],
        [-1, 0],
        [-1000, 0],
        [-1e5, 0],
      ]),
    ).toBeLessThan(1e-13);
  });

  test('pairs a millionth apart are told apart', () => {
    const found = rootsOf('(s^2+2s+5)(s^2+2s+5.000001)(s+3)');
    expect(found).toHaveLength(5);
    const upper = found
      .filter(({ im }) => im > 0)
      .map(({ im }) => im)
      .sort();
    expect(upper[0]).toBeCloseTo(2, 12);
    expect(upper[1]! - upper[0]!).toBeCloseTo(0.00000025, 12);
  });

  test('real roots are exactly real', () => {
    for (const { im } of rootsOf('(s+1)(s+1.1)(s+1.2)(s+1.3)(s+1.4)(s+1.5)')) expect(im).toBe(0);
  });

  test('a root at the origin is exact, with its multiplicity', () => {
    const found = rootsOf('s^3*(s^3+s+1)');
    expect(found.find(({ re, im }) => re === 0 && im === 0)).toMatchObject({ multiplicity: 3 });
    expect(found.reduce((sum, { multiplicity }) => sum + multiplicity, 0)).toBe(6);
  });

  test('random integer roots come back, however often each occurs', () => {
    const root = fc.integer({ min: -12, max: 12 });
    fc.assert(
      fc.property(fc.array(root, { minLength: 1, maxLength: 9 }), (wanted) => {
        const text = wanted.map((r) => `(s-(${r}))`).join('*');
        const found = rootsOf(text);
        for (const value of new Set(wanted)) {
          const match = found.find(({ re }) => Math.abs(re - value) < 1e-9 * Math.max(1, Math.abs(value)));
          expect(match?.multiplicity).toBe(wanted.filter((r) => r === value).length);
        }
      }),
      { numRuns: 150 },
    );
  });

  test('very long coefficients do not overflow', () => {
    const found = roots(polynomial([10n ** 320n, 3n * 10n ** 160n, 1n]));
    expect(found).toHaveLength(2);
    expect(found[0]!.re).toBeCloseTo(-2.618033988749895e160, -150);
  });

  test('scaling the variable scales the roots', () => {
    const base = rootsOf('s^4+3s^3+7s^2+5s+2');
    const scaled = rootsOf('(s/100)^4+3(s/100)^3+7(s/100)^2+5(s/100)+2');
    expect(
      farthestOff(
        scaled,
        base.map(({ re, im }): [number, number] => [100 * re, 100 * im]),
      ),
    ).toBeLessThan(1e-12);
  });
});

describe('what is read off a pole', () => {
  test('damping ratio, natural frequency and time constant', () => {
    const { poles } = systemOf(fractionOf('1/((s+4)(s^2+1.2s+4))'));
    expect(poles[0]).toMatchObject({ re: -4, dampingRatio: 1, naturalFrequency: 4, timeConstant: 0.25 });
    const pair = poles.find(({ im }) => im > 0)!;
    expect(pair.naturalFrequency).toBeCloseTo(2, 14);
    expect(pair.dampingRatio).toBeCloseTo(0.3, 14);
    expect(pair.timeConstant).toBeCloseTo(1 / 0.6, 14);
  });

  test('a pole at the origin has no damping ratio, one that grows no time constant', () => {
    const { poles, stable, dcGain } = systemOf(fractionOf('1/(s(s-2))'));
    expect(poles.find(({ re }) => re === 0)).toMatchObject({ dampingRatio: null, timeConstant: null });
    expect(poles.find(({ re }) => re === 2)).toMatchObject({ dampingRatio: -1, timeConstant: null });
    expect([stable, dcGain]).toEqual([false, null]);
  });
});
