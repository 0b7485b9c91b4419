import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import type { Tree } from '../expression/tree.js';
import {
  type Rational,
  rational,
  rationalFromDecimal,
  rationalFromNumber,
  rationalToNumber,
} from '../rational/number.js';
import type { Transfer } from '../system/transfer.js';
import { constantOf, constantTransfer, transferAlgebra, type Transfers } from '../system/transferAlgebra.js';
import type { Value } from './function.js';
import { functions } from './functions.js';

/** What the names of a formula stand for. */
export interface Scope {
  /** Parameters, as constants, and systems. */
  readonly names: Transfers;
  /** From one signal of a model to another, written `y/r`; undefined when these are no signals. */
  readonly between?: (from: string, to: string) => Transfer | undefined;
}

/** Names of functions, and those that they had before, which stored exercises still use. */
const functionNames: ReadonlyMap<string, string> = new Map([
  ...Object.keys(functions).map((name) => [name, name] as const),
  ['feedback', 'closed'],
  ['dcGain', 'gainAtRest'],
]);

/** Reads a formula: an expression with functions. @throws Problem with the position of the mistake. */
export const parseFormula = (text: string): Tree => parse(text, { functions: functionNames });

/** The transfer function that a formula stands for. @throws Problem as `parseFormula`, and when it cannot be worked out. */
export function systemFrom(formula: string | Tree, scope: Scope): Transfer {
  return asTransfer(valueOf(typeof formula === 'string' ? parseFormula(formula) : formula, scope));
}

/** The number that a formula stands for. @throws Problem also when it depends on s. */
export function numberFrom(formula: string | Tree, scope: Scope): number {
  const tree = typeof formula === 'string' ? parseFormula(formula) : formula;
  const value = asNumber(valueOf(tree, scope));
  if (value === null) throw new Problem('notANumber', 'This depends on s; a number is needed here.', tree.at);
  if (Number.isNaN(value)) throw new Problem('notANumber', 'This has no value for these numbers.', tree.at);
  return value;
}

/** The number that a formula stands for, exact where only exact numbers are combined. @throws Problem as `numberFrom`. */
export function exactNumberFrom(formula: string | Tree, scope: Scope): Rational {
  const value = valueOf(typeof formula === 'string' ? parseFormula(formula) : formula, scope);
  const exact = typeof value === 'number' ? null : constantOf(value);
  return exact ?? rationalFromNumber(numberFrom(formula, scope));
}

/** The value of a formula. Exact as long as only exact numbers and systems are combined. */
export function valueOf(tree: Tree, scope: Scope): Value {
  const algebra = transferAlgebra(scope.names);
  const value = (tree: Tree): Value => valueOf(tree, scope);
  switch (tree.kind) {
    case 'number':
      return constantTransfer(rationalFromDecimal(tree.text));
    case 'name':
      return tree.name === 'pi' && !scope.names.has('pi') ? Math.PI : algebra.name(tree.name, tree.at);
    case 'exponential': {
      const exponent = value(tree.exponent);
      const number = asNumber(exponent);
      return number === null ? algebra.exponential(tree.exponent, tree.at) : Math.exp(number);
    }
    case 'negative': {
      const operand = value(tree.of);
      return typeof operand === 'number' ? -operand : algebra.negate(operand);
    }
    case 'quotient': {
      const pair = between(tree.left, tree.right, scope);
      if (pair) return pair;
      return combine(tree, value(tree.left), value(tree.right), (a, b) => a / b);
    }
    case 'sum':
      return combine(tree, value(tree.left), value(tree.right), (a, b) => a + b);
    case 'difference':
      return combine(tree, value(tree.left), value(tree.right), (a, b) => a - b);
    case 'product':
      return combine(tree, value(tree.left), value(tree.right), (a, b) => a * b);
    case 'power': {
      const [base, exponent] = [value(tree.base), asNumber(value(tree.exponent))];
      if (exponent === null) throw new Problem('exponent', 'A power must be a number.', tree.exponent.at);
      if (typeof base !== 'number' && Number.isInteger(exponent) && Math.abs(exponent) <= 40) {
        const raised = algebra.power(base, Math.abs(exponent), tree.at);
        return exponent < 0 ? algebra.invert(raised, tree.at) : raised;
      }
      const number = asNumber(base);
      if (number === null) throw new Problem('exponent', 'Powers of a system are whole numbers.', tree.exponent.at);
      return number ** exponent;
    }
    case 'call':
      return call(tree, scope);
  }
}

type Call = Extract<Tree, { kind: 'call' }>;

function call(tree: Call, scope: Scope): Value {
  const definition = functions[tree.name]!;
  if (tree.of.length < definition.fewest || tree.of.length > definition.most) {
    throw new Problem('exercise', `${tree.name} is written ${definition.usage}.`, tree.at);
  }
  const values = tree.of.map((tree) => valueOf(tree, scope));
  const numbers = values.slice(definition.systems).map((value, k) => {
    const number = asNumber(value);
    if (number !== null) return number;
    throw new Problem('notANumber', 'This depends on s; a number is needed here.', tree.of[definition.systems + k]!.at);
  });
  try {
    return definition.value(values.slice(0, definition.systems).map(asTransfer), numbers);
  } catch (error) {
    if (error instanceof Problem && error.at === 0) throw new Problem(error.code, error.message, tree.at);
    throw error;
  }
}

/** `y/r` with two signals of the model. */
function between(to: Tree, from: Tree, { names, between: pairs }: Scope): Transfer | undefined {
  if (!pairs || to.kind !== 'name' || from.kind !== 'name') return undefined;
  if (names.has(to.name) || names.has(from.name)) return undefined;
  return pairs(from.name, to.name);
}

function combine(
  tree: Extract<Tree, { kind: 'sum' | 'difference' | 'product' | 'quotient' }>,
  left: Value,
  right: Value,
  rounded: (a: number, b: number) => number,
): Value {
  if (typeof left === 'number' || typeof right === 'number') {
    const [a, b] = [asNumber(left), asNumber(right)];
    if (a !== null && b !== null) return rounded(a, b);
  }
  const [a, b] = [asTransfer(left), asTransfer(right)];
  switch (tree.kind) {
    case 'sum':
      return algebraOfNone.add(a, b, tree.at);
    case 'difference':
      return algebraOfNone.add(a, algebraOfNone.negate(b), tree.at);
    case 'product':
      return algebraOfNone.multiply(a, b, tree.at);
    case 'quotient':
      return algebraOfNone.multiply(a, algebraOfNone.invert(b, tree.right.at), tree.at);
  }
}

const algebraOfNone = transferAlgebra(new Map());

const infinity = (): Problem => new Problem('notANumber', 'This is infinite; it cannot be part of a system.');

function asTransfer(value: Value): Transfer {
  if (typeof value !== 'number') return value;
  if (!Number.isFinite(value)) throw infinity();
  return constantTransfer(value === 0 ? rational(0n) : rationalFromNumber(value));
}

function asNumber(value: Value): number | null {
  if (typeof value === 'number') return value;
  const exact = constantOf(value);
  return exact && rationalToNumber(exact);
}
