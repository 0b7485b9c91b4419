import { Problem } from '../expression/problem.js';
import { type BlockDiagram, type DiagramNode, isNamed, sourcesOf, withSources } from './blocks.js';
import { simplifiedGain } from './gains.js';
import { type Move, type MoveKind, movesOf } from './moves.js';

/** A question about a diagram: one input, one signal, every other input zero. */
export interface SignalPair {
  readonly from: string;
  readonly to: string;
}

/** A step of a reduction: which move it was, by its kind and its elements. */
export interface Step {
  readonly kind: MoveKind;
  readonly of: readonly string[];
}

/**
 * The part of a diagram that leads from one input to one signal, every other input zero (superposition).
 * @throws Problem `signal` when the diagram has no such input or signal.
 */
export function restricted(diagram: BlockDiagram, { from, to }: SignalPair): BlockDiagram {
  if (!diagram.inputs.includes(from)) {
    throw new Problem('signal', `“${from}” is no input here; inputs: ${diagram.inputs.join(', ') || 'none'}.`);
  }
  const byId = new Map(diagram.nodes.map((node) => [node.id, node]));
  if (!byId.has(to)) throw new Problem('signal', `“${to}” is no signal here.`);
  const live = reachable([from], (id) =>
    diagram.nodes.filter((node) => sourcesOf(node).includes(id)).map(({ id }) => id),
  );
  const wanted = reachable([to], (id) => (byId.has(id) ? sourcesOf(byId.get(id)!) : []));
  const nodes = diagram.nodes.flatMap((node): DiagramNode[] => {
    if (!live.has(node.id) || !wanted.has(node.id)) return [];
    if (node.kind === 'block') return [node];
    return [{ ...node, terms: node.terms.filter(({ of }) => live.has(of)) }];
  });
  return withoutIdleSums({ ...diagram, inputs: [from], nodes });
}

/** A sum without a name that has one term left is a line. */
function withoutIdleSums(diagram: BlockDiagram): BlockDiagram {
  const idle = diagram.nodes.find(
    (node) => node.kind === 'sum' && !isNamed(node.id) && node.terms.length === 1 && node.terms[0]!.sign > 0,
  );
  if (!idle) return diagram;
  const [source] = sourcesOf(idle);
  const nodes = diagram.nodes
    .filter((node) => node !== idle)
    .map((node) => withSources(node, (signal) => (signal === idle.id ? source! : signal)));
  return withoutIdleSums({ ...diagram, nodes });
}

function reachable(start: readonly string[], next: (id: string) => readonly string[]): Set<string> {
  const reached = new Set(start);
  const open = [...start];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    for (const other of next(id)) {
      if (reached.has(other)) continue;
      reached.add(other);
      open.push(other);
    }
  }
  return reached;
}

/** The factor from input to signal once a diagram is one block, 1 for a line and 0 when nothing leads there; null before. */
export function reducedGain(diagram: BlockDiagram, { from, to }: SignalPair): string | null {
  const [node, more] = diagram.nodes;
  if (!node) return '0';
  if (more || node.id !== to) return null;
  if (node.kind === 'block') return node.of === from ? simplifiedGain(node.gain) : null;
  const [term, second] = node.terms;
  return term && !second && term.of === from && term.sign > 0 ? '1' : null;
}

/** The legal move that a step names, or undefined. */
export function moveOfStep(diagram: BlockDiagram, to: string, step: Step): Move | undefined {
  return movesOf(diagram, new Set([to])).find(
    ({ kind, of }) => kind === step.kind && of.length === step.of.length && of.every((id, k) => id === step.of[k]),
  );
}

const mostSteps = 200;
/** Moves after which there is less than before, best first. */
const shrinking: readonly MoveKind[] = ['line', 'unity', 'sign', 'series', 'parallel', 'loop', 'join'];

/**
 * A whole reduction to one block, step by step. Whatever shrinks the diagram is done first; when nothing does, a sum is
 * dissolved into what follows it, which always ends.
 * @throws Problem `improper` when the equations have no unique solution, `numberSize` beyond 200 steps.
 */
export function reduction(diagram: BlockDiagram, pair: SignalPair): Move[] {
  const kept = new Set([pair.to]);
  const steps: Move[] = [];
  let now = restricted(diagram, pair);
  while (reducedGain(now, pair) === null) {
    const move = nextMove(now, kept);
    if (!move) throw new Problem('improper', 'These equations have no unique solution: some signals can be anything.');
    steps.push(move);
    if (steps.length > mostSteps) {
      const words = `The diagram from ${pair.from} to ${pair.to} takes more than ${mostSteps} steps to reduce; ask for a part of it.`;
      throw new Problem('numberSize', words);
    }
    now = move.after;
  }
  return steps;
}

function nextMove(diagram: BlockDiagram, kept: ReadonlySet<string>): Move | undefined {
  const moves = movesOf(diagram, kept);
  for (const kind of shrinking) {
    const next = moves.find((move) => move.kind === kind);
    if (next) return next;
  }
  return dissolving(diagram, moves, kept);
}

/** The next move that takes one sum towards its end: its uses one by one, blocks that are tapped made single before. */
function dissolving(diagram: BlockDiagram, moves: readonly Move[], kept: ReadonlySet<string>): Move | undefined {
  const users = (id: string): DiagramNode[] => diagram.nodes.filter((node) => sourcesOf(node).includes(id));
  const sums = diagram.nodes
    .filter((node) => node.kind === 'sum' && !kept.has(node.id))
    .sort((a, b) => cost(a) - cost(b));
  for (const sum of sums) {
    for (const user of users(sum.id)) {
      const tapped = moves.find(({ kind, of }) => kind === 'tapBefore' && of[0] === user.id);
      if (user.kind === 'block' && tapped) return tapped;
      const next = moves.find(
        ({ kind, of }) => (kind === 'sumBehind' || kind === 'tapBeforeSum') && of[0] === sum.id && of[1] === user.id,
      );
      if (next) return next;
    }
  }
  return moves.find(({ kind }) => kind === 'tapBefore');

  function cost(node: DiagramNode): number {
    return users(node.id).length * sourcesOf(node).length;
  }
}
