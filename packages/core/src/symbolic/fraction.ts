import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';
import { childrenOf, type Tree } from '../expression/tree.js';
import { type Algebra, evaluate } from '../rational/evaluate.js';
import { greatestCommonDivisor } from '../rational/integer.js';
import { divideRational, type Rational, rational } from '../rational/number.js';
import {
  coefficientsIn,
  commonDivisor,
  contentOf,
  degreeIn,
  exactQuotient,
  isNothing,
  isSame,
  leadingCoefficient,
  powerOf,
  product,
  Ring,
  scaled,
  sum,
  type SymbolicPolynomial,
  symbolPower,
  whole,
  wholeValue,
} from './polynomial.js';

/**
 * A fraction of polynomials in s, symbols and dead times, exact. Common factors that were written down stay, because
 * they are modes that a loop can hide; `inLowestTerms` takes them out.
 */
export interface SymbolicFraction {
  readonly numerator: SymbolicPolynomial;
  readonly denominator: SymbolicPolynomial;
}

/** What names stand for: expressions, which may contain further names. */
export type Definitions = ReadonlyMap<string, Tree>;

/**
 * Dead times as symbols: exp(−T·s) with T = Σ count · unit · factor, one symbol for each factor ('' for plain seconds,
 * otherwise a product of parameters such as `T1`). Its name in the ring is `exp(-unit*factor*s)`.
 */
export interface DeadTime {
  readonly name: string;
  readonly factor: string;
  readonly unit: Rational;
}

/** Everything that expressions of one question have in common. */
export interface Field {
  readonly ring: Ring;
  readonly deadTimes: readonly DeadTime[];
  readonly algebra: Algebra<SymbolicFraction>;
}

/** Whether two fractions of one ring are the same function, whatever their symbols stand for. */
export function isSameSymbolic(left: SymbolicFraction, right: SymbolicFraction): boolean {
  return isSame(product(left.numerator, right.denominator), product(right.numerator, left.denominator));
}

/** Without common factors, the sign below the line as people would write it. */
export function inLowestTerms({ numerator, denominator }: SymbolicFraction): SymbolicFraction {
  if (isNothing(numerator)) return { numerator, denominator: whole(numerator.ring, 1n) };
  const shared = commonDivisor(numerator, denominator);
  const above = exactQuotient(numerator, shared)!;
  const below = exactQuotient(denominator, shared)!;
  return withoutContent({ numerator: above, denominator: below });
}

function withoutContent({ numerator, denominator }: SymbolicFraction): SymbolicFraction {
  const common = greatestCommonDivisor(contentOf(numerator), contentOf(denominator));
  const sign = signOf(denominator);
  if (common * sign === 1n || common === 0n) return { numerator, denominator };
  const divided = (p: SymbolicPolynomial): SymbolicPolynomial => ({
    ring: p.ring,
    terms: new Map([...p.terms].map(([key, c]) => [key, (c * sign) / common])),
  });
  return { numerator: divided(numerator), denominator: divided(denominator) };
}

/** −1 when most terms are negative; among equals 1 − G is preferred to G − 1, and s − a to a − s. */
function signOf(p: SymbolicPolynomial): bigint {
  let balance = 0;
  let [last, lastSign] = ['', 1n];
  for (const [key, c] of p.terms) {
    balance += c < 0n ? -1 : 1;
    if (last === '' || key < last) [last, lastSign] = [key, c < 0n ? -1n : 1n];
  }
  if (balance !== 0) return balance < 0 ? -1n : 1n;
  return degreeIn(p, 0) > 0 ? (leadingCoefficient(p) < 0n ? -1n : 1n) : lastSign;
}

/** Expressions with what their names stand for; names of signals are left out of the ring. */
export interface Expressions {
  readonly trees: readonly Tree[];
  readonly definitions: Definitions;
  readonly signals?: ReadonlySet<string>;
}

/** The field of one group of expressions. @throws Problem as `fieldsFor`. */
export function fieldFor(trees: readonly Tree[], definitions: Definitions, work: number = limits.work): Field {
  return fieldsFor([{ trees, definitions }], work)[0]!;
}

/**
 * The ring in which all groups of expressions can be worked out, with a field for each: s, every unbound name, and a
 * symbol for each kind of dead time whose unit divides all that occur.
 * @throws Problem `deadTime` for a dead time that is not a positive factor times s; `equation` for names that stand for themselves.
 */
export function fieldsFor(groups: readonly Expressions[], work: number = limits.work): Field[] {
  const used = groups.map(namesAndExponents);
  const symbols = ['s', ...[...new Set(used.flatMap(({ names }) => [...names]))].sort()];
  const plain = new Ring(symbols, work);
  const deadTimes: DeadTime[] = [];
  groups.forEach(({ definitions }, k) => {
    const algebra = algebraOf(plain, [], definitions);
    for (const { tree, at } of used[k]!.exponents) {
      for (const [factor, amount] of deadTimeParts(evaluate(tree, algebra), at))
        addDeadTime(deadTimes, factor, amount, at);
    }
  });
  const ring = new Ring([...symbols, ...deadTimes.map(({ name }) => name)], work);
  return groups.map(({ definitions }) => ({ ring, deadTimes, algebra: algebraOf(ring, deadTimes, definitions) }));
}

const mostCounts = 1000n;
const mostKinds = 8;

/** Makes a unit of the list fit one more amount of dead time, or adds a unit for it. */
function addDeadTime(deadTimes: DeadTime[], factor: string, amount: Rational, at: number): void {
  const name = (unit: Rational): DeadTime => ({ name: deadTimeName(factor, unit), factor, unit });
  for (let k = 0; k < deadTimes.length; k++) {
    if (deadTimes[k]!.factor !== factor) continue;
    const old = deadTimes[k]!.unit;
    const unit = commonUnit(old, amount);
    // Everything counted so far stays within bounds when its unit shrinks by no more than this.
    if (divideRational(amount, unit).numerator > mostCounts || divideRational(old, unit).numerator > 30n) continue;
    deadTimes[k] = name(unit);
    return;
  }
  if (deadTimes.length >= mostKinds) {
    throw new Problem('deadTime', `At most ${mostKinds} dead times without a common unit are worked out.`, at);
  }
  deadTimes.push(name(amount));
}

/** Unbound names and the exponents of all exponentials, definitions included. */
function namesAndExponents({ trees, definitions, signals = new Set() }: Expressions): {
  names: Set<string>;
  exponents: { tree: Tree; at: number }[];
} {
  const names = new Set<string>();
  const exponents: { tree: Tree; at: number }[] = [];
  const open = new Set<string>();
  const seen = new Set<string>();
  const visit = (tree: Tree): void => {
    switch (tree.kind) {
      case 'name': {
        const meaning = definitions.get(tree.name);
        if (!meaning) {
          if (tree.name !== 's' && !signals.has(tree.name)) names.add(tree.name);
        } else if (open.has(tree.name)) {
          throw new Problem('equation', `${tree.name} is defined by itself.`, tree.at);
        } else if (!seen.has(tree.name)) {
          open.add(tree.name);
          visit(meaning);
          open.delete(tree.name);
          seen.add(tree.name);
        }
        return;
      }
      case 'exponential':
        exponents.push({ tree: tree.exponent, at: tree.at });
        return visit(tree.exponent);
      default:
        childrenOf(tree).forEach(visit);
    }
  };
  trees.forEach(visit);
  return { names, exponents };
}

function deadTimeName(factor: string, unit: Rational): string {
  const amount = unit.denominator === 1n ? `${unit.numerator}` : `${unit.numerator}/${unit.denominator}`;
  return `exp(-${[amount === '1' ? '' : amount, factor, 's'].filter(Boolean).join('*')})`;
}

const commonUnit = (a: Rational, b: Rational): Rational =>
  rational(
    greatestCommonDivisor(a.numerator * b.denominator, b.numerator * a.denominator),
    a.denominator * b.denominator,
  );

/** exp(exponent) as amounts of dead time by factor; zero dead time gives none. */
function deadTimeParts(exponent: SymbolicFraction, at: number): Map<string, Rational> {
  const { numerator, denominator } = inLowestTerms(exponent);
  const below = wholeValue(denominator);
  const refused = new Problem(
    'deadTime',
    'A dead time is typed as exp(-T*s): a minus sign, a number or parameters, and s.',
    at,
  );
  if (below === null) throw refused;
  if (isNothing(numerator)) return new Map();
  const [constant, linear, ...higher] = coefficientsIn(numerator, 0);
  if (!constant || !isNothing(constant) || !linear || higher.length > 0) throw refused;
  const parts = new Map<string, Rational>();
  for (const [key, c] of linear.terms) {
    if (c > 0n) throw new Problem('deadTime', 'This would look ahead in time: a dead time is exp(-T*s).', at);
    const factor = numerator.ring.symbols
      .flatMap((name, k) => (key.charCodeAt(k) > 0 ? Array<string>(key.charCodeAt(k)).fill(name) : []))
      .join('*');
    parts.set(factor, rational(-c, below));
  }
  return parts;
}

function algebraOf(ring: Ring, deadTimes: readonly DeadTime[], definitions: Definitions): Algebra<SymbolicFraction> {
  const one = whole(ring, 1n);
  const known = new Map<string, SymbolicFraction>();
  const algebra: Algebra<SymbolicFraction> = {
    constant: ({ numerator, denominator }) => ({
      numerator: whole(ring, numerator),
      denominator: whole(ring, denominator),
    }),
    name(name) {
      const before = known.get(name);
      if (before) return before;
      const meaning = definitions.get(name);
      const value = meaning
        ? evaluate(meaning, algebra)
        : { numerator: symbolPower(ring, ring.symbols.indexOf(name)), denominator: one };
      known.set(name, value);
      return value;
    },
    exponential(exponent, at) {
      let numerator = one;
      for (const [factor, amount] of deadTimeParts(evaluate(exponent, algebra), at)) {
        // Without a dead time in the ring the exponent is only being looked at.
        const kind = deadTimes.find((d) => d.factor === factor && divideRational(amount, d.unit).denominator === 1n);
        if (!kind) continue;
        const count = divideRational(amount, kind.unit);
        if (count.numerator > 60_000n) throw new Problem('deadTime', 'This dead time is too long for its unit.', at);
        const symbol = ring.symbols.indexOf(kind.name);
        numerator = product(numerator, symbolPower(ring, symbol, Number(count.numerator)));
      }
      return { numerator, denominator: one };
    },
    add: (left, right) => addSymbolic(left, right),
    negate: ({ numerator, denominator }) => ({ numerator: scaled(numerator, -1n), denominator }),
    multiply: (left, right, at) => checked(multiplySymbolic(left, right), at),
    divide(left, right, at) {
      if (wholeValue(left.denominator) !== null || wholeValue(right.denominator) !== null) {
        return algebra.multiply(left, algebra.invert(right, at), at);
      }
      const { ofLeft, ofRight } = toCommonDenominator(left.denominator, right.denominator);
      const inverse = algebra.invert({ numerator: right.numerator, denominator: ofLeft }, at);
      return algebra.multiply({ numerator: left.numerator, denominator: ofRight }, inverse, at);
    },
    invert(fraction, at) {
      if (isNothing(fraction.numerator)) {
        throw new Problem('divisionByZero', 'What stands below this line is zero.', at);
      }
      return { numerator: fraction.denominator, denominator: fraction.numerator };
    },
    power({ numerator, denominator }, exponent, at) {
      const degree = Math.max(degreeIn(numerator, 0), degreeIn(denominator, 0));
      if (degree * exponent > limits.degree) throw tooHigh(at);
      return { numerator: powerOf(numerator, exponent), denominator: powerOf(denominator, exponent) };
    },
    number(fraction) {
      const { numerator, denominator } = inLowestTerms(fraction);
      const [above, below] = [wholeValue(numerator), wholeValue(denominator)];
      return above === null || below === null ? null : rational(above, below);
    },
  };
  return algebra;
}

function checked(fraction: SymbolicFraction, at: number): SymbolicFraction {
  if (Math.max(degreeIn(fraction.numerator, 0), degreeIn(fraction.denominator, 0)) > limits.degree) throw tooHigh(at);
  return fraction;
}

function tooHigh(at: number): Problem {
  return new Problem('degree', `The highest power of s that is worked out is ${limits.degree}.`, at);
}

/** Sum over the least common denominator; adding zero adds no mode. */
export function addSymbolic(left: SymbolicFraction, right: SymbolicFraction): SymbolicFraction {
  if (isNothing(left.numerator)) return right;
  if (isNothing(right.numerator)) return left;
  if (isSame(left.denominator, right.denominator)) {
    return { numerator: sum(left.numerator, right.numerator), denominator: left.denominator };
  }
  const { ofLeft, ofRight } = toCommonDenominator(left.denominator, right.denominator);
  return {
    numerator: sum(product(left.numerator, ofLeft), product(right.numerator, ofRight)),
    denominator: product(left.denominator, ofLeft),
  };
}

/** What each of two denominators is multiplied by to give the least common one. */
export function toCommonDenominator(
  left: SymbolicPolynomial,
  right: SymbolicPolynomial,
): { ofLeft: SymbolicPolynomial; ofRight: SymbolicPolynomial } {
  const shared = commonDivisor(left, right);
  let ofLeft = exactQuotient(right, shared)!;
  let ofRight = exactQuotient(left, shared)!;
  const common = greatestCommonDivisor(contentOf(ofLeft), contentOf(ofRight));
  if (common > 1n) {
    const divided = (p: SymbolicPolynomial): SymbolicPolynomial => exactQuotient(p, whole(p.ring, common))!;
    [ofLeft, ofRight] = [divided(ofLeft), divided(ofRight)];
  }
  return { ofLeft, ofRight };
}

/** Product with common factors kept, numbers excepted; a product with zero is plain zero. */
export function multiplySymbolic(left: SymbolicFraction, right: SymbolicFraction): SymbolicFraction {
  const { ring } = left.numerator;
  if (isNothing(left.numerator) || isNothing(right.numerator)) {
    return { numerator: whole(ring, 0n), denominator: whole(ring, 1n) };
  }
  return withoutContent({
    numerator: product(left.numerator, right.numerator),
    denominator: product(left.denominator, right.denominator),
  });
}
