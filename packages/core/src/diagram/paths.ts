import { Problem } from '../expression/problem.js';
import type { BlockDiagram } from './blocks.js';
import { simplifiedGain } from './gains.js';
import type { SignalPair } from './reduction.js';

/** A forward path or a loop. */
export interface Path {
  /** The signals on it, in order; of a loop each once. */
  readonly signals: readonly string[];
  /** The product of the factors along it, signs included, simplified. */
  readonly gain: string;
}

/** What the determinant rule makes of one pair of signals. */
export interface PathView {
  readonly forward: readonly (Path & {
    /** The determinant of what does not touch the path. */
    readonly cofactor: string;
  })[];
  readonly loops: readonly Path[];
  /** Sets of two or more loops that do not touch each other, as places in `loops`. */
  readonly apart: readonly (readonly number[])[];
  /** 1 minus the loops plus the products of two apart, minus … */
  readonly determinant: string;
}

const mostPaths = 200;

/**
 * Forward paths, loops, sets of loops apart, determinant and cofactors of a diagram as a signal-flow graph whose nodes
 * are its signals. Source: S. J. Mason, Feedback theory: further properties of signal flow graphs, 1956.
 * @throws Problem `numberSize` for more than 200 paths or loops.
 */
export function pathsOf(diagram: BlockDiagram, { from, to }: SignalPair): PathView {
  const edges = edgesOf(diagram);
  const loops = loopsOf(diagram, edges);
  const forward = simplePaths(edges, from, to).map((path) => pathFrom(path, edges, false));
  const apart = setsApart(loops);
  return {
    forward: forward.map((path) => ({
      ...path,
      cofactor: determinantOf(loops, [...loops.map((_, k) => [k]), ...apart], (k) => !touches(loops[k]!, path)),
    })),
    loops,
    apart,
    determinant: determinantOf(loops, [...loops.map((_, k) => [k]), ...apart], () => true),
  };
}

type Edges = ReadonlyMap<string, ReadonlyMap<string, string>>;

/** Factors by source and target; parallel lines between two signals are one. */
function edgesOf({ nodes }: BlockDiagram): Edges {
  const edges = new Map<string, Map<string, string>>();
  const add = (from: string, to: string, gain: string): void => {
    const targets = edges.get(from) ?? new Map<string, string>();
    const before = targets.get(to);
    edges.set(from, targets.set(to, before === undefined ? gain : `${before}+(${gain})`));
  };
  for (const node of nodes) {
    if (node.kind === 'block') add(node.of, node.id, node.gain);
    else for (const { sign, of } of node.terms) add(of, node.id, sign > 0 ? '1' : '-1');
  }
  return edges;
}

function loopsOf({ nodes }: BlockDiagram, edges: Edges): Path[] {
  const order = nodes.map(({ id }) => id);
  return order.flatMap((start, k) => {
    const open = new Set(order.slice(k));
    return simplePaths(edges, start, start, open).map((loop) => pathFrom(loop, edges, true));
  });
}

/** Paths without a repeated signal; from a signal to itself, loops through it and those of `within` alone. */
function simplePaths(edges: Edges, from: string, to: string, within?: ReadonlySet<string>): string[][] {
  const paths: string[][] = [];
  const path = [from];
  const visit = (at: string): void => {
    for (const next of edges.get(at)?.keys() ?? []) {
      if (next === to) {
        paths.push(from === to ? [...path] : [...path, to]);
        if (paths.length > mostPaths) {
          throw new Problem('numberSize', `There are more than ${mostPaths} paths; group a part of the diagram first.`);
        }
      } else if (!path.includes(next) && (!within || within.has(next))) {
        path.push(next);
        visit(next);
        path.pop();
      }
    }
  };
  visit(from);
  return paths;
}

function pathFrom(signals: readonly string[], edges: Edges, closed: boolean): Path {
  const targets = closed ? [...signals.slice(1), signals[0]!] : signals.slice(1);
  const gains = targets.map((to, k) => `(${edges.get(signals[k]!)!.get(to)!})`);
  return { signals, gain: gains.length === 0 ? '1' : simplifiedGain(gains.join('*')) };
}

const touches = (a: Path, b: Path): boolean => a.signals.some((id) => b.signals.includes(id));

function setsApart(loops: readonly Path[]): number[][] {
  const sets: number[][] = [];
  const extend = (set: readonly number[], next: number): void => {
    for (let k = next; k < loops.length; k++) {
      if (set.some((other) => touches(loops[other]!, loops[k]!))) continue;
      const larger = [...set, k];
      if (larger.length > 1) sets.push(larger);
      if (sets.length > mostPaths)
        throw new Problem('numberSize', `There are more than ${mostPaths} sets of loops apart.`);
      extend(larger, k + 1);
    }
  };
  extend([], 0);
  return sets.sort((a, b) => a.length - b.length);
}

function determinantOf(
  loops: readonly Path[],
  sets: readonly (readonly number[])[],
  counts: (loop: number) => boolean,
): string {
  const terms = sets
    .filter((set) => set.every(counts))
    .map((set) => `${set.length % 2 === 1 ? '-' : '+'}${set.map((k) => `(${loops[k]!.gain})`).join('*')}`);
  return terms.length === 0 ? '1' : simplifiedGain(`1${terms.join('')}`);
}
