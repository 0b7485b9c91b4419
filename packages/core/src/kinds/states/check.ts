import { compareTransfers } from '../../checking/compare.js';
import type { Model } from '../../checking/model.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { formatNumber } from '../../checking/words.js';
import { decimalText } from '../../exercise/draw.js';
import type { Answer } from '../../exercise/parts.js';
import { withKnownLetters } from '../../expression/letters.js';
import { limits } from '../../expression/limits.js';
import { parseTyped } from '../../expression/parse.js';
import { Problem } from '../../expression/problem.js';
import { exactNumberFrom, type Scope, systemFrom } from '../../formula/evaluate.js';
import { type Fraction, lowestTerms } from '../../rational/fraction.js';
import type { Matrix } from '../../rational/matrix.js';
import { type Rational, rationalToNumber } from '../../rational/number.js';
import { coefficient, degree } from '../../rational/polynomial.js';
import { magnitude } from '../../system/complex.js';
import { roots } from '../../system/roots.js';
import { controllableForm, fittingStates, onlyFractionOf, type StateSpace } from '../../system/stateSpace.js';
import { asDelayedFraction, delayed } from '../../system/transfer.js';
import type { Checking } from '../kind.js';
import type { StatesPart } from './part.js';

type States = Extract<Answer, { kind: 'states' }>;
const names = ['a', 'b', 'c', 'd'] as const;
type Name = (typeof names)[number];

/** Rows on lines or between semicolons, entries between commas or blanks. */
function entriesOf(text: string, name: string): string[][] {
  const rows = text
    .split(/[;\n]/)
    .map((row) => row.trim())
    .filter(Boolean)
    .map((row) => row.split(/[\s,]/).filter(Boolean));
  if (rows.length === 0) throw new Problem('empty', `${name.toUpperCase()} is empty.`);
  return rows;
}

/** Matrices as they were typed, their entries exact; they may use the student's numbers. */
interface Typed {
  readonly texts: Readonly<Record<Name, string[][]>>;
  readonly space: StateSpace;
  /** Every mode kept. */
  readonly fraction: Fraction;
}

function typedStates({ asSymbols }: Model, answer: States): Typed {
  const texts = Object.fromEntries(names.map((name) => [name, entriesOf(answer[name], name)])) as Typed['texts'];
  if (texts.a.length > limits.states) {
    throw new Problem('matrix', `A has ${texts.a.length} rows; at most ${limits.states} states are taken.`);
  }
  const letters = [...asSymbols.names.keys()];
  const exact = (name: Name): Matrix =>
    texts[name].map((row) =>
      row.map((entry) => exactNumberFrom(withKnownLetters(parseTyped(entry), letters), asSymbols)),
    );
  const space = fittingStates({ a: exact('a'), b: exact('b'), c: exact('c'), d: exact('d') });
  return { texts, space, fraction: onlyFractionOf(space) };
}

/** Matrices of the system, as they could be typed. @throws Problem for dead time and for more zeros than poles. */
export function rightStates(part: StatesPart, { scope }: Model): States {
  const form = formOf(part, scope);
  const text = (rows: Matrix): string => rows.map((row) => row.map(entryText).join(' ')).join('\n');
  return { kind: 'states', a: text(form.a), b: text(form.b), c: text(form.c), d: text(form.d) };
}

/** A decimal, or a fraction where no decimal is exact. */
function entryText(value: Rational): string {
  let rest = value.denominator;
  for (const prime of [2n, 5n]) while (rest % prime === 0n) rest /= prime;
  return rest === 1n ? decimalText(value) : `${value.numerator}/${value.denominator}`;
}

/** @throws Problem for dead time and for more zeros than poles. */
export function formOf(part: StatesPart, scope: Scope): StateSpace {
  const fraction = expectedFraction(part, scope);
  if (degree(fraction.numerator) > degree(fraction.denominator)) {
    throw new Problem('improper', 'More zeros than poles: there is no state-space form.');
  }
  return controllableForm(fraction);
}

/** In lowest terms with a monic denominator. */
export function expectedFraction({ expected }: StatesPart, scope: Scope): Fraction {
  const { fraction, deadTime } = asDelayedFraction(systemFrom(expected, scope), 'State matrices');
  if (deadTime !== 0) throw new Problem('deadTime', 'A system with dead time has no state matrices.');
  return lowestTerms(fraction);
}

/**
 * Whether matrices with as few states as the system needs describe it, each coefficient within the tolerance. Entries
 * are rounded when they are written down, which moves coefficients that should be zero, and others more than themselves:
 * what that can explain counts as well, up to three times the tolerance of what is usual for a coefficient of that power.
 * Method: first-order sensitivities.
 */
function isSameWithin(typed: Typed, expected: Fraction, tolerance: number): boolean {
  const order = typed.space.a.length;
  const want = coefficientsTo(order, expected);
  const got = coefficientsTo(order, typed.fraction);
  const off = got.map((value, k) => Math.abs(value - want[k]!));
  const isNear = (k: number): boolean => off[k]! <= tolerance * Math.abs(want[k]!) * (1 + 1e-9);
  if (off.every((_, k) => isNear(k))) return true;
  const rounding = roundingOf(typed, tolerance);
  const usual = usualSizes(order, expected);
  return off.every((beyond, k) => isNear(k) || beyond <= Math.min(rounding[k]!, 3 * tolerance * usual[k]!));
}

/** How large each coefficient is for a system with these poles, and with a numerator of this size at their frequency. */
function usualSizes(order: number, { numerator, denominator }: Fraction): number[] {
  const sizes = roots(denominator).flatMap((root) => new Array<number>(root.multiplicity).fill(magnitude(root)));
  const below = sizes.reduce<number[]>(
    (falling, size) => [...falling, 0].map((c, k) => c + (k > 0 ? size * falling[k - 1]! : 0)),
    [1],
  );
  const pace = order === 0 ? 1 : (below[order]! || 1) ** (1 / order);
  const at = Array.from(
    { length: order + 1 },
    (_, power) => Math.abs(rationalToNumber(coefficient(numerator, power))) * pace ** power,
  );
  const above = Array.from({ length: order + 1 }, (_, k) => Math.max(...at) / pace ** (order - k));
  return [...above, ...below];
}

/** Numerator, then denominator, both from the highest power that there may be, for a monic denominator of that order. */
function coefficientsTo(order: number, { numerator, denominator }: Fraction): number[] {
  const lead = rationalToNumber(coefficient(denominator, order));
  const falling = (p: Fraction['numerator']): number[] =>
    Array.from({ length: order + 1 }, (_, k) => rationalToNumber(coefficient(p, order - k)) / lead);
  return [...falling(numerator), ...falling(denominator)];
}

/** By how much the rounding of all entries together usually moves each coefficient, at most. */
function roundingOf({ texts, space }: Typed, tolerance: number): number[] {
  const numbers = Object.fromEntries(
    names.map((name) => [name, space[name].map((row) => row.map(rationalToNumber))]),
  ) as Record<Name, number[][]>;
  const digits = digitsOf(texts);
  const middle = coefficientsOfNumbers(numbers);
  const together = middle.map(() => 0);
  const squares = middle.map(() => 0);
  for (const name of names) {
    texts[name].forEach((row, i) =>
      row.forEach((text, j) => {
        const value = numbers[name][i]![j]!;
        const uncertain = Math.min(halfOfLastDigit(text, value, digits), tolerance * Math.abs(value));
        if (uncertain === 0) return;
        numbers[name][i]![j] = value + uncertain;
        coefficientsOfNumbers(numbers).forEach((moved, k) => {
          together[k]! += Math.abs(moved - middle[k]!);
          squares[k]! += (moved - middle[k]!) ** 2;
        });
        numbers[name][i]![j] = value;
      }),
    );
  }
  // Many roundings hardly ever all push the same way.
  return together.map((sum, k) => Math.min(sum, 2 * Math.sqrt(squares[k]!)));
}

const decimal = /^[+−-]?(\d*)\.(\d+)(?:e[+-]?\d+)?$/i;

/** Significant digits of the most precise decimal of all entries; none when all are whole numbers and fractions. */
function digitsOf(texts: Typed['texts']): number | undefined {
  const counts = names
    .flatMap((name) => texts[name].flat())
    .flatMap((text) => {
      const match = decimal.exec(text);
      return match ? [`${match[1]}${match[2]}`.replace(/^0+/, '').length] : [];
    });
  return counts.length === 0 ? undefined : Math.max(...counts);
}

/** Half a unit of the last digit, for as many digits as the others have; 0 for what is exact. */
function halfOfLastDigit(text: string, value: number, digits: number | undefined): number {
  if (digits === undefined || value === 0 || !(decimal.test(text) || /^[+−-]?\d+$/.test(text))) return 0;
  return 0.5 * 10 ** (Math.floor(Math.log10(Math.abs(value))) + 1 - digits);
}

/** The coefficients of c·adj(sI − a)·b + d·det(sI − a) and det(sI − a). Method: Faddeev and LeVerrier. */
function coefficientsOfNumbers({ a, b, c, d }: Record<Name, number[][]>): number[] {
  const n = a.length;
  const direct = d[0]![0]!;
  const below = [1];
  const above = [direct];
  let adjugate: number[][] = a.map((row, i) => row.map((_, j) => Number(i === j)));
  for (let k = 1; k <= n; k++) {
    let through = 0;
    for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) through += c[0]![i]! * adjugate[i]![j]! * b[j]![0]!;
    const product = a.map((row) => row.map((_, j) => row.reduce((sum, value, m) => sum + value * adjugate[m]![j]!, 0)));
    const next = -product.reduce((sum, row, i) => sum + row[i]!, 0) / k;
    below.push(next);
    above.push(through + direct * next);
    adjugate = product.map((row, i) => row.map((value, j) => value + (i === j ? next : 0)));
  }
  return [...above, ...below];
}

/** Matrices in one line: JSON, which `matricesIn` reads; entries that are no decimals stay texts. */
export function statesToText(answer: States): string {
  const entry = (text: string): number | string => (/^-?\d+(\.\d+)?$/.test(text) ? Number(text) : text);
  const rows = (name: Name) => entriesOf(answer[name], name).map((row) => row.map(entry));
  return JSON.stringify({ a: rows('a'), b: rows('b'), c: rows('c'), d: rows('d') });
}

/** Matrices as JSON, `{"a": [[0, 1], [-5, -2]], …}`, written as they are typed: rows one a line. */
function matricesIn(text: string): Record<'a' | 'b' | 'c' | 'd', string> {
  const refuse = (): never => {
    throw new Problem('exercise', 'The matrices are no JSON with the rows of a, b, c and d.');
  };
  let parsed: Record<string, unknown>;
  try {
    parsed = JSON.parse(text) as Record<string, unknown>;
  } catch {
    return refuse();
  }
  const written = (name: string): string => {
    const rows = parsed[name];
    const isMatrix =
      Array.isArray(rows) &&
      rows.length > 0 &&
      rows.every((row) => Array.isArray(row) && row.every((entry) => ['number', 'string'].includes(typeof entry)));
    return isMatrix ? (rows as (number | string)[][]).map((row) => row.join(' ')).join('\n') : refuse();
  };
  return { a: written('a'), b: written('b'), c: written('c'), d: written('d') };
}

export const checking: Checking<'states'> = {
  fromText(_part, text) {
    if (text.trim().startsWith('{')) return { kind: 'states', ...matricesIn(text) };
    const pieces = text.split('|').map((piece) => piece.trim());
    if (pieces.length !== 4) throw new Problem('exercise', 'A, B, C and D are asked for, as JSON or separated by |.');
    const [a, b, c, d] = pieces as [string, string, string, string];
    return { kind: 'states', a, b, c, d };
  },
  read(_part, model, answer) {
    typedStates(model, answer);
  },
  check(part, model, answer) {
    const typed = typedStates(model, answer);
    const order = typed.space.a.length;
    const expected = expectedFraction(part, model.scope);
    const least = degree(expected.denominator);
    const tolerance = part.tolerancePercent / 100;
    const met = order === least && isSameWithin(typed, expected, tolerance);
    const same =
      met ||
      (order > least &&
        compareTransfers(delayed(typed.fraction), delayed(expected), tolerance).differences.length === 0);
    const words = met
      ? 'These matrices describe the system.'
      : same
        ? `They lead to the right transfer function, but with ${order} states; ${least} are enough.`
        : differenceWords(typed, expected, tolerance);
    const item = {
      id: part.id,
      label: 'State matrices',
      unit: '',
      measured: null,
      limit: null,
      relation: 'equal' as const,
    };
    return verdictOf([{ ...item, met, close: false, points: met ? part.points : 0, outOf: part.points, words }], words);
  },
  solution(part, { scope }) {
    const form = formOf(part, scope);
    return names.map((name) => `${name.toUpperCase()}=${matrixLatex(form[name])}`).join(',\\ ');
  },
};

/** In which respect wrong matrices differ: number of states, poles, gain, or the numerator. */
function differenceWords({ space, fraction }: Typed, expected: Fraction, tolerance: number): string {
  const [order, least] = [space.a.length, degree(expected.denominator)];
  if (order < least) {
    return `With ${order === 1 ? 'one state' : `${order} states`} there are as many poles; the system has ${least}.`;
  }
  const one = { integers: [1n], denominator: 1n };
  const samePoles =
    compareTransfers(
      delayed({ numerator: one, denominator: lowestTerms(fraction).denominator }),
      delayed({ numerator: one, denominator: expected.denominator }),
      tolerance,
    ).differences.length === 0;
  if (!samePoles) return 'The poles of the system are not those of A: its characteristic polynomial differs.';
  const { onlyGain } = compareTransfers(delayed(fraction), delayed(expected), tolerance);
  return onlyGain
    ? 'The poles are right, and all but a constant factor of B and C.'
    : 'The poles are right, so A can stay; B, C or D lead to another numerator.';
}

const matrixLatex = (rows: Matrix): string =>
  `\\begin{bmatrix}${rows.map((row) => row.map((value) => formatNumber(rationalToNumber(value))).join('&')).join('\\\\')}\\end{bmatrix}`;
