import fc from 'fast-check';
import { checkAnswer } from '../src/checks';
import { orProblem, type Part, Problem, typedTransferFrom, typedTree } from '../src/index';
import { student } from './documents';

/** Fractions with roots, π and pairs of complex factors, written in many forms: right ones count, wrong ones do not. */

const asking = (expected: string): Part => ({
  ...{ id: 'f', kind: 'transferFunction', title: 'F', prompt: '', points: 1 },
  ...{ expected, tolerancePercent: 0 },
});
const isMet = (expected: string, text: string): boolean => {
  const verdict = orProblem(() => checkAnswer(asking(expected), student, { kind: 'transferFunction', text }));
  return !(verdict instanceof Problem) && verdict.met;
};

const digit = fc.integer({ min: 1, max: 9 });
const radicand = fc.constantFrom(2, 3, 5, 6, 7, 10);

describe('a second-order system with a root in its damping', () => {
  /** k/(s² + a√n s + b), as a formula and in the ways it is written. */
  const forms = (k: number, a: number, n: number, b: number): string[] => [
    `${k}/(s^2+${a}√${n} s+${b})`,
    `${k}/(s²+${a}·√${n}·s+${b})`,
    `${k}/(s^2 + ${a}*sqrt(${n})*s + ${b})`,
    `\\frac{${k}}{s^2+${a}\\sqrt{${n}}s+${b}}`,
    `${k}/(${b}+√${n * a * a} s+s^2)`,
    `${2 * k}/(2s^2+${2 * a}√${n}s+${2 * b})`,
    `1/(s^2/${k}+${a}√${n}/${k} s+${b}/${k})`,
    `${k}/(s^2+${a}*${n}^(1/2)s+${b})`,
    `${k}√${n}/(√${n}(s^2+${a}√${n}s+${b}))`,
    `${k}(s+√${n})/((s+√${n})(s^2+${a}√${n}s+${b}))`,
    `-${k}/(-s^2-${a}√${n}s-${b})`,
  ];
  const slips = (k: number, a: number, n: number, b: number): string[] => [
    `${k}/(s^2+${a}*${n}s+${b})`,
    `${k}/(s^2+${a}√${n + 1}s+${b})`,
    a === 1 ? `${k}/(s^2+2√${n}s+${b})` : `${k}/(s^2+√${n * a}s+${b})`,
    `${k}/(s^2-${a}√${n}s+${b})`,
    `${k}√${n}/(s^2+${a}√${n}s+${b})`,
    `${k}/(s^2+${(a * Math.sqrt(n)).toFixed(3)}s+${b})`,
    `${k}/(${a}√${n}s^2+s+${b})`,
  ];

  test('every form counts, every slip does not', () => {
    let [right, wrong] = [0, 0];
    fc.assert(
      fc.property(digit, digit, radicand, digit, (k, a, n, b) => {
        const expected = `${k}/(s^2 + ${a}*sqrt(${n})*s + ${b})`;
        for (const text of forms(k, a, n, b)) {
          expect([text, isMet(expected, text)]).toEqual([text, true]);
          right += 1;
        }
        for (const text of slips(k, a, n, b)) {
          expect([text, isMet(expected, text)]).toEqual([text, false]);
          wrong += 1;
        }
      }),
      { numRuns: 40 },
    );
    expect([right, wrong]).toEqual([440, 280]);
  });
});

describe('a pair of poles by its factors', () => {
  const forms = (k: number, re: number, im: number): string[] => [
    `${k}/((s+${re}+${im}j)(s+${re}-${im}j))`,
    `${k}/((s+${re}-${im}i)(s+${re}+${im}i))`,
    `${k}/((s+${re}+j${im})(s+${re}-j${im}))`,
    `${k}/((s-(-${re}+${im}j))*(s-(-${re}-${im}j)))`,
    `${k}/(s+${re}+${im}j)/(s+${re}-${im}j)`,
    `${k}/((s+${re})^2+${im}^2)`,
    `${k}/((s+${re})²-(${im}j)²)`,
    `${k}/(2*${im}j)/(s+${re}-${im}j) - ${k}/(2*${im}j)/(s+${re}+${im}j)`,
    `\\frac{${k}}{(s+${re}+${im}j)(s+${re}-${im}j)}`,
  ];
  const slips = (k: number, re: number, im: number): string[] => [
    `${k}/((s+${re}+${im}j)(s+${re}+${im}j))`,
    `${k}/((s-${re}+${im}j)(s-${re}-${im}j))`,
    `${k}/((s+${re}+${im})(s+${re}-${im}))`,
    `${k}/((s+${re}+${im}j)(s+${re}-${im + 1}j))`,
    `${k}j/((s+${re}+${im}j)(s+${re}-${im}j))`,
    `${k}/(s+${re}+${im}j)`,
  ];

  test('every form counts, every slip does not', () => {
    fc.assert(
      fc.property(digit, digit, digit, (k, re, im) => {
        const expected = `${k}/(s^2 + ${2 * re}*s + ${re * re + im * im})`;
        for (const text of forms(k, re, im)) expect([text, isMet(expected, text)]).toEqual([text, true]);
        for (const text of slips(k, re, im)) expect([text, isMet(expected, text)]).toEqual([text, false]);
      }),
      { numRuns: 40 },
    );
  });
});

test('anything that is typed is read or refused in words, and ends', () => {
  const piece = fc.constantFrom(
    's',
    '√',
    '√(',
    ')',
    '(',
    '2',
    '0,5',
    'j',
    'i',
    'j2',
    '+',
    '-',
    '*',
    '/',
    '^',
    '^2',
    'π',
    '^(1/2)',
    ' ',
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 14 }), (pieces) => {
      const text = pieces.join('');
      const found = orProblem(() => typedTransferFrom(typedTree(text, []), new Map()));
      if (!(found instanceof Problem)) return;
      expect(found.message).toMatch(/^[“A-Z√0-9].*[.!?]/s);
      expect(found.at).toBeLessThanOrEqual(text.length);
    }),
    { numRuns: 3000 },
  );
});
