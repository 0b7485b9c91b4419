import fc from 'fast-check';
import { factoredToLatex, fractionOf, fractionToLatex, hiddenModes, lowestTerms, systemOf } from '../src/index';
import { ratioToNumber } from '../src/rational/integer';
import {
  add,
  commonFactor,
  degree,
  divide,
  isEqual,
  isHurwitz,
  multiply,
  polynomial,
  squareFreeFactors,
} from '../src/rational/polynomial';

const small = fc.bigInt({ min: -9n, max: 9n });
const anyPolynomial = fc
  .tuple(fc.array(small, { minLength: 1, maxLength: 6 }), fc.bigInt({ min: 1n, max: 6n }))
  .map(([integers, denominator]) => polynomial(integers, denominator));
const nonZero = anyPolynomial.filter((p) => degree(p) >= 0);

describe('polynomial arithmetic is exact', () => {
  test('dividing gives back what was multiplied', () => {
    fc.assert(
      fc.property(anyPolynomial, nonZero, (p, q) => {
        const { quotient, remainder } = divide(p, q);
        expect(isEqual(add(multiply(quotient, q), remainder), p)).toBe(true);
        expect(degree(remainder)).toBeLessThan(Math.max(degree(q), 1));
      }),
    );
  });

  test('the common factor divides both and holds every shared factor', () => {
    fc.assert(
      fc.property(nonZero, nonZero, nonZero, (p, q, shared) => {
        const factor = commonFactor(multiply(p, shared), multiply(q, shared));
        expect(degree(divide(multiply(p, shared), factor).remainder)).toBe(-1);
        expect(degree(divide(factor, shared).remainder)).toBe(-1);
      }),
    );
  });

  test('square-free factors multiply up to the polynomial', () => {
    fc.assert(
      fc.property(nonZero, nonZero, (p, q) => {
        const product = multiply(multiply(p, p), q);
        const total = squareFreeFactors(product).reduce((sum, f) => sum + f.multiplicity * degree(f.factor), 0);
        expect(total).toBe(Math.max(0, degree(product)));
      }),
    );
  });

  test('ratios of very long numbers become the nearest double', () => {
    expect(ratioToNumber(10n ** 400n, 3n * 10n ** 400n)).toBe(1 / 3);
    expect(ratioToNumber(-7n, 2n ** 1070n)).toBe(-7 * 2 ** -1070);
    expect(ratioToNumber(10n ** 300n, 1n)).toBe(1e300);
  });
});

describe('stability is decided exactly', () => {
  test.each([
    ['s^2 + 2s + 5', true],
    ['s^2 + 1', false],
    ['s^2 - 1', false],
    ['s^3 + s^2 + s + 1', false],
    ['s^3 + 4s^2 + 5s + 20', false],
    ['s^3 + 4s^2 + 5s + 19.999999999999999999999', true],
    ['s^3 + 4s^2 + 5s + 20.000000000000000000001', false],
    ['(s^2 + 0.000000001s + 1)(s + 1)', true],
    ['s', false],
    ['7', true],
  ])('%s: %s', (text, stable) => {
    expect(isHurwitz(fractionOf(text).numerator)).toBe(stable);
  });
});

describe('poles and zeros', () => {
  const polesOf = (text: string) => systemOf(fractionOf(`1/(${text})`)).poles;

  test('multiplicities are exact', () => {
    const poles = polesOf('(s+1)^5*(s^2+2s+5)^2*(s+0.5)');
    expect(poles.map(({ multiplicity }) => multiplicity).sort()).toEqual([1, 2, 2, 5]);
    const pair = poles.find(({ im }) => im > 0)!;
    expect(pair.re).toBe(-1);
    expect(pair.im).toBe(2);
    expect(pair.dampingRatio).toBeCloseTo(1 / Math.sqrt(5), 14);
    expect(pair.timeConstant).toBe(1);
  });

  test('twenty roots in a row, which doubles alone cannot part', () => {
    const text = Array.from({ length: 20 }, (_, k) => `(s+${k + 1})`).join('');
    polesOf(text).forEach((pole, k) => {
      expect(Math.abs(pole.re + 20 - k)).toBeLessThan(1e-9 * (20 - k));
      expect(pole.im).toBe(0);
    });
  });

  test('a cluster and a far pole', () => {
    const found = polesOf('(s+1)(s+1.0001)(s+1.0002)(s+100000)').map(({ re }) => re);
    [-100000, -1.0002, -1.0001, -1].forEach((want, k) => expect(found[k]).toBeCloseTo(want, 9));
  });

  test('poles come in exact conjugate pairs and multiply up to the constant term', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 3, maxLength: 7 }), (coefficients) => {
        const text = coefficients.map((c, k) => `${c}*s^${k}`).join('+');
        const poles = polesOf(text);
        const product = poles.reduce((size, pole) => size * pole.naturalFrequency ** pole.multiplicity, 1);
        expect(product).toBeCloseTo(coefficients[0]! / coefficients[coefficients.length - 1]!, 8);
        for (const pole of poles) {
          if (pole.im !== 0) expect(poles.some(({ re, im }) => re === pole.re && im === -pole.im)).toBe(true);
        }
      }),
      { numRuns: 200 },
    );
  });

  test('what cancels is taken out of the function but stays known as a hidden mode', () => {
    const fraction = fractionOf('(s-1)/((s+2)*(s-1))');
    expect(systemOf(fraction).stable).toBe(true);
    expect(hiddenModes(fraction).map(({ re }) => re)).toEqual([1]);
    expect(degree(lowestTerms(fraction).denominator)).toBe(1);
  });

  test('a sum of equal modes hides nothing', () => {
    expect(hiddenModes(fractionOf('1/(s+1) + 1/(s+1)'))).toEqual([]);
  });
});

describe('formulas', () => {
  test('expanded and factored', () => {
    const fraction = fractionOf('(2s+6)/(s^2*(s+0.5)*(s^2+s+1))');
    expect(fractionToLatex(fraction)).toBe('\\frac{2\\,s+6}{s^{5}+1.5\\,s^{4}+1.5\\,s^{3}+0.5\\,s^{2}}');
    expect(factoredToLatex(fraction)).toBe(
      '\\frac{2\\,\\left(s+3\\right)}{\\left(s+0.5\\right)s^{2}\\left(s^{2}+s+1\\right)}',
    );
    expect(factoredToLatex(fractionOf('-1/(s+1)'))).toBe('\\frac{-1}{s+1}');
    expect(fractionToLatex(fractionOf('s'))).toBe('s');
  });
});
