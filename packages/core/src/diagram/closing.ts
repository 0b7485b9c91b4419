import { type BlockDiagram, sourcesOf } from './blocks.js';

/** The name of a line from a signal to a node that uses it. */
export const lineBetween = (signal: string, node: string): string => `${signal}>${node}`;

/**
 * The lines that close a loop: those that lead back to where the way from the inputs came by. Without them the diagram
 * goes forward only. Method: depth-first walk in the order of the equations.
 * @param from the input to walk from first
 */
export function closingLines({ nodes, inputs }: BlockDiagram, from?: string): Set<string> {
  const users = new Map<string, string[]>();
  for (const node of nodes)
    for (const signal of sourcesOf(node)) users.set(signal, [...(users.get(signal) ?? []), node.id]);
  const closing = new Set<string>();
  const state = new Map<string, 'open' | 'done'>();
  const visit = (id: string): void => {
    state.set(id, 'open');
    for (const user of users.get(id) ?? []) {
      if (state.get(user) === 'open') closing.add(lineBetween(id, user));
      else if (!state.has(user)) visit(user);
    }
    state.set(id, 'done');
  };
  const starts = [...(from === undefined ? [] : [from]), ...inputs, ...nodes.map(({ id }) => id)];
  for (const id of starts) if (!state.has(id)) visit(id);
  return closing;
}
