import fc from 'fast-check';
import { parse } from '../src/expression/parse';
import { childrenOf, namesIn, withChildren } from '../src/expression/tree';
import { parseFormula } from '../src/formula/evaluate';
import { isLoopStable, isStable } from '../src/frequency/stability';
import { type Scope, transferOf, withDeadTime } from '../src/index';
import { quantities } from '../src/quantity/index';
import { quantityNames } from '../src/quantity/names';
import { TransferSubject } from '../src/quantity/subject';
import { constantOf, feedbackOf, isSameTransfer, transferFrom } from '../src/system/transferAlgebra';

const none: Scope['names'] = new Map();
const read = (text: string) => transferFrom(parse(text), none);

/** Random expressions in s with dead times. */
const leaf = fc.oneof(
  fc.integer({ min: 1, max: 9 }).map(String),
  fc.constant('s'),
  fc.integer({ min: 1, max: 5 }).map((k) => `(s+${k})`),
  fc.integer({ min: 1, max: 3 }).map((k) => `exp(-${k}s)`),
);
const expression = fc.letrec<{ any: string }>((tie) => ({
  any: fc.oneof(
    { maxDepth: 3 },
    leaf,
    fc.tuple(tie('any'), fc.constantFrom('+', '-', '*'), tie('any')).map(([a, sign, b]) => `(${a}${sign}${b})`),
    fc.tuple(tie('any'), fc.integer({ min: 1, max: 5 })).map(([a, k]) => `(${a})/(s+${k})`),
    tie('any').map((a) => `(${a})^2`),
  ),
})).any;

describe('transfer functions with dead time', () => {
  test('are the same as by elimination of symbols', () => {
    fc.assert(
      fc.property(expression, (text) => {
        expect(isSameTransfer(read(text), transferOf(text))).toBe(true);
      }),
      { numRuns: 150 },
    );
  });

  test('a loop is what its equation says', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: 1, max: 5 }),
        (k, d, p) => {
          const forward = `${k}*exp(-${d}s)/(s+${p})`;
          const back = `1/(s+${p + 1})`;
          const loop = feedbackOf(read(forward), read(back));
          expect(isSameTransfer(loop, transferOf(`(${forward})/(1+(${forward})*(${back}))`))).toBe(true);
          expect(isStable(loop)).toBe(isLoopStable(read(`(${forward})*(${back})`)));
        },
      ),
      { numRuns: 40 },
    );
  });

  test.each([
    ['exp(s)', /Dead time is typed as/],
    ['exp(-s^2)', /Dead time is typed as/],
    ['exp(-s-1)', /Dead time is typed as/],
    ['1/exp(-s)', /looks ahead in time/],
    ['1/(s-s)', /below this line is zero/],
    ['q*s', /“q” is not known/],
  ])('%s is refused', (text, message) => {
    expect(() => read(text)).toThrow(message);
  });

  test('a number is known as one, whatever it is written as', () => {
    expect(constantOf(read('(s+1)*3/(s+1)'))).toEqual({ numerator: 3n, denominator: 1n });
    expect(constantOf(read('s'))).toBeNull();
    expect(constantOf(read('2*exp(-s)'))).toBeNull();
    expect(withDeadTime(read('exp(-0.5 s)*exp(-0.25 s)/(s+1)'))!.deadTime).toEqual({ numerator: 3n, denominator: 4n });
  });
});

describe('trees', () => {
  test('are put together again from their parts', () => {
    fc.assert(
      fc.property(expression, (text) => {
        const tree = parseFormula(text);
        expect(withChildren(tree, childrenOf(tree))).toEqual(tree);
      }),
      { numRuns: 60 },
    );
    const call = parseFormula('max(a, b*c, 2)');
    expect(namesIn(call)).toEqual(['a', 'b', 'c']);
    expect(withChildren(call, childrenOf(call))).toEqual(call);
  });
});

describe('quantities', () => {
  const subject = new TransferSubject(read('8/(s^2+1.2s+4)'));
  const unstable = new TransferSubject(read('1/(s-1)'));

  test('all have words, a definition and a usual limit in the sense that is asked for', () => {
    for (const name of quantityNames) {
      const { label, short, definition, usualLimit, excess, lack } = quantities[name];
      expect([name, label.length > 3, short.length > 3, /[.:]$|\.$/.test(definition)]).toEqual([
        name,
        true,
        true,
        true,
      ]);
      expect(Number.isFinite(usualLimit) && excess !== lack).toBe(true);
    }
    expect(new Set(quantityNames.map((name) => quantities[name].label)).size).toBe(quantityNames.length);
  });

  test.each(quantityNames)('%s is a number or nothing, for good systems and bad', (name) => {
    for (const each of [subject, unstable, new TransferSubject(read('1/(s^2+1)')), new TransferSubject(read('2'))]) {
      const value = quantities[name].read(each);
      expect(value === null || typeof value === 'number').toBe(true);
      expect(Number.isNaN(value)).toBe(false);
    }
  });

  test('of an unstable system are none where they would mislead', () => {
    for (const name of ['overshootPercent', 'riseTime', 'settlingTime', 'finalValue', 'resonancePeak'] as const) {
      expect([name, quantities[name].read(unstable)]).toEqual([name, null]);
    }
  });

  test('the deciding margin is the one nearest to instability', () => {
    // Conditionally stable: too little gain is as bad as too much.
    const conditional = new TransferSubject(read('30*(s+1)^2/(s^3*(s/20+1)^2)'));
    const all = conditional.margins.gainMargins.map(({ gain }) => gain);
    expect(conditional.margins.closedLoopStable).toBe(true);
    expect(all.length).toBeGreaterThan(1);
    const nearest = all.reduce((a, b) => (Math.abs(Math.log(b)) < Math.abs(Math.log(a)) ? b : a));
    expect(quantities.gainMargin.read(conditional)).toBe(nearest);
  });

  test('a loop without crossings has no end to its margins', () => {
    const calm = new TransferSubject(read('0.5/(s+1)'));
    expect(quantities.gainMargin.read(calm)).toBe(Infinity);
    expect(quantities.phaseMargin.read(calm)).toBe(Infinity);
    expect(quantities.gainCrossover.read(calm)).toBeNull();
  });
});
