import { orProblem, Problem } from '../expression/problem.js';
import { type BlockDiagram, isNamed, sourcesOf } from './blocks.js';
import { grouped } from './edit.js';

/** Equations of a diagram that belong together, by the signals on their left. */
export interface DiagramGroup {
  readonly name: string;
  readonly signals: readonly string[];
  /** Whether it is drawn as one block. */
  readonly closed: boolean;
}

/** A group as it is drawn open: its parts, with its name beside them. */
export interface OpenGroup {
  readonly name: string;
  readonly ids: readonly string[];
}

/** The signal on the left of the equation that a node was made of: its own, or that of the node which it leads to. */
export function equationOf({ nodes }: BlockDiagram, id: string): string {
  let at = id;
  // Signals without a name are used once, and lead to one with a name within as many steps as there are nodes.
  for (let k = 0; k < nodes.length && !isNamed(at); k++) {
    const user = nodes.find((node) => sourcesOf(node).includes(at));
    if (!user) break;
    at = user.id;
  }
  return at;
}

/** The nodes that some equations were made into. */
export const nodesOf = (diagram: BlockDiagram, signals: readonly string[]): string[] =>
  diagram.nodes.map(({ id }) => id).filter((id) => signals.includes(equationOf(diagram, id)));

/**
 * A diagram with its closed groups as one block each, and the parts of the others. One that cannot be a block stays
 * open, and its trouble says why.
 */
export function withGroups(
  diagram: BlockDiagram,
  groups: readonly DiagramGroup[],
): { diagram: BlockDiagram; open: OpenGroup[]; troubles: Problem[] } {
  let drawn = diagram;
  const left: DiagramGroup[] = [];
  const troubles: Problem[] = [];
  for (const group of groups) {
    if (!group.closed) {
      left.push(group);
      continue;
    }
    const closed = orProblem(() => grouped(drawn, nodesOf(drawn, group.signals), group.name));
    if (closed instanceof Problem) {
      left.push(group);
      troubles.push(new Problem(closed.code, `${group.name}: ${closed.message}`));
    } else drawn = closed;
  }
  const open = left
    .map(({ name, signals }) => ({ name, ids: nodesOf(drawn, signals) }))
    .filter(({ ids }) => ids.length > 0);
  return { diagram: drawn, open, troubles };
}
