import { must } from '../expression/must.js';
import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { namesIn, type Tree } from '../expression/tree.js';
import { functions } from '../formula/functions.js';
import type { Fraction } from '../rational/fraction.js';
import { type Complex, complex, plus, times } from '../system/complex.js';
import { fractionFromCoefficients } from '../system/forms.js';

/**
 * Functions of time t as people type them, with a transform of their own where they have one: sums and products of
 * powers of t, exponentials, sines and cosines of straight lines in t, and `step(t - 2)`, which sets in then.
 */
export interface Signal {
  readonly tree: Tree;
  readonly numbers: ReadonlyMap<string, number>;
  /** What sets in at which time, zero before; null for a function without such a transform, as `abs(sin(t))`. */
  readonly pieces: readonly Piece[] | null;
}

/** The sum of coefficient·t^power·e^(exponent·t) from `at` on, t counting from there. */
interface Piece {
  readonly at: number;
  readonly terms: readonly Term[];
}

interface Term {
  readonly coefficient: Complex;
  readonly power: number;
  readonly exponent: Complex;
}

const plain = Object.entries(functions).filter(([, { systems }]) => systems === 0);
const names: ReadonlyMap<string, string> = new Map(
  [...plain.map(([name]) => name), 'step'].map((name) => [name, name]),
);
const mostTerms = 60;
const highestPower = 8;

/**
 * Reads a function of t.
 * @param numbers what letters other than t stand for
 * @throws Problem with the position of the mistake; `unknownName` for a letter without a number.
 */
export function readSignal(text: string, numbers: ReadonlyMap<string, number> = new Map()): Signal {
  const tree = parse(text, { functions: names });
  for (const name of namesIn(tree)) {
    if (name === 't' || name === 'pi' || numbers.has(name)) continue;
    throw new Problem('unknownName', `“${name}” is no number of this sheet; a function of time is typed in t.`);
  }
  return { tree, numbers, pieces: piecesOf(tree, numbers) };
}

/** The value of a signal at a time in seconds. */
export function signalAt({ tree, numbers }: Pick<Signal, 'tree' | 'numbers'>, time: number): number {
  const value = (tree: Tree): number => {
    switch (tree.kind) {
      case 'number':
        return Number(tree.text);
      case 'name':
        return tree.name === 't' ? time : (numbers.get(tree.name) ?? Math.PI);
      case 'negative':
        return -value(tree.of);
      case 'sum':
        return value(tree.left) + value(tree.right);
      case 'difference':
        return value(tree.left) - value(tree.right);
      case 'product':
        return value(tree.left) * value(tree.right);
      case 'quotient':
        return value(tree.left) / value(tree.right);
      case 'power':
        return value(tree.base) ** value(tree.exponent);
      case 'exponential':
        return Math.exp(value(tree.exponent));
      case 'call':
        return tree.name === 'step'
          ? Number(value(argumentOf(tree)) >= 0)
          : (must(functions[tree.name]).value([], tree.of.map(value)) as number);
    }
  };
  return value(tree);
}

function argumentOf({ name, of, at }: Extract<Tree, { kind: 'call' }>): Tree {
  const [first, ...more] = of;
  if (!first || more.length > 0) throw new Problem('exercise', `${name} is written ${name}(t - 2).`, at);
  return first;
}

/** The transforms of what a signal is made of: each with the time from which it acts. @throws Problem for one without. */
export function transformsOf({ pieces }: Signal): { readonly at: number; readonly transform: Fraction }[] {
  return (pieces ?? []).flatMap(({ at, terms }) =>
    // Of a pair that is conjugate, one stands for both.
    terms.filter(({ exponent }) => exponent.im >= 0).map((term) => ({ at, transform: transformOf(term) })),
  );
}

/** c·n!/(s − p)^(n+1), with its conjugate where p is complex. */
function transformOf({ coefficient, power, exponent }: Term): Fraction {
  let factorial = 1;
  for (let k = 2; k <= power; k++) factorial *= k;
  const { re, im } = exponent;
  if (im === 0) {
    let below = [1];
    for (let k = 0; k <= power; k++) below = timesPolynomial(below, [1, -re]);
    return fractionFromCoefficients([factorial * coefficient.re], below);
  }
  let below = [1];
  let above: Complex[] = [coefficient];
  for (let k = 0; k <= power; k++) {
    below = timesPolynomial(below, [1, -2 * re, re * re + im * im]);
    // Times s − conj(p).
    const next = [...above, complex(0)];
    above.forEach((entry, n) => (next[n + 1] = plus(next[n + 1]!, times(entry, complex(-re, im)))));
    above = next;
  }
  return fractionFromCoefficients(
    above.map((entry) => 2 * factorial * entry.re),
    below,
  );
}

function timesPolynomial(a: readonly number[], b: readonly number[]): number[] {
  const product = new Array<number>(a.length + b.length - 1).fill(0);
  a.forEach((x, i) => b.forEach((y, j) => (product[i + j]! += x * y)));
  return product;
}

const zero = complex(0);
const constant = (value: number): Piece[] => [
  { at: 0, terms: [{ coefficient: complex(value), power: 0, exponent: zero }] },
];

/** Null where the function is none of those with a transform of this kind. */
function piecesOf(tree: Tree, numbers: ReadonlyMap<string, number>): readonly Piece[] | null {
  const isConstant = (tree: Tree): boolean => !namesIn(tree).includes('t');
  const read = (tree: Tree): readonly Piece[] | null => {
    if (isConstant(tree)) return constant(signalAt({ tree: tree, numbers }, 0));
    switch (tree.kind) {
      case 'name':
        return [{ at: 0, terms: [{ coefficient: complex(1), power: 1, exponent: zero }] }];
      case 'negative':
        return multiplied(constant(-1), read(tree.of));
      case 'sum':
        return added(read(tree.left), read(tree.right));
      case 'difference':
        return added(read(tree.left), multiplied(constant(-1), read(tree.right)));
      case 'product':
        return multiplied(read(tree.left), read(tree.right));
      case 'quotient':
        return isConstant(tree.right)
          ? multiplied(read(tree.left), constant(1 / signalAt({ tree: tree.right, numbers }, 0)))
          : null;
      case 'power':
        return isConstant(tree.exponent)
          ? raised(read(tree.base), signalAt({ tree: tree.exponent, numbers }, 0))
          : null;
      case 'exponential': {
        const line = lineOf(read(tree.exponent));
        return line && exponentials([[complex(Math.exp(line.level)), complex(line.slope)]]);
      }
      case 'call':
        return called(tree, read);
      default:
        return null;
    }
  };
  const pieces = read(tree);
  const isFinite = pieces?.every(({ terms }) => terms.every(({ coefficient: { re, im } }) => Number.isFinite(re + im)));
  return pieces && isFinite ? pieces : null;
}

function called(
  of: Extract<Tree, { kind: 'call' }>,
  read: (tree: Tree) => readonly Piece[] | null,
): readonly Piece[] | null {
  if (of.name === 'step') argumentOf(of);
  const line = lineOf(of.of.length === 1 ? read(of.of[0]!) : null);
  if (!line) return null;
  const { level, slope } = line;
  if (of.name === 'step') {
    if (slope === 0) return constant(Number(level >= 0));
    const at = -level / slope;
    if (at <= 0) return constant(Number(slope > 0));
    const on: Piece[] = [{ at, terms: [{ coefficient: complex(1), power: 0, exponent: zero }] }];
    return slope > 0 ? on : added(constant(1), multiplied(constant(-1), on));
  }
  if (of.name !== 'sin' && of.name !== 'cos') return null;
  const turn = complex(Math.cos(level) / 2, Math.sin(level) / 2);
  const first = of.name === 'cos' ? turn : times(turn, complex(0, -1));
  return exponentials([
    [first, complex(0, slope)],
    [complex(first.re, -first.im), complex(0, -slope)],
  ]);
}

const exponentials = (all: readonly (readonly [coefficient: Complex, exponent: Complex])[]): Piece[] => [
  { at: 0, terms: all.map(([coefficient, exponent]) => ({ coefficient, power: 0, exponent })) },
];

/** level + slope·t, where that is all there is. */
function lineOf(pieces: readonly Piece[] | null): { level: number; slope: number } | null {
  if (!pieces) return null;
  let [level, slope] = [0, 0];
  for (const { at, terms } of pieces) {
    for (const { coefficient, power, exponent } of terms) {
      if (at !== 0 || power > 1 || exponent.re !== 0 || exponent.im !== 0) return null;
      if (power === 0) level += coefficient.re;
      else slope += coefficient.re;
    }
  }
  return { level, slope };
}

function added(one: readonly Piece[] | null, other: readonly Piece[] | null): readonly Piece[] | null {
  if (!one || !other) return null;
  const all = new Map<number, Term[]>();
  for (const { at, terms } of [...one, ...other]) all.set(at, collected([...(all.get(at) ?? []), ...terms]));
  return limited([...all].map(([at, terms]) => ({ at, terms })));
}

function multiplied(one: readonly Piece[] | null, other: readonly Piece[] | null): readonly Piece[] | null {
  if (!one || !other) return null;
  return one.reduce<readonly Piece[] | null>(
    (sum, a) =>
      other.reduce<readonly Piece[] | null>((inner, b) => {
        const at = Math.max(a.at, b.at);
        const [left, right] = [later(a, at), later(b, at)];
        const terms = left.flatMap((x) =>
          right.map((y) => ({
            coefficient: times(x.coefficient, y.coefficient),
            power: x.power + y.power,
            exponent: plus(x.exponent, y.exponent),
          })),
        );
        return terms.some(({ power }) => power > highestPower) ? null : added(inner, [{ at, terms: collected(terms) }]);
      }, sum),
    [],
  );
}

/** The terms of a piece with their time counted from a later moment. */
function later({ at, terms }: Piece, from: number): readonly Term[] {
  const d = from - at;
  if (d === 0) return terms;
  return terms.flatMap(({ coefficient, power, exponent }) => {
    const size = Math.exp(exponent.re * d);
    const moved = times(coefficient, complex(size * Math.cos(exponent.im * d), size * Math.sin(exponent.im * d)));
    // (t + d)^n by the binomial theorem.
    let binomial = 1;
    return Array.from({ length: power + 1 }, (_, k) => {
      const factor = binomial * d ** k;
      binomial = (binomial * (power - k)) / (k + 1);
      return { coefficient: times(moved, complex(factor)), power: power - k, exponent };
    });
  });
}

function raised(base: readonly Piece[] | null, exponent: number): readonly Piece[] | null {
  if (!base || !Number.isInteger(exponent) || exponent < 0 || exponent > highestPower) return null;
  let power: readonly Piece[] | null = constant(1);
  for (let k = 0; k < exponent; k++) power = multiplied(power, base);
  return power;
}

/** Terms of the same kind as one. */
function collected(terms: readonly Term[]): Term[] {
  const all = new Map<string, Term>();
  for (const term of terms) {
    const key = `${term.power} ${term.exponent.re} ${term.exponent.im}`;
    const before = all.get(key);
    all.set(key, before ? { ...term, coefficient: plus(before.coefficient, term.coefficient) } : term);
  }
  return [...all.values()].filter(({ coefficient: { re, im } }) => re !== 0 || im !== 0);
}

const limited = (pieces: readonly Piece[]): readonly Piece[] | null =>
  pieces.reduce((count, { terms }) => count + terms.length, 0) > mostTerms ? null : pieces;
