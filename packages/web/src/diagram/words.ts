import type { Drawing, Line, Shape } from '@nailset/core/diagrams';
import { type BlockDiagram, type DiagramNode, isNamed, signalWords } from '@nailset/core/diagrams';

/** One part of a diagram in words, as an ordered list and a screen reader tell it. */
export function nodeWords(diagram: BlockDiagram, node: DiagramNode): string {
  const gives = isNamed(node.id) ? `, gives ${node.id}` : '';
  if (node.kind === 'block') return `Block ${node.gain}: takes ${signalWords(diagram, node.of)}${gives}`;
  const terms = node.terms.map(({ sign, of }) => `${sign > 0 ? 'plus' : 'minus'} ${signalWords(diagram, of)}`);
  return terms.length === 1 && node.terms[0]!.sign > 0
    ? `Line ${node.id}: the same as ${signalWords(diagram, node.terms[0]!.of)}`
    : `Sum: ${terms.join(', ')}${gives}`;
}

export function shapeWords(diagram: BlockDiagram, { id, kind, signal }: Shape): string {
  if (kind === 'input') return `Input ${signal}`;
  if (kind === 'output') return `Output ${signal}`;
  if (kind === 'group') return `Group ${signal}`;
  if (kind === 'tap') return `Tap of ${signalWords(diagram, signal)}`;
  return nodeWords(
    diagram,
    diagram.nodes.find((node) => node.id === id)!,
  );
}

export function lineWords(diagram: BlockDiagram, { signal, to }: Line): string {
  const node = diagram.nodes.find(({ id }) => id === to);
  const from = signalWords(diagram, signal);
  if (to.startsWith('out ')) return `Line ${from} to its output`;
  if (to.startsWith('group ')) return `Line ${from} to ${to.slice(6)}`;
  if (!node) return `Line ${from} to its tap`;
  if (node.kind === 'block') return `Line ${from} to block ${node.gain}`;
  return `Line ${from} to the sum${isNamed(to) ? ` for ${to}` : ''}`;
}

/** Whether a tap shows as a dot: lines part there and not further on. */
export function showsDot({ lines }: Drawing, tap: Shape): boolean {
  const middle = { x: tap.x + tap.width / 2, y: tap.y + tap.height / 2 };
  const away = new Set(
    lines
      .filter(({ signal, to }) => signal === tap.signal && !to.startsWith('tap '))
      .map(({ points: [first, second] }) => {
        if (!first || !second) return '';
        const near = Math.abs(first.x - middle.x) < 5 && Math.abs(first.y - middle.y) < 5;
        return near ? `${Math.sign(second.x - first.x)} ${Math.sign(second.y - first.y)}` : '';
      }),
  );
  return away.size > 1;
}
