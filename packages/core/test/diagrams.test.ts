import fc from 'fast-check';
import {
  type BlockDiagram,
  isSameGain,
  movesOf,
  movesWith,
  pathsOf,
  readBlocks,
  reducedGain,
  reduction,
  restricted,
  textOfBlocks,
  withNames,
} from '../src/diagrams';
import { orProblem, Problem } from '../src/expression/problem';
import { readEquations, signalFlow, splitEquations, symbolicToText, transferBetween } from '../src/index';

const single = 'e = r - H*y\ny = C*G*e';
const nested = `e1 = r - H2*y
e2 = G1*e1 - H1*x
x = G2*e2
y = G3*x`;
const crossing = `e1 = r - H1*x2
x1 = G1*e1
e2 = x1 - H2*y
x2 = G2*e2
y = G3*x2`;

/** The exact transfer function by elimination, as text. */
function transfer(text: string, from: string, to: string): string {
  const { equations, where } = splitEquations(text);
  return symbolicToText(transferBetween(signalFlow(readEquations(equations, where, [from])), from, to));
}

const ofDiagram = (diagram: BlockDiagram, from: string, to: string): string =>
  transfer(textOfBlocks(withNames(diagram)), from, to);

/** Diagrams of up to six equations, each a block or a sum of earlier or later signals. */
const diagrams = fc
  .array(
    fc.record({
      block: fc.boolean(),
      sources: fc.array(fc.tuple(fc.nat(6), fc.boolean()), { minLength: 1, maxLength: 3 }),
    }),
    { minLength: 2, maxLength: 6 },
  )
  .map((rows) => {
    const name = (k: number): string => (k % (rows.length + 1) === 0 ? 'r' : `x${k % (rows.length + 1)}`);
    const lines = rows.map(({ block, sources }, k) => {
      const [[first]] = sources as [[number, boolean]];
      if (block) return `x${k + 1} = G${k + 1}*${name(first)}`;
      const terms = sources.map(([of, plus], j) => `${plus ? '+' : '-'} ${j === 1 ? `H${k + 1}*` : ''}${name(of)}`);
      return `x${k + 1} = ${terms.join(' ').replace(/^\+ /, '')}`;
    });
    return lines.join('\n');
  });

/** The transfer function, or null when the equations have no solution or the input leads nowhere. */
function solvable(text: string, to: string): string | null {
  try {
    return transfer(text, 'r', to);
  } catch (error) {
    if (error instanceof Problem) return null;
    throw error;
  }
}

describe('text and picture', () => {
  test('a product of names is a chain of blocks, any other factor one block', () => {
    const { inputs, nodes } = readBlocks('y = A*B*(r - d)\nz = 2*K/(s + 1)*y');
    expect(inputs).toEqual(['r', 'd']);
    expect(nodes).toEqual([
      {
        kind: 'sum',
        id: '#1',
        terms: [
          { sign: 1, of: 'r' },
          { sign: -1, of: 'd' },
        ],
      },
      { kind: 'block', id: '#2', gain: 'B', of: '#1' },
      { kind: 'block', id: 'y', gain: 'A', of: '#2' },
      { kind: 'block', id: 'z', gain: '2*K/(s + 1)', of: 'y' },
    ]);
  });

  test.each([
    'e = r - b\nu = C*e\ny = G*(u + d)\nb = H*y\nwhere C = 2 + 1/s, G = 4/(s^2 + 1.2*s + 4)',
    's*x1 = -a1*x1 + b1*u1\n(s + a)*x2 = k*x1\ny = c*x2',
    'y = -x\nx = A*(B1 + 2)*(r + C*D*(q - y))',
    'y = exp(-0.5*s)*(2*K*r)',
    single,
    nested,
  ])('what is printed reads back as the same picture: %s', (text) => {
    const picture = readBlocks(text);
    const printed = textOfBlocks(picture);
    expect(readBlocks(printed)).toEqual(picture);
    expect(textOfBlocks(readBlocks(printed))).toBe(printed);
  });

  test('random diagrams come back the same, with the same transfer function', () => {
    fc.assert(
      fc.property(diagrams, (text) => {
        const picture = readBlocks(text, ['r']);
        const printed = textOfBlocks(picture);
        expect(readBlocks(printed, ['r'])).toEqual(picture);
        const before = solvable(text, 'x2');
        if (before !== null) expect(isSameGain(transfer(printed, 'r', 'x2'), before)).toBe(true);
      }),
      { numRuns: 150 },
    );
  });

  test.each([
    ['x = r\ny = x*x', /Equation 2: Two signals are multiplied/],
    ['y = 2', /needs a signal/],
    ['y = 1/(1 + y)', /divided by a signal/],
    ['y = x^2\nx = r', /no powers/],
  ])('%s is refused with its place', (text, message) => {
    expect(() => readBlocks(text)).toThrow(message);
  });
});

describe('moves', () => {
  test('the moves of two elements are those that people make with them', () => {
    const picture = readBlocks(single);
    const blocks = Object.fromEntries(
      picture.nodes.map((node) => [node.kind === 'block' ? node.gain : 'sum', node.id]),
    );
    const kinds = (...gains: string[]) =>
      movesWith(
        picture,
        new Set(['y']),
        gains.map((gain) => blocks[gain]!),
      ).map(({ kind }) => kind);
    expect(kinds('C', 'G')).toEqual(['series']);
    expect(kinds('H', 'C')).toEqual(['tapBefore']);
    expect(kinds('H', 'G')).toEqual([]);
  });

  test('a loop closes to G/(1 + GH), with the plus sign turned', () => {
    const [minus] = movesOf(readBlocks('e = r - H*y\ny = G*e'), new Set(['y'])).filter(({ kind }) => kind === 'loop');
    expect(isSameGain(minus!.gain!, 'G/(1+G*H)')).toBe(true);
    const [plus] = movesOf(readBlocks('e = r + y\ny = G*e'), new Set(['y'])).filter(({ kind }) => kind === 'loop');
    expect(isSameGain(plus!.gain!, 'G/(1-G)')).toBe(true);
    expect(plus!.after.nodes).toEqual([{ kind: 'block', id: 'y', gain: plus!.gain, of: 'r' }]);
  });

  test('a sum and a tap are carried over blocks both ways, sums are joined and exchanged', () => {
    const kinds = (text: string) => new Set(movesOf(readBlocks(text), new Set(['y'])).map(({ kind }) => kind));
    expect(kinds('y = G*(r + d)')).toContain('sumBehind');
    expect(kinds('y = G*r + d')).toContain('sumBefore');
    expect(kinds('x = G*r\ny = A*x + B*x')).toContain('tapBefore');
    expect(kinds('x = G*r\ny = x + B*r')).toContain('tapBehind');
    expect(kinds('y = A*r + B*r')).toContain('parallel');
    expect(kinds('x = r + d\ny = x - q')).toEqual(new Set(['join', 'exchange']));
    expect(kinds('x = 1*r\ny = G*x')).toContain('unity');
  });

  test('no move changes a transfer function to the kept signal', () => {
    let made = 0;
    fc.assert(
      fc.property(diagrams, fc.nat(), (text, choice) => {
        const before = solvable(text, 'x2');
        if (before === null) return;
        let picture = restricted(readBlocks(text, ['r']), { from: 'r', to: 'x2' });
        for (let k = 0; k < 4; k++) {
          const moves = movesOf(picture, new Set(['x2']));
          const move = moves[(choice + k) % Math.max(1, moves.length)];
          if (!move || picture.nodes.length > 14) return;
          made += 1;
          picture = move.after;
          if (picture.nodes.some(({ id }) => id === 'x2')) {
            expect(isSameGain(ofDiagram(picture, 'r', 'x2'), before)).toBe(true);
          }
        }
      }),
      { numRuns: 120 },
    );
    expect(made).toBeGreaterThan(100);
  });
});

describe('names', () => {
  const moves = (text: string) => movesOf(readBlocks(text, ['r']), new Set(['y']));

  test('different moves never share one', () => {
    fc.assert(
      fc.property(diagrams, (text) => {
        const names = moves(text).map(({ kind, of }) => [kind, ...of].join(' '));
        expect(new Set(names).size).toBe(names.length);
      }),
    );
    const twice = moves('z = r - x + x - x\nx = G*r\ny = H*z').filter(({ kind }) => kind === 'parallel');
    expect(twice.length).toBeGreaterThan(1);
  });

  test('a name never comes to mean another signal', () => {
    fc.assert(
      fc.property(diagrams, (text) => {
        const before = readBlocks(text, ['r']);
        for (const { after, kind } of movesOf(before, new Set(['x2'])).slice(0, 25)) {
          for (const { id } of after.nodes) {
            if (id.startsWith('#') || !before.nodes.some((node) => node.id === id)) continue;
            const [was, is] = [before, after].map((diagram) => orProblem(() => ofDiagram(diagram, 'r', id)));
            if (was instanceof Problem || is instanceof Problem) continue;
            expect([kind, id, isSameGain(is!, was!) || [was, is]]).toEqual([kind, id, true]);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  test('a sum that would be itself plus something is not joined', () => {
    expect(moves('z = r + z\ny = G*z').filter(({ kind }) => kind === 'join')).toEqual([]);
    expect(moves('z = w + r\nw = z + q\ny = G*z').filter(({ kind }) => kind === 'join')).toEqual([]);
    expect(moves('z = w + r\nw = r - v\nv = H*w\ny = G*z').some(({ kind }) => kind === 'join')).toBe(false);
    expect(moves('z = w + r\nw = r - v\nv = H*z\ny = G*z').some(({ kind }) => kind === 'join')).toBe(true);
  });

  test('of which the sum without its feedback has none', () => {
    const [loop] = moves('e = r + q - H*y\ny = G*e').filter(({ kind }) => kind === 'loop');
    expect(loop!.after.nodes.some(({ id }) => id === 'e')).toBe(false);
  });
});

describe('a whole reduction', () => {
  test.each([
    [single, 'C*G/(1 + C*G*H)'],
    [nested, 'G1*G2*G3/(1 + G2*H1 + G1*G2*G3*H2)'],
    [crossing, 'G1*G2*G3/(1 + G1*G2*H1 + G2*G3*H2)'],
    ['y = G*r + d', 'G'],
    ['y = r', '1'],
  ])('ends in one block: %s', (text, expected) => {
    const pair = { from: 'r', to: 'y' };
    const picture = readBlocks(text, ['r']);
    const steps = reduction(picture, pair);
    const last = steps.at(-1)?.after ?? restricted(picture, pair);
    expect(isSameGain(reducedGain(last, pair)!, expected)).toBe(true);
  });

  test('of random diagrams ends with what elimination gives', () => {
    let reduced = 0;
    fc.assert(
      fc.property(diagrams, (text) => {
        const expected = solvable(text, 'x2');
        if (expected === null) return;
        const pair = { from: 'r', to: 'x2' };
        const picture = readBlocks(text, ['r']);
        const steps = reduction(picture, pair);
        reduced += 1;
        expect(isSameGain(reducedGain(steps.at(-1)?.after ?? restricted(picture, pair), pair)!, expected)).toBe(true);
      }),
      { numRuns: 150 },
    );
    expect(reduced).toBeGreaterThan(50);
  });
});

describe('paths and loops', () => {
  test('of crossing loops', () => {
    const view = pathsOf(readBlocks(crossing), { from: 'r', to: 'y' });
    expect(view.forward.map(({ gain }) => gain)).toEqual(['G1*G2*G3']);
    expect(view.loops.map(({ gain }) => gain).sort()).toEqual(['-G1*G2*H1', '-G2*G3*H2']);
    expect(view.apart).toEqual([]);
    expect(isSameGain(view.determinant, '1+G1*G2*H1+G2*G3*H2')).toBe(true);
  });

  test('loops apart are multiplied, and a path that misses a loop keeps it as its cofactor', () => {
    const text = 'a = r - A*a\nb = a - B*b\ny = b + F*r';
    const view = pathsOf(readBlocks(text), { from: 'r', to: 'y' });
    expect(view.apart).toHaveLength(1);
    expect(isSameGain(view.determinant, '(1+A)*(1+B)')).toBe(true);
    const [direct] = view.forward.filter(({ gain }) => gain === 'F');
    expect(isSameGain(direct!.cofactor, '(1+A)*(1+B)')).toBe(true);
  });

  test('the rule gives what elimination gives', () => {
    let compared = 0;
    fc.assert(
      fc.property(diagrams, (text) => {
        const expected = solvable(text, 'x2');
        if (expected === null) return;
        const { forward, determinant } = pathsOf(readBlocks(text, ['r']), { from: 'r', to: 'x2' });
        const above = forward.map(({ gain, cofactor }) => `(${gain})*(${cofactor})`).join('+') || '0';
        compared += 1;
        expect(isSameGain(`(${above})/(${determinant})`, expected)).toBe(true);
      }),
      { numRuns: 150 },
    );
    expect(compared).toBeGreaterThan(50);
  });
});
