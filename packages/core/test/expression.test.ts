import fc from 'fast-check';
import {
  fractionOf,
  isSameFraction,
  limits,
  parse,
  Problem,
  rational,
  rationalFromDecimal,
  toLatex,
  transferFrom,
} from '../src/index';

const bindings = new Map([
  ['K', rational(2n)],
  ['wn', rational(7n, 2n)],
  ['tau', rational(1n, 10n)],
]);

function problemOf(text: string): Problem {
  try {
    fractionOf(text, bindings);
  } catch (error) {
    if (error instanceof Problem) return error;
    throw error;
  }
  throw new Error(`“${text}” was accepted.`);
}

describe('expressions mean what people write', () => {
  test.each([
    ['2s', '2*s'],
    ['3(s+1)', '3*s + 3'],
    ['K(s+2)', '2*s + 4'],
    ['(s+1)(s+2)', 's^2 + 3s + 2'],
    ['s²+2s', 's^2 + 2*s'],
    ['1.5e-3 s', '0.0015*s'],
    ['−s + 3·s', '2s'],
    ['-s^2', '0 - s*s'],
    ['(-s)^2', 's^2'],
    ['2^-1', '0.5'],
    ['s^-2', '1/(s*s)'],
    ['2^3^2', '512'],
    ['1/2s', '0.5*s'],
    ['[s+1]/[s+2]', '(s+1)/(s+2)'],
    ['wn^2/(s^2+2*0.3*wn*s+wn^2)', '12.25/(s^2+2.1s+12.25)'],
    ['1/(tau s + 1)', '10/(s+10)'],
    ['.5', '1/2'],
    ['2 s (s + 1) 3', '6s^2+6s'],
  ])('%s is %s', (left, right) => {
    expect(isSameFraction(fractionOf(left, bindings), fractionOf(right, bindings))).toBe(true);
  });

  test('a decimal is the exact rational that it spells', () => {
    expect(rationalFromDecimal('0.1')).toEqual(rational(1n, 10n));
    expect(rationalFromDecimal('12.50e-2')).toEqual(rational(1n, 8n));
    expect(rationalFromDecimal('-3e2')).toEqual(rational(-300n));
  });

  test('the typeset reading keeps the structure', () => {
    expect(toLatex(parse('K*(s+1)/(s^2+2*zeta*wn*s)'))).toBe(
      '\\frac{K\\,\\left(s+1\\right)}{s^{2}+2\\,\\zeta\\,\\omega_{n}\\,s}',
    );
    expect(toLatex(parse('2*3 - (s - 1)'))).toBe('2\\cdot 3-\\left(s-1\\right)');
    expect(toLatex(parse('1e-3*Kp'))).toBe('1\\cdot 10^{-3}\\,K_{p}');
  });
});

describe('mistakes are refused with their place', () => {
  test.each([
    ['', 'empty', 0],
    ['   ', 'empty', 0],
    ['1/0', 'divisionByZero', 1],
    ['1/(s-s)', 'divisionByZero', 1],
    ['0^-1', 'divisionByZero', 1],
    ['s^99999', 'exponent', 2],
    ['s^0.5', 'exponent', 2],
    ['s^s', 'exponent', 2],
    ['((s+1)^40)^2', 'degree', 10],
    ['9^40^2', 'exponent', 4],
    ['((9^40)^40)^40', 'numberSize', 11],
    ['1,5,2s', 'decimalComma', 1],
    ['1/(s+1', 'unclosedBracket', 2],
    ['s+1)', 'unopenedBracket', 3],
    ['2*()', 'emptyBracket', 2],
    ['s+', 'missingOperand', 2],
    ['s+*2', 'missingOperand', 2],
    ['2 3', 'missingOperator', 2],
    ['2 # s', 'unexpectedCharacter', 2],
    ['s\u0000', 'unexpectedCharacter', 1],
    ['Ks', 'unknownName', 0],
    ['2*zeta', 'unknownName', 2],
    ['1e999', 'tooManyDigits', 0],
    ['1'.repeat(60), 'tooManyDigits', 0],
    ['('.repeat(500), 'tooDeep', limits.nesting],
    ['-'.repeat(500), 'tooDeep', limits.nesting],
  ])('%s', (text, code, at) => {
    const problem = problemOf(text);
    expect([problem.code, problem.at]).toEqual([code, at]);
    expect(problem.message).toMatch(/^\p{Lu}|^“/u);
  });

  test('a name that runs together says how to part it', () => {
    expect(problemOf('Ks').message).toContain('K*s');
  });

  test('ten megabytes of brackets are refused at once', () => {
    expect(problemOf('('.repeat(10_000_000)).code).toBe('tooLong');
  });

  test('whatever is typed is read or refused with a place inside the text', () => {
    const typed = fc.string({ unit: fc.constantFrom(...'0123456789.sKe+-*/^()[]  ,'), maxLength: 40 });
    fc.assert(
      fc.property(typed, (text) => {
        try {
          fractionOf(text, bindings);
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          expect(error.at).toBeGreaterThanOrEqual(0);
          expect(error.at).toBeLessThanOrEqual(text.length);
        }
      }),
      { numRuns: 3000 },
    );
  });
});

test.each([
  ['a power of a sum of dead times', `(${delays(20)})^20`],
  ['products of such sums', `(${delays(30)})*(${delays(30)})*(${delays(30)})`],
  ['a long sum of them', delays(60)],
])('%s is refused by a count of work, not by a clock', (_name, text) => {
  expect(() => transferFrom(parse(text), new Map())).toThrow(
    'At most 40 different dead times are worked out in one expression.',
  );
});

test('a few dead times are worked out, in products and loops too', () => {
  expect(() => transferFrom(parse(`(${delays(6)})^6/(1 + (${delays(6)})^5)`), new Map())).not.toThrow();
});

function delays(count: number): string {
  return Array.from({ length: count }, (_, k) => `exp(-${k + 1}*s)`).join(' + ');
}
