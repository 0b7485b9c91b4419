import { orElse } from '../expression/problem.js';
import {
  type BlockDiagram,
  type BlockNode,
  type DiagramNode,
  freeId,
  sourcesOf,
  type SumNode,
  withSources,
} from './blocks.js';
import { inverseGain, loopGain, productOfGains, simplifiedGain, sumOfGains } from './gains.js';

export const moveKinds = [
  'series',
  'parallel',
  'loop',
  'unity',
  'sign',
  'line',
  'join',
  'exchange',
  'sumBehind',
  'sumBefore',
  'tapBefore',
  'tapBehind',
  'tapBeforeSum',
] as const;
export type MoveKind = (typeof moveKinds)[number];

/** One step of a reduction that leaves every transfer function to the kept signals as it is. */
export interface Move {
  readonly kind: MoveKind;
  /**
   * The elements that it is made with: nodes by the signal they give. Where the same elements allow several moves, as a
   * signal that comes to a sum twice does, those after the first have `@2`, `@3` … behind.
   */
  readonly of: readonly string[];
  /** The factor of the block that it makes, when it makes one out of several. */
  readonly gain?: string;
  /** The block or sum that it makes or changes. */
  readonly makes: string;
  readonly after: BlockDiagram;
}

/** Where a signal is used: the node and, in a sum, the term. */
interface Use {
  readonly node: DiagramNode;
  readonly term: number;
}

/**
 * Every legal move of a diagram; each has a kind and the elements that it is made with, which together name it.
 * @param kept signals that must stay, usually the output
 * Method: the usual rules of block diagram algebra (for instance DiStefano, Stubberud and Williams, Feedback and Control Systems, 7).
 */
export function movesOf(diagram: BlockDiagram, kept: ReadonlySet<string>): Move[] {
  const byId = new Map(diagram.nodes.map((node) => [node.id, node]));
  const uses = usesOf(diagram);
  const at = (id: string): Use[] => uses.get(id) ?? [];
  const block = (id: string): BlockNode | undefined => {
    const node = byId.get(id);
    return node?.kind === 'block' ? node : undefined;
  };
  /** Used in one place, and nobody asks for the signal itself. */
  const only = (id: string): boolean => at(id).length === 1 && !kept.has(id);

  return withNamesOfTheirOwn(diagram.nodes.flatMap((node) => (node.kind === 'block' ? ofBlock(node) : ofSum(node))));

  function ofBlock(node: BlockNode): Move[] {
    const { id, gain, of } = node;
    const moves: Move[] = [];
    if (simplifiedGain(gain) === '1') {
      moves.push(made('unity', [id], of, without(diagram, id, of, kept)));
    }
    const before = block(of);
    if (before && only(of)) {
      const joined = productOfGains(before.gain, gain);
      moves.push(made('series', [of, id], id, replaced(diagram, plain(id, joined, before.of), [of]), joined));
    }
    const sum = byId.get(of);
    if (sum?.kind === 'sum' && only(of) && sum.terms.length > 1 && !sum.terms.some((term) => term.of === id)) {
      const behind = termsThrough(sum, gain);
      moves.push(
        made(
          'sumBehind',
          [of, id],
          id,
          replaced(diagram, { kind: 'sum', id, terms: behind.terms }, [of], behind.copies),
        ),
      );
    }
    if (at(id).length + (kept.has(id) ? 1 : 0) > 1) {
      for (const { node: user, term } of at(id)) {
        const copy = plain(freeId(diagram), gain, of);
        moves.push(made('tapBefore', [id, user.id], copy.id, redirected(diagram, user, term, copy)));
      }
    }
    for (const { node: user, term } of at(of)) {
      if (user.id === id || user.id === of) continue;
      moves.push(
        ...possible(() => {
          const back = plain(freeId(diagram), inverseGain(gain), id);
          return made('tapBehind', [id, user.id], back.id, redirected(diagram, user, term, back));
        }),
      );
    }
    return moves;
  }

  function ofSum(node: SumNode): Move[] {
    const { id, terms } = node;
    const moves: Move[] = [];
    const [first] = terms;
    if (terms.length === 1 && first) {
      if (first.sign < 0) moves.push(made('sign', [id], id, replaced(diagram, plain(id, '-1', first.of), [])));
      else if (!kept.has(id)) moves.push(made('line', [id], first.of, without(diagram, id, first.of, kept)));
      else moves.push(...sameLine(id, first.of));
    }
    terms.forEach((term, k) => {
      moves.push(...parallels(node, k), ...possible(() => loop(node, k)), ...sums(node, k));
      const through = block(term.of);
      if (through && term.sign > 0 && terms.length > 1 && only(term.of) && through.of !== id) {
        moves.push(...possible(() => sumBefore(node, k, through)));
      }
    });
    if (terms.length > 1 && at(id).length + (kept.has(id) ? 1 : 0) > 1) {
      for (const { node: user, term } of at(id)) {
        if (user.id === id) continue;
        const copy: SumNode = { kind: 'sum', id: freeId(diagram), terms };
        moves.push(made('tapBeforeSum', [id, user.id], copy.id, redirected(diagram, user, term, copy)));
      }
    }
    return moves;
  }

  /** A kept name for a signal that nothing else uses: its node takes the name. */
  function sameLine(id: string, signal: string): Move[] {
    const source = byId.get(signal);
    return source && only(signal) ? [made('line', [id], id, replaced(diagram, { ...source, id }, [signal]))] : [];
  }

  function parallels(node: SumNode, k: number): Move[] {
    const mine = pathOf(node.terms[k]!.of);
    return node.terms.flatMap((other, j) => {
      if (j <= k) return [];
      const theirs = pathOf(other.of);
      if (mine.from !== theirs.from) return [];
      const gain = sumOfGains([
        [node.terms[k]!.sign, mine.gain],
        [other.sign, theirs.gain],
      ]);
      const gone = [mine.through, theirs.through].filter((id) => id !== undefined);
      const joined = plain(freeId(diagram), gain, mine.from);
      const terms = node.terms.flatMap((term, i) =>
        i === k ? [{ sign: 1 as const, of: joined.id }] : i === j ? [] : [term],
      );
      const makes = terms.length === 1 ? node.id : joined.id;
      const after =
        terms.length === 1
          ? replaced(diagram, plain(node.id, gain, mine.from), gone)
          : replaced(diagram, { ...node, terms }, gone, [joined]);
      return [made('parallel', gone.length === 2 ? gone : [...gone, node.id], makes, after, gain)];
    });
  }

  /** A term as a factor of the signal that it comes from; through a block only when nothing else uses that. */
  function pathOf(signal: string): { from: string; gain: string; through?: string } {
    const through = block(signal);
    return through && only(signal)
      ? { from: through.of, gain: through.gain, through: signal }
      : { from: signal, gain: '1' };
  }

  function loop(node: SumNode, k: number): Move | undefined {
    const { sign, of } = node.terms[k]!;
    const rest = node.terms.filter((_, j) => j !== k);
    const back = pathOf(of);
    const gone = back.through === undefined ? [] : [back.through];
    if (rest.length === 0) return undefined;
    // Around the sum alone.
    if (back.from === node.id) {
      if (sign > 0 && simplifiedGain(back.gain) === '1') return undefined;
      const inner: SumNode = { kind: 'sum', id: freeId(diagram), terms: rest };
      const gain = loopGain('1', back.gain, sign);
      const [single] = rest;
      const simple = rest.length === 1 && single!.sign > 0;
      const after = replaced(
        diagram,
        plain(node.id, gain, simple ? single!.of : inner.id),
        gone,
        simple ? [] : [inner],
      );
      return made('loop', [node.id, ...gone], node.id, after, gain);
    }
    const forward = block(back.from);
    if (forward?.of !== node.id || !only(node.id)) return undefined;
    const gain = loopGain(forward.gain, productOfGains(forward.gain, back.gain), sign);
    const [single] = rest;
    const simple = rest.length === 1 && single!.sign > 0;
    // The sum without its feedback is another signal: it does not keep the name.
    const inner: SumNode = { kind: 'sum', id: freeId(diagram), terms: rest };
    const closed = plain(forward.id, gain, simple ? single!.of : inner.id);
    const after = replaced(diagram, closed, [...gone, node.id], simple ? [] : [inner]);
    return made('loop', [node.id, forward.id, ...gone], forward.id, after, gain);
  }

  /** A sum that only another sum uses. */
  function sums(node: SumNode, k: number): Move[] {
    const { sign, of } = node.terms[k]!;
    const inner = byId.get(of);
    if (inner?.kind !== 'sum' || inner.id === node.id || !only(of) || inner.terms.length < 2) return [];
    const turned = inner.terms.map((term) => ({ ...term, sign: (term.sign * sign) as 1 | -1 }));
    const joined: SumNode = { ...node, terms: node.terms.flatMap((term, j) => (j === k ? turned : [term])) };
    // A sum that is itself plus something else has no solution.
    const signSum = joined.terms.reduce((sum, term) => sum + (term.of === node.id ? term.sign : 0), 0);
    const moves = signSum === 1 ? [] : [made('join', [of, node.id], node.id, replaced(diagram, joined, [of]))];
    const [mine] = node.terms.filter((_, j) => j !== k);
    if (node.terms.length === 2 && inner.terms.length === 2 && mine && sign > 0) {
      const last = inner.terms[1]!;
      // The inner sum is another signal from now on, so it does not keep its name.
      const first: SumNode = { kind: 'sum', id: freeId(diagram), terms: [inner.terms[0]!, mine] };
      const second: SumNode = { ...node, terms: [{ sign: 1, of: first.id }, last] };
      moves.push(made('exchange', [of, node.id], node.id, replaced(diagram, second, [of], [first])));
    }
    return moves;
  }

  function sumBefore(node: SumNode, k: number, through: BlockNode): Move {
    const copies: DiagramNode[] = [];
    let next = Number(freeId(diagram).slice(1));
    const terms = node.terms.map((term, j) => {
      if (j === k) return { sign: 1 as const, of: through.of };
      const copy = plain(`#${(next += 1)}`, inverseGain(through.gain), term.of);
      copies.push(copy);
      return { ...term, of: copy.id };
    });
    const sum: SumNode = { kind: 'sum', id: freeId(diagram), terms };
    const after = replaced(diagram, plain(node.id, through.gain, sum.id), [through.id], [...copies, sum]);
    return made('sumBefore', [through.id, node.id], node.id, after);
  }

  /** What a block makes of each term of the sum before it. */
  function termsThrough(sum: SumNode, gain: string): { terms: SumNode['terms']; copies: DiagramNode[] } {
    let next = Number(freeId(diagram).slice(1)) - 1;
    const copies = sum.terms.map((term) => plain(`#${(next += 1)}`, gain, term.of));
    return { terms: sum.terms.map(({ sign }, k) => ({ sign, of: copies[k]!.id })), copies };
  }
}

/** Different moves that have the same kind and elements, told apart. */
function withNamesOfTheirOwn(moves: readonly Move[]): Move[] {
  const seen = new Map<string, number>();
  return moves.map((move) => {
    const name = [move.kind, ...move.of].join(' ');
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? move : { ...move, of: [...move.of, `@${count}`] };
  });
}

/** The legal moves that are made with these elements. */
export function movesWith(diagram: BlockDiagram, kept: ReadonlySet<string>, picked: readonly string[]): Move[] {
  return movesOf(diagram, kept).filter(({ of }) => picked.every((id) => of.includes(id)));
}

/** Nothing where a factor that is zero would have to be inverted. */
function possible(make: () => Move | undefined): Move[] {
  return orElse([], () => {
    const move = make();
    return move ? [move] : [];
  });
}

const made = (kind: MoveKind, names: readonly string[], makes: string, after: BlockDiagram, gain?: string): Move => ({
  kind,
  of: names,
  makes,
  after,
  ...(gain === undefined ? {} : { gain }),
});

const plain = (id: string, gain: string, signal: string): BlockNode => ({ kind: 'block', id, gain, of: signal });

function usesOf({ nodes }: BlockDiagram): Map<string, Use[]> {
  const uses = new Map<string, Use[]>();
  for (const node of nodes) {
    sourcesOf(node).forEach((signal, term) => uses.set(signal, [...(uses.get(signal) ?? []), { node, term }]));
  }
  return uses;
}

/** With a node in the place of the one of its signal, others gone, and new ones before it. */
export function replaced(
  diagram: BlockDiagram,
  node: DiagramNode,
  gone: readonly string[],
  before: readonly DiagramNode[] = [],
): BlockDiagram {
  const nodes = diagram.nodes.flatMap((old) => {
    if (old.id === node.id) return [...before, node];
    return gone.includes(old.id) ? [] : [old];
  });
  return { ...diagram, nodes };
}

/** One use of a signal replaced by that of a new node, which stands before the user. */
function redirected(diagram: BlockDiagram, user: DiagramNode, term: number, by: DiagramNode): BlockDiagram {
  const changed = withSources(user, (id, k) => (k === term ? by.id : id));
  return replaced(diagram, changed, [], [by]);
}

/** Without a node that changes nothing; its signal becomes another name where it has to stay. */
function without(diagram: BlockDiagram, id: string, source: string, kept: ReadonlySet<string>): BlockDiagram {
  if (kept.has(id)) return replaced(diagram, { kind: 'sum', id, terms: [{ sign: 1, of: source }] }, []);
  const nodes = diagram.nodes
    .filter((node) => node.id !== id)
    .map((node) => withSources(node, (signal) => (signal === id ? source : signal)));
  return { ...diagram, nodes };
}
