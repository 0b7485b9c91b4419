import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';
import type { Tree } from '../expression/tree.js';
import { type Rational, rationalFromDecimal } from './number.js';

/**
 * What an expression can be worked out to: fractions in s, fractions in several symbols, sums of signals. `at` is the
 * position in the text, for what an operation refuses.
 */
export interface Algebra<Value> {
  constant(value: Rational): Value;
  name(name: string, at: number): Value;
  exponential(exponent: Tree, at: number): Value;
  add(left: Value, right: Value, at: number): Value;
  negate(operand: Value): Value;
  multiply(left: Value, right: Value, at: number): Value;
  /**
   * left/right; refuses zero. Poles that both have are those of one system that stands in both, as in G/(1 + G·H): they
   * are in the quotient neither twice nor as hidden modes.
   */
  divide(left: Value, right: Value, at: number): Value;
  /** 1/of; refuses zero. */
  invert(operand: Value, at: number): Value;
  power(base: Value, exponent: number, at: number): Value;
  /** The value as a number, when it is one. */
  number(operand: Value): Rational | null;
}

/** The value of an expression. @throws Problem as the algebra does, and `exponent` for a power that is no small whole number. */
export function evaluate<Value>(tree: Tree, algebra: Algebra<Value>): Value {
  const value = (tree: Tree): Value => evaluate(tree, algebra);
  switch (tree.kind) {
    case 'number':
      return algebra.constant(rationalFromDecimal(tree.text));
    case 'name':
      return algebra.name(tree.name, tree.at);
    case 'exponential':
      return algebra.exponential(tree.exponent, tree.at);
    case 'call':
      throw new Problem('unknownName', `${tree.name}(…) is a function of formulas; it cannot be used here.`, tree.at);
    case 'negative':
      return algebra.negate(value(tree.of));
    case 'sum':
      return algebra.add(value(tree.left), value(tree.right), tree.at);
    case 'difference':
      return algebra.add(value(tree.left), algebra.negate(value(tree.right)), tree.at);
    case 'product':
      return algebra.multiply(value(tree.left), value(tree.right), tree.at);
    case 'quotient':
      return algebra.divide(value(tree.left), value(tree.right), tree.at);
    case 'power': {
      const exponent = wholeExponent(algebra.number(value(tree.exponent)), tree.exponent.at);
      const base = value(tree.base);
      const raised = algebra.power(base, Math.abs(exponent), tree.at);
      return exponent < 0 ? algebra.invert(raised, tree.at) : raised;
    }
  }
}

function wholeExponent(value: Rational | null, at: number): number {
  if (value?.denominator !== 1n) {
    throw new Problem('exponent', 'A power must be a whole number, such as s^2.', at);
  }
  if (value.numerator > BigInt(limits.exponent) || value.numerator < -BigInt(limits.exponent)) {
    throw new Problem('exponent', `Powers go from −${limits.exponent} to ${limits.exponent}.`, at);
  }
  return Number(value.numerator);
}

/** @throws Problem `unknownName`, with a hint at what may have been meant. */
export function unknownName(name: string, at: number, names: Iterable<string>): Problem {
  const known = ['s', ...names];
  const pieces = known.includes(name) ? null : piecesOf(name, known);
  const hint = pieces
    ? ` For a product write ${pieces.join('*')}.`
    : name.toLowerCase() === 's'
      ? ' The variable is a small s.'
      : '';
  return new Problem('unknownName', `“${name}” is not known here; known: ${known.join(', ')}.${hint}`, at);
}

/** Known names that a name is put together from; null when it is not. */
function piecesOf(name: string, known: readonly string[]): string[] | null {
  if (name === '') return [];
  for (const start of [...known].sort((a, b) => b.length - a.length)) {
    if (start === '' || !name.startsWith(start)) continue;
    const rest = piecesOf(name.slice(start.length), known);
    if (rest) return [start, ...rest];
  }
  return null;
}
