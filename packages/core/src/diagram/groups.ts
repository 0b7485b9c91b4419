import { type BlockDiagram, isNamed, sourcesOf } from './blocks.js';

/** Equations of a diagram that belong together, by the signals on their left. */
export interface DiagramGroup {
  readonly name: string;
  readonly signals: readonly string[];
  /** Whether it is drawn as one block. */
  readonly closed: boolean;
}

/** A group as it is drawn: its parts on a shade, or one block in their place. */
export interface DrawnGroup {
  readonly name: string;
  /** Of its nodes. */
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

/** The groups of a diagram that have parts in it; an equation that two of them name is in the first. */
export function groupsIn(
  diagram: BlockDiagram,
  groups: readonly DiagramGroup[],
): { open: DrawnGroup[]; closed: DrawnGroup[] } {
  const taken = new Set<string>();
  const drawn = groups.flatMap(({ name, signals, closed }) => {
    const ids = nodesOf(diagram, signals).filter((id) => !taken.has(id));
    ids.forEach((id) => taken.add(id));
    return ids.length > 0 ? [{ name, ids, closed }] : [];
  });
  const thatAre = (closed: boolean) =>
    drawn.filter((group) => group.closed === closed).map(({ name, ids }) => ({ name, ids }));
  return { open: thatAre(false), closed: thatAre(true) };
}
