import { knownLetter } from '../expression/letters.js';
import { parse } from '../expression/parse.js';
import { orElse, Problem } from '../expression/problem.js';
import { childrenOf, type Tree } from '../expression/tree.js';
import type { Scope } from '../formula/evaluate.js';
import { rationalToNumber } from '../rational/number.js';
import { constantOf, transferFrom } from '../system/transferAlgebra.js';

/** The exercise’s own letters, which a number may be written with; those that are no numbers are not known. */
export type NumberLetters = Scope['names'];

/** What numbers may be written with beside arithmetic; each by the names it goes by. */
const functions: Readonly<Record<string, (x: number) => number>> = {
  ...{ sqrt: Math.sqrt, ln: Math.log, log: Math.log10, lg: Math.log10, exp: Math.exp, abs: Math.abs },
  ...{ sin: Math.sin, cos: Math.cos, tan: Math.tan, atan: Math.atan, arctan: Math.atan },
  ...{ asin: Math.asin, arcsin: Math.asin, acos: Math.acos, arccos: Math.acos },
};
const named = new Map(Object.keys(functions).map((name) => [name, name]));
const constants: Readonly<Record<string, number>> = { pi: Math.PI, e: Math.E };

/**
 * The number that a student typed, its unit allowed behind it: an expression such as 1/8, √2, ln(50) or 2^(1/2), with
 * the exercise’s own letters, and a decimal comma. Another unit of the same kind is converted: 900 ms where s are asked.
 * @throws Problem with the position of the mistake.
 */
export function numberFromText(text: string, unit: string, letters: NumberLetters = new Map()): number {
  const { bare, factor } = withoutUnit(text, unit, letters);
  // Nothing but one number can be meant, so a comma between digits is a decimal one.
  const tree = parse(bare.replace(/(\d),(?=\d)/g, '$1.'), { functions: named });
  const value = isArithmetic(tree) ? exactly(tree) : valueOf(tree, letters);
  if (!Number.isFinite(value)) throw new Problem('notANumber', 'This is no number: it grows without end.', tree.at);
  return factor === 1 ? value : value * factor;
}

/** Whether only digits and signs are in it, so that it can be worked out exactly. */
function isArithmetic(tree: Tree): boolean {
  if (tree.kind === 'name' || tree.kind === 'call' || tree.kind === 'exponential') return false;
  if (tree.kind === 'power' && !(tree.exponent.kind === 'number' && /^\d+$/.test(tree.exponent.text))) return false;
  return childrenOf(tree).every(isArithmetic);
}

function exactly(tree: Tree): number {
  const exact = constantOf(transferFrom(tree, new Map()));
  if (!exact) throw new Problem('notANumber', 'A number is asked for, without s.', tree.at);
  return rationalToNumber(exact);
}

function valueOf(tree: Tree, letters: NumberLetters): number {
  const value = (tree: Tree): number => valueOf(tree, letters);
  switch (tree.kind) {
    case 'number':
      return Number(tree.text);
    case 'name':
      return nameOf(tree, letters);
    case 'negative':
      return -value(tree.of);
    case 'sum':
      return value(tree.left) + value(tree.right);
    case 'difference':
      return value(tree.left) - value(tree.right);
    case 'product':
      return value(tree.left) * value(tree.right);
    case 'quotient': {
      const below = value(tree.right);
      if (below === 0) throw new Problem('divisionByZero', 'This divides by zero.', tree.at);
      return value(tree.left) / below;
    }
    case 'power':
      return real(value(tree.base) ** value(tree.exponent), tree.at);
    case 'exponential':
      return Math.exp(value(tree.exponent));
    case 'call': {
      const [x] = tree.of;
      if (!x || tree.of.length > 1) throw new Problem('unexpectedCharacter', `${tree.name} takes one value.`, tree.at);
      return real(functions[tree.name]?.(value(x)) ?? NaN, tree.at);
    }
  }
}

function real(value: number, at: number): number {
  if (Number.isNaN(value)) throw new Problem('notANumber', 'This has no real value.', at);
  return value;
}

function nameOf({ name, at }: { name: string; at: number }, letters: NumberLetters): number {
  const meant = letters.get(knownLetter(name, letters.keys()));
  const exact = typeof meant === 'object' ? orElse(null, () => constantOf(meant)) : null;
  const constant = exact ? rationalToNumber(exact) : constants[name];
  if (constant !== undefined) return constant;
  if (name === 's') throw new Problem('notANumber', 'A number is asked for, without s.', at);
  if (name === 'j' || name === 'i') throw new Problem('notANumber', 'A real number is asked for, without j.', at);
  if (name === 'infinity') throw new Problem('notANumber', 'A finite number is asked for.', at);
  const known = [...letters.keys(), 'pi', 'e'].join(', ');
  throw new Problem('unknownName', `“${name}” is not known here; known: ${known}.`, at);
}

/** Units that stand for each other, with what they are in the first of their kind. */
const kinds: readonly Readonly<Record<string, number>>[] = [
  { s: 1, ms: 1e-3, µs: 1e-6, us: 1e-6, min: 60, h: 3600, sec: 1, seconds: 1, second: 1 },
  { '°': 1, deg: 1, degrees: 1, degree: 1, rad: 180 / Math.PI },
  { 'rad/s': 1, '1/s': 1, 's^-1': 1, 'krad/s': 1000, Hz: 2 * Math.PI, kHz: 2000 * Math.PI },
  { '': 1, '%': 0.01 },
  { m: 1, mm: 1e-3, cm: 1e-2, km: 1e3 },
  { V: 1, mV: 1e-3, kV: 1e3 },
  { A: 1, mA: 1e-3 },
  { N: 1, kN: 1e3 },
];

/** Every unit with its kind, the longest first: `ms` before `s`. */
const units = kinds
  .flatMap((kind) => Object.keys(kind).map((name) => ({ name, kind })))
  .filter(({ name }) => name !== '')
  .sort((a, b) => b.name.length - a.name.length);

/**
 * The text without the unit behind it, and what one of that unit is in the unit that is asked for.
 * @throws Problem `notANumber` for a unit of another kind.
 */
function withoutUnit(text: string, unit: string, letters: NumberLetters): { bare: string; factor: number } {
  const trimmed = text.trimEnd().replace(/([^.\s])\.$/, '$1');
  const factors = kinds.find((each) => unit in each);
  const ending = units.find(({ name }) => !letters.has(name) && isBehindANumber(trimmed, name));
  if (ending && (ending.name === unit || (factors && ending.kind === factors))) {
    const factor = ending.name === unit ? 1 : (ending.kind[ending.name] ?? 1) / (ending.kind[unit] ?? 1);
    return { bare: trimmed.slice(0, -ending.name.length), factor };
  }
  if (ending && factors && ending.name.length > 1) {
    const asked = unit === '' ? 'a plain number' : unit;
    const at = trimmed.length - ending.name.length;
    throw new Problem('notANumber', `“${ending.name}” is another kind of unit: ${asked} is asked for.`, at);
  }
  if (unit !== '' && trimmed.endsWith(unit)) return { bare: trimmed.slice(0, -unit.length), factor: 1 };
  return { bare: text, factor: 1 };
}

function isBehindANumber(text: string, unit: string): boolean {
  if (!text.endsWith(unit)) return false;
  const before = text.slice(0, -unit.length);
  return /[\d).\s°π]$/.test(before) && /\d|π|pi/.test(before);
}
