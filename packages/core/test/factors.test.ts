import fc from 'fast-check';
import { simplifiedGain, sumOfGains } from '../src/diagram/gains';
import { closingLines, isSameGain, readBlocks } from '../src/diagrams';
import { parse } from '../src/expression/parse';
import { toText } from '../src/expression/text';
import type { Tree } from '../src/expression/tree';
import { modulo, prime, solveModulo } from '../src/rational/modular';

/** A tree without the places where its pieces stood. */
const bare = (tree: Tree): unknown =>
  JSON.parse(JSON.stringify(tree, (key, value: unknown) => (key === 'at' ? undefined : value)));

const trees = fc.letrec<{ tree: Tree }>((tie) => {
  const pair = fc.tuple(tie('tree'), tie('tree'));
  const two = (kind: 'sum' | 'difference' | 'product' | 'quotient') =>
    pair.map(([left, right]): Tree => ({ kind, left, right, at: 0 }));
  return {
    tree: fc.oneof(
      { maxDepth: 5, withCrossShrink: true },
      fc.constantFrom('G', 'H1', 's', 'tau').map((name): Tree => ({ kind: 'name', name, at: 0 })),
      fc.constantFrom('2', '0.5', '1e-3').map((text): Tree => ({ kind: 'number', text, at: 0 })),
      two('sum'),
      two('difference'),
      two('product'),
      two('quotient'),
      tie('tree').map((of): Tree => ({ kind: 'negative', of, at: 0 })),
      tie('tree').map((base): Tree => ({ kind: 'power', base, exponent: { kind: 'number', text: '2', at: 0 }, at: 0 })),
    ),
  };
}).tree;

describe('an expression as text', () => {
  test('reads back as the same function, whatever its brackets', () => {
    fc.assert(
      fc.property(trees, (tree) => {
        const text = toText(tree);
        if (text.length > 300) return;
        const again = parse(text);
        expect(toText(again)).toBe(text);
      }),
      { numRuns: 300 },
    );
  });

  test.each([
    ['a-(b+c)', 'a - (b + c)'],
    ['a/(b*c)', 'a/(b*c)'],
    ['(a+b)*(c-d)', '(a + b)*(c - d)'],
    ['-(a+b)', '-(a + b)'],
    ['(a^2)^3', '(a^2)^3'],
    ['2(s+1)/(s(s+2))', '2*(s + 1)/(s*(s + 2))'],
    ['exp(-0.5s)*G', 'exp(-0.5*s)*G'],
    ['a*(b/c)', 'a*(b/c)'],
  ])('%s is written %s', (typed, written) => {
    expect(toText(parse(typed))).toBe(written);
    expect(bare(parse(written))).toEqual(bare(parse(toText(parse(written)))));
  });
});

describe('factors', () => {
  test('are written as one fraction in lowest terms, few letters first', () => {
    expect(simplifiedGain('G1/(1+G1*H1)*G2')).toBe('G1*G2/(1+G1*H1)');
    expect(simplifiedGain('(s+1)*(s+2)/(s+1)')).toBe('s+2');
    expect(
      sumOfGains([
        [1, 'A'],
        [-1, 'A'],
      ]),
    ).toBe('0');
    expect(() => simplifiedGain('1/(A-A)')).toThrow(/zero/);
  });

  test('are the same in any form, dead times included', () => {
    expect(isSameGain('2/(s+1)*exp(-s)', 'exp(-0.5s)*2/(1+s)*exp(-0.5s)')).toBe(true);
    expect(isSameGain('A-B', 'B-A')).toBe(false);
  });
});

test('the lines that close loops are those that lead back', () => {
  const closing = (text: string) => [...closingLines(readBlocks(text))].sort();
  expect(closing('e = r - b\ny = G*e\nb = H*y')).toEqual(['b>e']);
  expect(closing('x = A*r\ny = B*x + F*r')).toEqual([]);
  expect(closing('x1 = A*r - B*x1\ny = C*x1')).toHaveLength(1);
  expect(closing('e1 = r - x2\nx1 = G*e1\ne2 = x1 - y\nx2 = H*e2\ny = K*x2')).toEqual(['x2>e1', 'y>e2']);
});

describe('linear equations modulo the prime', () => {
  test('give the first unknown of a system made from its solution', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 5, maxLength: 5 }), {
          minLength: 4,
          maxLength: 4,
        }),
        (numbers) => {
          const solution = numbers.map((row) => row[4]!);
          const rows = numbers.map((row) => {
            const own = row.slice(0, 4);
            const right = own.reduce((sum, c, k) => sum + c * solution[k]!, 0);
            return [...own, right].map((value) => modulo(BigInt(value)));
          });
          const found = solveModulo(rows);
          if (found !== null) expect(found).toBe(((solution[0]! % prime) + prime) % prime);
        },
      ),
      { numRuns: 200 },
    );
  });

  test('have no answer when they depend on each other', () => {
    expect(
      solveModulo([
        [1, 2, 3],
        [2, 4, 6],
      ]),
    ).toBeNull();
    expect(
      solveModulo([
        [0, 1, 7],
        [1, 0, 5],
      ]),
    ).toBe(5);
  });
});
