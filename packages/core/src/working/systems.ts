import { nameToLatex, toLatex } from '../expression/latex.js';
import { orElse } from '../expression/problem.js';
import { childrenOf, namesIn, type Tree, withChildren } from '../expression/tree.js';
import { type Scope, systemFrom } from '../formula/evaluate.js';
import { quantities } from '../quantity/index.js';
import type { QuantityName } from '../quantity/names.js';
import { lowestTerms } from '../rational/fraction.js';
import { rationalToNumber } from '../rational/number.js';
import { delayedToLatex } from '../system/latex.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import { constantOf } from '../system/transferAlgebra.js';
import { line, type WorkingStep } from './step.js';

/** What the board knows beside the values of names. */
export interface Board {
  readonly scope: Scope;
  /** How a system was written down: `T = closed(C*G)`. */
  readonly definitions: ReadonlyMap<string, Tree>;
  /** The way from one signal of a diagram to another; undefined where these are no signals. */
  between(from: string, to: string): WorkingStep[] | undefined;
}

/** A system in numbers; empty where dead time is inside a loop. */
export function transferLatex(transfer: Transfer): string | null {
  const plain = withDeadTime(transfer);
  return plain && delayedToLatex(lowestTerms(plain.fraction), rationalToNumber(plain.deadTime));
}

/** A formula with its loops written out: `closed(C*G)` as C·G/(1 + C·G). */
export function withLoopsWritten(tree: Tree): Tree {
  const inside = withChildren(tree, childrenOf(tree).map(withLoopsWritten));
  if (inside.kind !== 'call' || inside.name !== 'closed') return inside;
  const [forward, back] = inside.of;
  if (!forward) return inside;
  const { at } = inside;
  const open: Tree = back ? { kind: 'product', left: forward, right: back, at } : forward;
  const one: Tree = { kind: 'number', text: '1', at };
  return { kind: 'quotient', left: forward, right: { kind: 'sum', left: one, right: open, at }, at };
}

/** Whether a tree is two signals of a diagram, one over the other. */
const signalsIn = (tree: Tree, { scope }: Board): { from: string; to: string } | null =>
  tree.kind === 'quotient' &&
  tree.left.kind === 'name' &&
  tree.right.kind === 'name' &&
  !scope.names.has(tree.left.name) &&
  !scope.names.has(tree.right.name)
    ? { from: tree.right.name, to: tree.left.name }
    : null;

/** How a system came about: the systems that it is made of, each in numbers, then itself. */
export function systemSteps(tree: Tree, board: Board, known = new Set<string>()): WorkingStep[] {
  const signals = signalsIn(tree, board);
  if (signals) return board.between(signals.from, signals.to) ?? [];
  if (tree.kind === 'name') return namedSteps(tree.name, board, known);
  const steps = partsSteps(tree, board, known);
  const value = orElse(null, () => systemFrom(tree, board.scope));
  if (!value || constantOf(value)) return steps;
  const result = transferLatex(value);
  const written = toLatex(withLoopsWritten(tree));
  if (result && result !== written) steps.push(line(wordsFor(tree, board), `${written}=${result}`));
  return steps;
}

/** `K = 2, a = 3` for the letters of a formula that are numbers. */
export function lettersGiven(tree: Tree, { scope }: Pick<Board, 'scope'>): string {
  return [...new Set(namesIn(tree))]
    .flatMap((name) => {
      const value = scope.names.get(name);
      const exact = value && constantOf(value);
      return exact ? [`${name} = ${String(Number(exact.numerator) / Number(exact.denominator))}`] : [];
    })
    .join(', ');
}

function wordsFor(tree: Tree, board: Board): string {
  if (hasLoop(tree)) return 'Closing the loop, multiplied out:';
  const given = lettersGiven(tree, board);
  return given ? `With ${given}:` : 'Multiplied out:';
}

const hasLoop = (tree: Tree): boolean =>
  (tree.kind === 'call' && tree.name === 'closed') || childrenOf(tree).some(hasLoop);

/** Every system named in a tree that depends on s. */
function partsSteps(tree: Tree, board: Board, known: Set<string>): WorkingStep[] {
  const signals = signalsIn(tree, board);
  if (signals) return board.between(signals.from, signals.to) ?? [];
  if (tree.kind === 'name') return namedSteps(tree.name, board, known);
  return childrenOf(tree).flatMap((child) => partsSteps(child, board, known));
}

function namedSteps(name: string, board: Board, known: Set<string>): WorkingStep[] {
  const value = board.scope.names.get(name);
  if (!value || constantOf(value) || known.has(name)) return [];
  known.add(name);
  const result = transferLatex(value);
  const definition = board.definitions.get(name);
  const before = definition ? partsSteps(definition, board, known) : [];
  if (result === null) return before;
  const written = definition ? toLatex(withLoopsWritten(definition)) : result;
  const middle = written === result ? '' : `${written}=`;
  const words = definition && middle ? wordsFor(definition, board) : 'The system:';
  return [...before, line(words, `${nameToLatex(name)}=${middle}${result}`)];
}

/** A formula with quantities by their names in words: `\\text{Overshoot}(T)`. */
export const spokenLatex = (tree: Tree): string =>
  toLatex(withLoopsWritten(tree)).replace(/\\operatorname\{(\w+)\}/g, (whole, name: string) =>
    name in quantities ? `\\text{${quantities[name as QuantityName].short}}` : whole,
  );
