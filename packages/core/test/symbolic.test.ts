import fc from 'fast-check';
import { parse } from '../src/expression/parse';
import { Problem } from '../src/expression/problem';
import { readEquations, signalFlow, symbolicToLatex, symbolicToText, transferBetween } from '../src/index';
import { evaluate } from '../src/rational/evaluate';
import { fieldFor, inLowestTerms, isSameSymbolic } from '../src/symbolic/fraction';
import {
  commonDivisor,
  degreeIn,
  exactQuotient,
  product,
  Ring,
  sum,
  type SymbolicPolynomial,
  symbolPower,
  whole,
} from '../src/symbolic/polynomial';
import { symbolicOf } from './symbolicOf';

/** A value at a point, in doubles. */
function valueAt(p: SymbolicPolynomial, point: Record<string, number>): number {
  let total = 0;
  for (const [key, c] of p.terms) {
    let term = Number(c);
    p.ring.symbols.forEach((symbol, k) => (term *= point[symbol]! ** key.charCodeAt(k)));
    total += term;
  }
  return total;
}

const ring = () => new Ring(['s', 'a', 'b'], 1e7);
const small = fc.array(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.nat(2), fc.nat(2), fc.nat(2)), {
  minLength: 1,
  maxLength: 4,
});
const build = (shared: Ring, terms: [number, number, number, number][]): SymbolicPolynomial =>
  terms.reduce(
    (total, [c, ...powers]) => {
      const term = powers.reduce((p, power, k) => product(p, symbolPower(shared, k, power)), whole(shared, BigInt(c)));
      return sum(total, term);
    },
    whole(shared, 0n),
  );

test('a block whose denominator starts with a minus keeps its sign', () => {
  const flow = signalFlow(readEquations(['x = G/(1 - G*H)*r', 'y = -x'], {}, ['r']));
  expect(symbolicToText(transferBetween(flow, 'r', 'y'))).toBe('G/(-1+G*H)');
});

describe('polynomials in several symbols', () => {
  test('a common factor is found whatever it is multiplied with', () => {
    fc.assert(
      fc.property(small, small, small, (f, g, h) => {
        const shared = ring();
        const [factor, left, right] = [f, g, h].map((terms) => build(shared, terms)) as [
          SymbolicPolynomial,
          SymbolicPolynomial,
          SymbolicPolynomial,
        ];
        if ([factor, left, right].some((p) => p.terms.size === 0)) return;
        const found = commonDivisor(product(factor, left), product(factor, right));
        const times = (c: bigint, p: SymbolicPolynomial) => product(whole(shared, c), p);
        // The factor divides what is found, up to a whole number.
        const content = [...factor.terms.values()].reduce((a, b) => a * b, 1n);
        expect(exactQuotient(times(content, found), factor) ?? exactQuotient(found, factor)).not.toBeNull();
        expect(exactQuotient(times(content ** 2n, product(factor, left)), found)).not.toBeNull();
      }),
      { numRuns: 150 },
    );
  });

  test('a quotient of a product is the factor, and none where nothing divides', () => {
    const shared = ring();
    const p = build(shared, [
      [2, 1, 1, 0],
      [-3, 0, 0, 2],
    ]);
    const q = build(shared, [
      [1, 2, 0, 0],
      [5, 0, 1, 1],
    ]);
    expect(symbolicToText({ numerator: exactQuotient(product(p, q), q)!, denominator: whole(shared, 1n) })).toBe(
      '2*a*s-3*b^2',
    );
    expect(exactQuotient(sum(product(p, q), whole(shared, 1n)), q)).toBeNull();
    expect(degreeIn(p, 2)).toBe(2);
  });

  test('a question may not grow without bounds', () => {
    for (const text of ['(a+b+c+d+e+f+g)^40', '((((s+a)^9)^9)^9)^9', '(a+s)^30*(b+s)^30', 's^40*s']) {
      expect(() => symbolicOf(text)).toThrow(Problem);
    }
  });
});

const canonical = (text: string) => symbolicToText(inLowestTerms(symbolicOf(text)));

describe('fractions with letters', () => {
  test.each([
    ['G1*G2/(1 - G1*G2*H1)', 'G1*G2/(1-G1*G2*H1)'],
    ['(s^2 - a^2)/(s - a)', 's+a'],
    ['K*(s + a)/((s + a)*(s + b))', 'K/(s+b)'],
    ['1/(1/a + 1/b)', 'a*b/(a+b)'],
    ['0.5*K/(0.25 s)', '2*K/s'],
    ['exp(-0.4s)*exp(-0.6s)/s', 'exp(-s)/s'],
    ['exp(-T*s)*exp(-2*T*s)', 'exp(-3*T*s)'],
    ['exp(-s)/exp(-0.25 s)', 'exp(-3/4*s)'],
    ['exp(-0*s)', '1'],
  ])('%s is %s', (text, wanted) => {
    expect(canonical(text)).toBe(wanted);
  });

  test('the text reads back as the same fraction', () => {
    for (const text of ['K*(s+a)/(s^2+2*zeta*wn*s+wn^2)*exp(-0.8*s)', '-(a-b)/(s*(s-a))', '(1.5+K)/(s^3+exp(-T*s))']) {
      const trees = [parse(text), parse(canonical(text))];
      const { algebra } = fieldFor(trees, new Map());
      expect(isSameSymbolic(evaluate(trees[0]!, algebra), evaluate(trees[1]!, algebra))).toBe(true);
    }
  });

  test('LaTeX groups by powers of s', () => {
    const fraction = inLowestTerms(symbolicOf('(K*s + wn*s + 2)/(s^2*tau1 + exp(-0.5*s))'));
    expect(symbolicToLatex(fraction)).toBe(
      '\\frac{\\left(K+\\omega_{n}\\right)\\,s+2}{\\tau_{1}\\,s^{2}+e^{-\\frac{1}{2}\\,s}}',
    );
  });

  test('whatever is typed is read or refused with a position inside it, quickly', () => {
    const pieces = [
      's',
      'K',
      'a1',
      '(',
      ')',
      '+',
      '-',
      '*',
      '/',
      '^',
      '2',
      '0.5',
      'exp',
      'exp(',
      '-',
      "'",
      ' ',
      '9999',
      'ζ',
    ];
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...pieces), { maxLength: 40 }), (parts) => {
        const text = parts.join('');
        try {
          symbolicOf(text);
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          expect(error.at).toBeGreaterThanOrEqual(0);
          expect(error.at).toBeLessThanOrEqual(text.length);
        }
      }),
      { numRuns: 2000 },
    );
  });
});

/** Solves M·x = B·input at one point by elimination in doubles. */
function solveAt(
  flow: ReturnType<typeof signalFlow>,
  input: string,
  point: Record<string, number>,
): Map<string, number> {
  const { signals } = flow.diagram;
  const rows = flow.rows.map((row) =>
    [...signals, input].map((name) => (row.has(name) ? valueAt(row.get(name)!, point) : 0)),
  );
  const n = signals.length;
  for (let k = 0; k < n; k++) {
    const pivot = rows.findIndex((row, i) => i >= k && Math.abs(row[k]!) > 1e-12);
    [rows[k], rows[pivot]] = [rows[pivot]!, rows[k]!];
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const factor = rows[i]![k]! / rows[k]![k]!;
      rows[i] = rows[i]!.map((value, j) => value - factor * rows[k]![j]!);
    }
  }
  return new Map(signals.map((name, k) => [name, rows[k]![n]! / rows[k]![k]!]));
}

describe('signal equations', () => {
  test('inputs are what is only added or multiplied last', () => {
    const inputs = (...equations: string[]) => readEquations(equations).inputs;
    expect(inputs('e = r - b', 'u = C*e', 'y = G*(u + d)', 'b = H*y')).toEqual(['r', 'd']);
    expect(inputs('s*x1 = -a1*x1 + b1*u1 + b2*u2')).toEqual(['u1', 'u2']);
    expect(inputs('y = G*r')).toEqual(['r']);
    expect(inputs("x'' = -2*x' - x + K*u")).toEqual(['u']);
  });

  test('every signal of a random diagram solves the equations', () => {
    const gain = fc.constantFrom('G1', 'G2', 'G3', 'H1', '2', '1/(s+a)', '(s+1)/s');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(5), gain, fc.nat(5), gain), { minLength: 6, maxLength: 6 }),
        fc.array(fc.integer({ min: 1, max: 97 }), { minLength: 6, maxLength: 6 }),
        (links, numbers) => {
          const equations = links.map(
            ([i, g, k, h], n) => `x${n} = ${n === 0 ? 'r + ' : ''}(${g})*x${i}/7 - (${h})*x${k}/11`,
          );
          const flow = signalFlow(readEquations(equations));
          const point = Object.fromEntries(
            ['s', 'G1', 'G2', 'G3', 'H1', 'a'].map((name, k) => [name, numbers[k]! / 13 + k / 7]),
          );
          const solved = solveAt(flow, 'r', point);
          for (const [name, wanted] of solved) {
            if (!Number.isFinite(wanted) || Math.abs(wanted) > 1e6) return;
            const { numerator, denominator } = transferBetween(flow, 'r', name);
            const found = valueAt(numerator, point) / valueAt(denominator, point);
            expect(Math.abs(found - wanted)).toBeLessThanOrEqual(1e-6 * (1 + Math.abs(wanted)));
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  test('superposition: what enters a sum leaves it', () => {
    const flow = signalFlow(readEquations(['e = r - H*y', 'u = C*e', 'v = u + d', 'y = G*v']));
    const of = (from: string, to: string) => transferBetween(flow, from, to);
    const { algebra } = flow.field;
    const combined = (from: string, expression: string) => {
      const terms = expression
        .split(' ')
        .map((name) => (name === from ? algebra.constant({ numerator: 1n, denominator: 1n }) : of(from, name)));
      return terms.reduce((a, b) => algebra.add(a, b, 0));
    };
    expect(isSameSymbolic(of('r', 'v'), of('r', 'u'))).toBe(true);
    expect(isSameSymbolic(of('d', 'v'), combined('d', 'u d'))).toBe(true);
    expect(isSameSymbolic(of('d', 'e'), algebra.negate(algebra.multiply(algebra.name('H', 0), of('d', 'y'), 0)))).toBe(
      true,
    );
  });

  test('hidden modes stay in the characteristic polynomial', () => {
    const flow = signalFlow(readEquations(['e = r - y', 'u = C*e', 'y = G*u'], { C: '(s-1)/s', G: '2/((s-1)*(s+3))' }));
    const closed = transferBetween(flow, 'r', 'y');
    expect(degreeIn(closed.denominator, 0)).toBe(3);
    expect(symbolicToText(inLowestTerms(closed))).toBe('2/(s^2+3*s+2)');
  });

  test('dead time inside a loop is kept exactly', () => {
    const flow = signalFlow(readEquations(['e = r - y', 'y = G*e'], { G: 'K*exp(-0.5s)/(s+1)' }));
    expect(symbolicToText(inLowestTerms(transferBetween(flow, 'r', 'y')))).toBe('K*exp(-1/2*s)/(s+1+K*exp(-1/2*s))');
  });
});
