import { must } from '@nailset/core';
import { checkAnswer, readAnswer } from '../src/checks';
import { modelOf, numberFromText, type Part, toLatex, typedTree, withBrackets } from '../src/index';
import { student } from './documents';

/** Fractions with √, π and complex factors, as they stand on paper. */

const asking = (expected: string, tolerancePercent = 0): Part => ({
  id: 'roots',
  kind: 'transferFunction',
  title: 'Roots',
  prompt: '',
  points: 1,
  expected,
  tolerancePercent,
});
const verdict = (expected: string, text: string, tolerancePercent = 0) =>
  checkAnswer(asking(expected, tolerancePercent), student, { kind: 'transferFunction', text });
const refusal = (text: string) => {
  try {
    readAnswer(asking('1/(s+1)'), modelOf({ systems: [], series: [] }, {}), { kind: 'transferFunction', text });
    return 'read';
  } catch (error) {
    return (error as Error).message;
  }
};

const butterworth = '9/(s^2 + 3*sqrt(2)*s + 9)';
const right: [expected: string, typed: string[]][] = [
  [
    butterworth,
    [
      '9/(s^2+3√2 s+9)',
      '9/(s²+3√2s+9)',
      '9/(s^2+√2*3s+9)',
      '9/(s^2+√18 s+9)',
      '9/(s^2+3sqrt(2)s+9)',
      '9/(s^2+3\\sqrt{2}s+9)',
      '9/(s^2+3\\sqrt2 s+9)',
      '9/(s^2+3sqrt2 s+9)',
      '\\frac{9}{s^2+3\\sqrt{2}\\,s+9}',
      '9/(s^2+3*2^(1/2)*s+9)',
      '9/(s^2+3*2^0,5*s+9)',
      '9/(s^2+6s/√2+9)',
      '1/(s^2/9+√2/3 s+1)',
      '9/((s+1.5√2)^2+4.5)',
      '9/((s+3/√2+3/√2 j)(s+3/√2-3/√2 j))',
      'T(s) = 9/(s^2+√2·3·s+9)',
    ],
  ],
  ['1/(s^2 - 2)', ['1/((s+√2)(s-√2))', '(s+√3)/((s+√3)(s²-2))', '0,5/(s-√2)/(0,5(s+√2))']],
  ['2*pi/(s + 2*pi)', ['2π/(s+2π)', '2pi/(s+2pi)', '1/(s/(2π)+1)', '\\frac{2\\pi}{s+2\\pi}', '1/(1+s/2/π)']],
  ['1/(s + 2)', ['1/(s+√4)', '√4/(√4 s+4)', '1/(s+√(1+3))', '1/(s+(√2)^2)', '1/(s+√2·√2)']],
  ['1000000000*sqrt(5)/(s + 1000000000*sqrt(5))', ['1e9√5/(s+1e9√5)', '1/(s/(1e9√5)+1)']],
  [
    '5/(s^2 + 2*s + 5)',
    [
      '5/((s+1+2j)(s+1-2j))',
      '5/((s+1+2i)(s+1-2i))',
      '5/((s+1+j2)(s+1-j2))',
      '5/((s-(-1+2j))(s-(-1-2j)))',
      '\\frac{5}{(s+1+2j)(s+1-2j)}',
      '5/(s+1+2j)/(s+1−2j)',
      '5(s+1+2j)^-1(s+1-2j)^-1',
      '(1.25j)/(s+1+2j) - 1.25j/(s+1-2j)',
      '5j/(j(s+1+2j)(s+1-2j))',
      '5/((s+1)^2-(2j)^2)',
      '5/((s+1)^2+4)',
    ],
  ],
  ['1/(s^2 + 2*s + 5)^2', ['1/((s+1+2j)²(s+1-2j)²)', '1/((s+1+2j)(s+1-2j))^2']],
  ['6.25/(s^2 + 6.25)', ['6.25/((s+2.5j)(s-2.5j))', '6.25/((s+j2.5)(s-j2.5))', '6,25/((s+j2,5)(s-j2,5))']],
  ['exp(-0.5*s)/(s + sqrt(2))', ['e^(-0.5s)/(s+√2)']],
];

test.each(right.flatMap(([expected, typed]) => typed.map((text) => [text, expected] as const)))(
  '%s is %s, exactly',
  (text, expected) => {
    expect(verdict(expected, text)).toMatchObject({ met: true, points: 1 });
  },
);

test.each([
  [butterworth, '9/(s^2+3√3 s+9)'],
  [butterworth, '9/(s^2+√2 s+9)'],
  [butterworth, '9/(s^2-3√2 s+9)'],
  [butterworth, '√2·9/(s^2+3√2 s+9)'],
  [butterworth, '9/(s^2+√(2s)+9)'],
  [butterworth, '9/(s^2+4.2426 s+9)'],
  ['1/(s^2 - 2)', '1/((s+√2)(s+√2))'],
  ['5/(s^2 + 2*s + 5)', '5/((s+1+2j)(s+1+2j))'],
  ['5/(s^2 + 2*s + 5)', '5/((s-1+2j)(s-1-2j))'],
  ['5/(s^2 + 2*s + 5)', '5/((s+1+2)(s+1-2))'],
  ['1/(s^2 - 2)', '(s+√3)/(s²-2)'],
  ['2*pi/(s + 2*pi)', 'π/(s+π)'],
  ['exp(-0.5*s)/(s + sqrt(2))', '1/(s+√2)'],
])('for %s, %s does not count', (expected, text) => {
  let met = false;
  try {
    met = verdict(expected, text).met;
  } catch {
    // Refused: it does not count either.
  }
  expect(met).toBe(false);
});

test('four figures are within a tolerance of a thousandth, as with any other number', () => {
  expect(verdict(butterworth, '9/(s^2+4.2426 s+9)', 0.1)).toMatchObject({ met: true });
});

test.each([
  ['1/(s+√(-2))', 'has no value'],
  ['1/(s+√s)', 'depends on s'],
  ['1/(s+√)', 'A value is missing'],
  ['1/(s+√q)', 'q'],
  ['1/(s+2^(1/s))', 'whole number'],
  ['1/(s+1+2j)', 'come in pairs'],
  ['1/((s+1+2j)(s+1+2j))', 'come in pairs'],
  ['1/(s+√j)', 'j'],
  ['1/(s+\\sqrt[3]{8})', '8^(1/3)'],
  ['1/(s+∛8)', '∛'],
  ['1/((s+1+2j)^20(s+1-2j)^20)', 'At most 16'],
  ['(s+j)^(-40)/(s+2j)^0', 'At most 16'],
  ['s^0.5/(s+1)', 'whole number'],
  ['1/(s+√(2)', 'never closed'],
])('%s: %s', (text, words) => {
  expect(refusal(text)).toContain(words);
});

test('a root is worked out with the letters of the student', () => {
  // K = 2, zeta = 0.3, wn = 3.
  const part = asking('sqrt(K)*wn/(s + sqrt(K)*wn)');
  expect(checkAnswer(part, student, { kind: 'transferFunction', text: '√K ωn/(s+√K ωn)' })).toMatchObject({
    met: true,
  });
  expect(checkAnswer(part, student, { kind: 'transferFunction', text: '3√2/(s+3√2)' })).toMatchObject({ met: true });
});

test('a root is typeset as one', () => {
  expect(toLatex(typedTree('9/(s²+3√2 s+9)', []))).toBe('\\frac{9}{s^{2}+3\\,\\sqrt{2}\\,s+9}');
  expect(toLatex(typedTree('√(1+s)/√2²', []))).toBe('\\frac{\\sqrt{1+s}}{\\sqrt{2^{2}}}');
});

test('a number takes no root of another order for a product', () => {
  expect(() => numberFromText('\\sqrt[3]{8}', '')).toThrow('8^(1/3)');
  expect(numberFromText('8^(1/3)', '')).toBeCloseTo(2, 12);
  expect(numberFromText('\\sqrt2/2', '')).toBeCloseTo(Math.SQRT1_2, 12);
});

test('brackets that were forgotten round a root are offered', () => {
  const offered = must(withBrackets('9/s^2+3√2s+9'));
  expect(verdict(butterworth, offered)).toMatchObject({ met: true });
});
