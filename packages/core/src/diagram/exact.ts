import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { childrenOf, type Tree } from '../expression/tree.js';
import { evaluate } from '../rational/evaluate.js';
import { type Expressions, type Field, fieldsFor, inLowestTerms, type SymbolicFraction } from '../symbolic/fraction.js';
import { isNothing, scaled, sum, type SymbolicPolynomial, whole } from '../symbolic/polynomial.js';
import { type BlockDiagram, symbolsOf } from './blocks.js';
import { type Diagram, readEquations, splitEquations } from './equations.js';
import { expressionsOf, type SignalFlow, signalFlow, transferBetween } from './reduce.js';
import type { SignalPair } from './reduction.js';

/** A diagram's text with what is known of its letters, and other expressions that are compared with it. */
export interface ExactQuestion {
  readonly diagram: Diagram;
  readonly field: Field;
  /** The fields of the other groups, of the same ring. */
  readonly others: readonly Field[];
}

/**
 * Reads equations with values for some of their letters.
 * @param known what letters stand for, as text; the text's own `where` comes first
 * @throws Problem as `readEquations`.
 */
export function readWith(
  text: string,
  known: Readonly<Record<string, string>>,
  inputs: readonly string[] = [],
): Diagram {
  const { equations, where } = splitEquations(text);
  const bound = Object.entries({ ...known, ...where }).filter(([name]) => mentions(text, name));
  return readEquations(equations, Object.fromEntries(bound), inputs);
}

/** Equations and other expressions in one ring, so that their fractions can be compared. @throws Problem as `fieldsFor`. */
export function exactQuestion(diagram: Diagram, others: readonly Expressions[] = []): ExactQuestion {
  const [field, ...more] = fieldsFor([expressionsOf(diagram), ...others]);
  return { diagram, field: field!, others: more };
}

/** The exact transfer function of a question's diagram in lowest terms. @throws Problem as `transferBetween`. */
export function exactTransfer({ diagram, field }: ExactQuestion, { from, to }: SignalPair): SymbolicFraction {
  return inLowestTerms(transferBetween(signalFlow(diagram, field), from, to));
}

/** A factor in a diagram's field. @throws Problem as expressions do. */
export const gainIn = (field: Field, gain: string): SymbolicFraction => evaluate(parse(gain), field.algebra);

/** The equations of a drawn diagram whose letters are those of a field. @throws Problem as expressions do. */
export function flowOfBlocks(blocks: BlockDiagram, field: Field): SignalFlow {
  const one = whole(field.ring, 1n);
  const inputs = new Set(blocks.inputs);
  const rows = blocks.nodes.map((node) => {
    const row = new Map<string, SymbolicPolynomial>();
    const put = (id: string, entry: SymbolicPolynomial): void => {
      const before = row.get(id);
      const after = before ? sum(before, entry) : entry;
      if (isNothing(after)) row.delete(id);
      else row.set(id, after);
    };
    // Inputs stand on the other side.
    const take = (id: string, entry: SymbolicPolynomial): void => put(id, inputs.has(id) ? entry : scaled(entry, -1n));
    if (node.kind === 'block') {
      const { numerator, denominator } = gainIn(field, node.gain);
      put(node.id, denominator);
      take(node.of, numerator);
    } else {
      put(node.id, one);
      for (const { sign, of } of node.terms) take(of, sign > 0 ? one : scaled(one, -1n));
    }
    return row;
  });
  const diagram = {
    equations: [],
    definitions: new Map(),
    signals: blocks.nodes.map(({ id }) => id),
    inputs: blocks.inputs,
  };
  return { diagram, field, rows };
}

/** An expression with the diagram's own bindings. */
export const withBindings = (tree: Tree, { definitions }: Diagram): Expressions => ({ trees: [tree], definitions });

/**
 * Refuses letters that a diagram does not have.
 * @param known names with a meaning beside those of the diagram
 * @throws Problem `unknownName` at the first one.
 */
export function checkLetters(tree: Tree, diagram: Diagram, known: { has(name: string): boolean }): void {
  const letters = new Set([...symbolsOf(diagram), ...diagram.definitions.keys()]);
  const visit = (node: Tree): void => {
    if (node.kind !== 'name') return childrenOf(node).forEach(visit);
    const { name, at } = node;
    if (name === 's' || letters.has(name) || known.has(name)) return;
    const isSignal = diagram.signals.includes(name) || diagram.inputs.includes(name);
    throw new Problem(
      'unknownName',
      isSignal
        ? `${name} is a signal; a transfer function is made of the blocks.`
        : `“${name}” is not in the diagram; its letters: ${[...letters].join(', ') || 'none'}.`,
      at,
    );
  };
  visit(tree);
}

export const mentions = (text: string, name: string): boolean =>
  new RegExp(`(?<![\\p{L}\\p{Nd}_])${name}(?![\\p{L}\\p{Nd}_])`, 'u').test(text);
