import { type BlockDiagram, type BlockNode, type DiagramNode, isNamed, sourcesOf } from '../../diagram/blocks.js';
import { closingLines, lineBetween } from '../../diagram/closing.js';
import { flowOfBlocks, gainIn } from '../../diagram/exact.js';
import { replaced } from '../../diagram/moves.js';
import { pathsOf } from '../../diagram/paths.js';
import { transferBetween } from '../../diagram/reduce.js';
import { restricted, type SignalPair } from '../../diagram/reduction.js';
import { orElse } from '../../expression/problem.js';
import { type Field, inLowestTerms, type SymbolicFraction } from '../../symbolic/fraction.js';
import { isNothing } from '../../symbolic/polynomial.js';
import type { Slip } from './slip.js';

/** A slip in reading a diagram: another diagram or another pair of signals, and the parts that it is about. */
export interface DiagramSlip extends Slip {
  readonly place: readonly string[];
  readonly changed: BlockDiagram;
  readonly pair: SignalPair;
  /** What is done with the transfer function that the changed diagram gives. */
  readonly then?: 'invert' | { readonly times: string } | { readonly instead: string };
}

const ordinals = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

/** Every usual slip for one pair of signals, generated from the diagram: each sign, each line, each block, each end. */
export function diagramSlips(diagram: BlockDiagram, pair: SignalPair): DiagramSlip[] {
  const sums = diagram.nodes.filter((node) => node.kind === 'sum' && node.terms.length > 1);
  const closing = closingLines(diagram, pair.from);
  const slips: DiagramSlip[] = [];
  const add = (slip: Omit<DiagramSlip, 'pair'> & { pair?: SignalPair }): void => void slips.push({ pair, ...slip });

  for (const node of diagram.nodes) {
    if (node.kind === 'sum') {
      if (node.terms.length < 2) continue;
      const place = sums.length === 1 ? 'the sum' : `the ${ordinals[sums.indexOf(node)] ?? 'last'} sum`;
      node.terms.forEach(({ sign, of }, k) => {
        const isBack = closing.has(lineBetween(of, node.id));
        const what = isBack ? 'the feedback' : signalName(diagram, of);
        const turned = node.terms.map((term, j) => (j === k ? { ...term, sign: -sign as 1 | -1 } : term));
        add({
          id: `${isBack ? 'feedbackSign' : 'sign'} ${node.id} ${k}`,
          words: `As if ${what} at ${place} were ${sign > 0 ? 'subtracted' : 'added'}.`,
          place: [node.id, lineId(of, node.id, k)],
          changed: replaced(diagram, { ...node, terms: turned }, []),
        });
        add({
          id: `${isBack ? 'loop' : 'line'} ${node.id} ${k}`,
          words: isBack ? `As if the feedback to ${place} were missing.` : `As if ${what} did not come to ${place}.`,
          place: [node.id, lineId(of, node.id, k)],
          changed: replaced(diagram, { ...node, terms: node.terms.filter((_, j) => j !== k) }, []),
        });
      });
    } else if (node.gain !== '1') {
      add({
        id: `block ${node.id}`,
        words: `As if the block ${node.gain} were left out.`,
        place: [node.id],
        changed: replaced(diagram, { ...node, gain: '1' }, []),
      });
      if (feedsBack(diagram, node, closing)) {
        add({
          id: `forward ${node.id}`,
          words: `As if ${node.gain} stood in the forward path.`,
          place: [node.id],
          changed: diagram,
          then: { times: node.gain },
        });
      }
    }
  }
  if (closing.size > 1) {
    const nodes = diagram.nodes.map((node): DiagramNode => {
      if (node.kind === 'block') return node;
      const terms = node.terms.filter(({ of }) => !closing.has(lineBetween(of, node.id)));
      return { ...node, terms: terms.length > 0 ? terms : node.terms };
    });
    add({
      id: 'open',
      words: 'This is the forward path alone: no loop is closed.',
      place: [],
      changed: { ...diagram, nodes },
    });
  }
  for (const slip of pathSlips(diagram, pair)) add(slip);
  add({ id: 'swapped', words: 'Numerator and denominator look swapped.', place: [], changed: diagram, then: 'invert' });
  for (const { id } of diagram.nodes) {
    if (!isNamed(id) || id === pair.to) continue;
    const other = { ...pair, to: id };
    add({
      id: `to ${id}`,
      words: `This is ${id}/${pair.from}: ${id} in the place of ${pair.to}.`,
      place: [id],
      changed: diagram,
      pair: other,
    });
  }
  for (const from of diagram.inputs) {
    if (from === pair.from) continue;
    add({
      id: `from ${from}`,
      words: `This is ${pair.to}/${from}: the way from ${from}, not from ${pair.from}.`,
      place: [`in ${from}`],
      changed: diagram,
      pair: { ...pair, from },
    });
  }
  return slips;
}

/** What is forgotten of the determinant rule: the loops that a path does not touch, and products of loops apart. */
function pathSlips(diagram: BlockDiagram, pair: SignalPair): Omit<DiagramSlip, 'pair'>[] {
  return orElse([], () => {
    const { forward, loops, apart, determinant } = pathsOf(restricted(diagram, pair), pair);
    if (forward.length === 0 || loops.length === 0) return [];
    const slips: Omit<DiagramSlip, 'pair'>[] = [];
    const over = (above: readonly string[], below: string): string =>
      `(${above.map((gain) => `(${gain})`).join('+')})/(${below})`;
    const gains = forward.map(({ gain }) => gain);
    if (forward.some(({ cofactor }) => cofactor !== '1')) {
      const words = 'As if the loops that a path does not touch were left out above the line.';
      slips.push({
        id: 'untouchedLoop',
        words,
        place: [],
        changed: diagram,
        then: { instead: over(gains, determinant) },
      });
    }
    if (apart.length > 0) {
      const whole = forward.map(({ gain, cofactor }) => `(${gain})*(${cofactor})`);
      const below = `1${loops.map(({ gain }) => `-(${gain})`).join('')}`;
      const words = 'As if the product of loops that do not touch were left out below the line.';
      slips.push({ id: 'loopsApart', words, place: [], changed: diagram, then: { instead: over(whole, below) } });
    }
    return slips;
  });
}

/** The fraction that a slip leads to; null when the changed diagram has none. */
export function fractionOf({ changed, pair, then }: DiagramSlip, field: Field): SymbolicFraction | null {
  return orElse(null, () => {
    if (then !== undefined && then !== 'invert' && 'instead' in then) return inLowestTerms(gainIn(field, then.instead));
    const plain = transferBetween(flowOfBlocks(changed, field), pair.from, pair.to);
    if (then === 'invert') return inverted(inLowestTerms(plain));
    return inLowestTerms(then ? field.algebra.multiply(plain, gainIn(field, then.times), 0) : plain);
  });
}

const inverted = ({ numerator, denominator }: SymbolicFraction): SymbolicFraction | null =>
  isNothing(numerator) ? null : { numerator: denominator, denominator: numerator };

const lineId = (signal: string, node: string, term: number): string => `${signal} to ${node} ${term}`;

/** What people call a signal: its name, or that of what it comes from through blocks. */
function signalName(diagram: BlockDiagram, id: string): string {
  if (isNamed(id)) return id;
  const node = diagram.nodes.find((candidate) => candidate.id === id);
  return node?.kind === 'block' ? signalName(diagram, node.of) : 'the inner sum';
}

/** Whether a block leads nowhere but back. */
const feedsBack = ({ nodes }: BlockDiagram, { id }: BlockNode, closing: ReadonlySet<string>): boolean => {
  const users = nodes.filter((node) => sourcesOf(node).includes(id));
  return users.length > 0 && users.every((user) => closing.has(lineBetween(id, user.id)));
};
