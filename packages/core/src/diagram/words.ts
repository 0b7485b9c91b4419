import { must } from '../expression/must.js';
import { type BlockDiagram, isNamed } from './blocks.js';
import type { Move } from './moves.js';

/** What a signal is called: its name, or what it is made of. */
export function signalWords({ nodes }: Pick<BlockDiagram, 'nodes'>, id: string): string {
  if (isNamed(id)) return id;
  const node = nodes.find((candidate) => candidate.id === id);
  if (!node) return id;
  if (node.kind === 'block') return `${node.gain} times ${signalWords({ nodes }, node.of)}`;
  return 'the sum';
}

/** What a part is called in a sentence. */
function partWords(diagram: BlockDiagram, id: string): string {
  const node = diagram.nodes.find((candidate) => candidate.id === id);
  if (node?.kind === 'block') return node.gain;
  return isNamed(id) ? `the sum for ${id}` : 'the sum';
}

/** A move in words, with the parts that it is made with. */
export function moveWords(diagram: BlockDiagram, { kind, of: all }: Pick<Move, 'kind' | 'of'>): string {
  const of = all.filter((id) => !id.startsWith('@'));
  const [first, second] = of.map((id) => partWords(diagram, id));
  switch (kind) {
    case 'series':
      return `Series: ${first} and ${second}`;
    case 'parallel':
      return of.length === 2 ? `Parallel: ${first} and ${second}` : 'Parallel lines';
    case 'loop':
      return `Loop around ${
        of.length > 1
          ? of
              .slice(1)
              .map((id) => partWords(diagram, id))
              .join(' and ')
          : first
      }`;
    case 'unity':
      return 'Remove the unity block';
    case 'sign':
      return 'The minus sign as a block';
    case 'line':
      return `One name for the line ${isNamed(must(of[0])) ? of[0] : ''}`.trim();
    case 'join':
      return 'Join the two sums';
    case 'exchange':
      return 'Exchange the two sums';
    case 'sumBehind':
      return `Sum behind ${second}`;
    case 'sumBefore':
      return `Sum before ${first}`;
    case 'tapBefore':
      return `Tap before ${first}, for ${userWords(diagram, must(of[1]))}`;
    case 'tapBehind':
      return `Tap behind ${first}, for ${userWords(diagram, must(of[1]))}`;
    case 'tapBeforeSum':
      return `Tap before the sum, for ${userWords(diagram, must(of[1]))}`;
  }
}

const userWords = (diagram: BlockDiagram, id: string): string => {
  const node = diagram.nodes.find((candidate) => candidate.id === id);
  return node?.kind === 'block' ? node.gain : signalWords(diagram, id);
};
