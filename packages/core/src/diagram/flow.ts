import { type BlockDiagram, type DiagramNode, outputsOf, sourcesOf } from './blocks.js';
import { closingLines, lineBetween } from './closing.js';
import type { DrawnGroup } from './groups.js';

/** Of a part, where a line ends. */
export type Side = 'WEST' | 'EAST' | 'NORTH' | 'SOUTH';

export type Flow = ReturnType<typeof flowOf>;

/** What goes forward and what back, and where lines enter sums. */
export function flowOf(diagram: BlockDiagram, asked: readonly string[], closed: readonly DrawnGroup[]) {
  const { inputs, nodes } = diagram;
  const groups = new Map(closed.flatMap(({ name, ids }) => ids.map((id) => [id, name] as const)));
  const groupOf = (id: string): string | undefined => groups.get(id);
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const users = new Map<string, DiagramNode[]>();
  for (const node of nodes)
    for (const signal of sourcesOf(node)) users.set(signal, [...(users.get(signal) ?? []), node]);
  const outputs = outputsOf(diagram, asked);

  const closing = closingLines(diagram);
  const onward = new Set<string>();
  const reach = (id: string): void => {
    if (onward.has(id)) return;
    onward.add(id);
    const node = byId.get(id);
    if (node) for (const signal of sourcesOf(node)) if (!closing.has(lineBetween(signal, id))) reach(signal);
  };
  outputs.forEach(reach);
  const backward = new Set(nodes.map(({ id }) => id).filter((id) => !onward.has(id)));

  const [main] = inputs;
  const above = new Set(
    inputs.filter((id) => {
      const followers = users.get(id) ?? [];
      return (
        id !== main &&
        followers.length === 1 &&
        followers[0]!.kind === 'sum' &&
        followers[0]!.terms.length > 1 &&
        !backward.has(followers[0]!.id) &&
        !groups.has(followers[0]!.id)
      );
    }),
  );
  // One input enters a sum from above; more than that come in from the side.
  for (const node of nodes) {
    sourcesOf(node)
      .filter((signal) => above.has(signal))
      .slice(1)
      .forEach((signal) => above.delete(signal));
    if (node.kind === 'sum' && node.terms.every(({ of }) => above.has(of))) above.delete(node.terms[0]!.of);
  }
  /** How many lines part from a signal: into a closed group goes one, and none from within it. */
  const uses = (id: string): number => {
    const all = (users.get(id) ?? []).map((node) => groupOf(node.id));
    const into = new Set(all.filter((group) => group !== undefined && group !== groupOf(id)));
    return all.filter((group) => group === undefined).length + into.size + (outputs.includes(id) ? 1 : 0);
  };
  const tapped = new Set([...inputs, ...nodes.map(({ id }) => id)].filter((id) => uses(id) > 1));
  const turned = (from: string, to: string): boolean =>
    closing.has(lineBetween(from, to)) || backward.has(from) || backward.has(to);

  return {
    nodes,
    outputs,
    closed,
    groupOf,
    above,
    tapped,
    backward,
    turned,
    sideOf(node: DiagramNode & { kind: 'sum' }, term: number): Side {
      const isBack = backward.has(node.id);
      const back = (k: number): boolean => turned(node.terms[k]!.of, node.id);
      if (isBack) return term === 0 ? 'EAST' : 'SOUTH';
      if (back(term)) return 'SOUTH';
      const forward = node.terms.map((_, k) => k).filter((k) => !back(k) && !above.has(node.terms[k]!.of));
      const place = forward.indexOf(term);
      if (place === 0) return 'WEST';
      const taken = node.terms.some(({ of }) => above.has(of));
      return place === 1 && !taken ? 'NORTH' : node.terms.some((_, k) => back(k)) ? 'WEST' : 'SOUTH';
    },
  };
}
