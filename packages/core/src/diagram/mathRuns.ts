import { parse } from '../expression/parse.js';
import type { Tree } from '../expression/tree.js';

/** A piece of typeset text: letters slant, indices and powers are small and shifted. */
export interface Run {
  readonly text: string;
  readonly slanted: boolean;
  readonly place: 'line' | 'below' | 'above';
}

/** A factor as it stands in a block: on one line, or above and below a bar. */
export type Written =
  { readonly line: readonly Run[] } | { readonly above: readonly Run[]; readonly below: readonly Run[] };

const greek: Record<string, string> = {
  alpha: 'α',
  beta: 'β',
  gamma: 'γ',
  delta: 'δ',
  zeta: 'ζ',
  eta: 'η',
  theta: 'θ',
  kappa: 'κ',
  lambda: 'λ',
  mu: 'μ',
  rho: 'ρ',
  sigma: 'σ',
  tau: 'τ',
  phi: 'φ',
  psi: 'ψ',
  omega: 'ω',
};

/** Words, not a letter with its index. */
export const plain = (text: string, place: Run['place'] = 'line'): Run => ({ text, slanted: false, place });

/** A signal's or parameter's name: one letter, the rest as its index. */
export function nameRuns(name: string): Run[] {
  const [, head = name, index = ''] =
    /^(alpha|beta|gamma|delta|zeta|eta|theta|kappa|lambda|mu|rho|sigma|tau|phi|psi|omega|\p{L})_?(.{0,3})$/u.exec(
      name,
    ) ?? [];
  const letter: Run = { text: head === 'w' && index ? 'ω' : (greek[head] ?? head), slanted: true, place: 'line' };
  return index ? [letter, plain(index, 'below')] : [letter];
}

/** What stands in a block. */
export function written(gain: string): Written {
  const tree = parse(gain);
  if (tree.kind === 'quotient') return { above: runs(tree.left), below: runs(tree.right) };
  return { line: runs(tree) };
}

const strength = { sum: 1, difference: 1, negative: 2, product: 3, quotient: 3 } as Partial<
  Record<Tree['kind'], number>
>;
const strengthOf = ({ kind }: Tree): number => strength[kind] ?? 9;

function runs(tree: Tree): Run[] {
  const inside = (node: Tree, atLeast: number): Run[] =>
    strengthOf(node) < atLeast ? [plain('('), ...runs(node), plain(')')] : runs(node);
  switch (tree.kind) {
    case 'number':
      return [plain(tree.text)];
    case 'name':
      return nameRuns(tree.name);
    case 'negative':
      return [plain('−'), ...inside(tree.of, 3)];
    case 'sum':
      return [...runs(tree.left), plain(' + '), ...inside(tree.right, 2)];
    case 'difference':
      return [...runs(tree.left), plain(' − '), ...inside(tree.right, 2)];
    case 'product':
      return [...inside(tree.left, 2), plain(tree.right.kind === 'number' ? '·' : '\u2009'), ...inside(tree.right, 4)];
    case 'quotient':
      return [...inside(tree.left, 2), plain('/'), ...inside(tree.right, 4)];
    case 'power':
      return [...inside(tree.base, 9), ...runs(tree.exponent).map((run) => ({ ...run, place: 'above' as const }))];
    case 'exponential':
      return [plain('e'), ...runs(tree.exponent).map((run) => ({ ...run, place: 'above' as const }))];
    case 'call':
      return [plain(tree.name)];
  }
}

/** About how wide runs are, in pixels at 15 px type. */
export const widthOf = (list: readonly Run[]): number =>
  list.reduce((sum, { text, place }) => sum + text.length * (place === 'line' ? 7.8 : 5.8), 0);

/** About how large the inside of a block is. */
export function sizeOf(gain: string): { width: number; height: number } {
  const shown = written(gain);
  if ('line' in shown) return { width: Math.max(46, widthOf(shown.line) + 20), height: 36 };
  return { width: Math.max(46, Math.max(widthOf(shown.above), widthOf(shown.below)) + 20), height: 48 };
}
