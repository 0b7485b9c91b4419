/** What was understood of a typed expression. `at` is the zero-based position in the text. */
export type Tree =
  | { kind: 'number'; text: string; at: number }
  /** With `ofS`, it was typed as a function of s: `G(s)`. */
  | { kind: 'name'; name: string; at: number; ofS?: true }
  | { kind: 'negative'; of: Tree; at: number }
  | { kind: 'sum' | 'difference' | 'product' | 'quotient'; left: Tree; right: Tree; at: number }
  | { kind: 'power'; base: Tree; exponent: Tree; at: number }
  | { kind: 'exponential'; exponent: Tree; at: number }
  /** A function of a formula; never in what students type. */
  | { kind: 'call'; name: string; of: Tree[]; at: number };

/** What a tree is made of, in the order in which it is written. */
export function childrenOf(tree: Tree): readonly Tree[] {
  switch (tree.kind) {
    case 'number':
    case 'name':
      return [];
    case 'negative':
      return [tree.of];
    case 'exponential':
      return [tree.exponent];
    case 'power':
      return [tree.base, tree.exponent];
    case 'call':
      return tree.of;
    default:
      return [tree.left, tree.right];
  }
}

/** The same tree with other parts. */
export function withChildren(tree: Tree, children: readonly Tree[]): Tree {
  const [first, second] = children as [Tree, Tree];
  switch (tree.kind) {
    case 'number':
    case 'name':
      return tree;
    case 'negative':
      return { ...tree, of: first };
    case 'exponential':
      return { ...tree, exponent: first };
    case 'power':
      return { ...tree, base: first, exponent: second };
    case 'call':
      return { ...tree, of: [...children] };
    default:
      return { ...tree, left: first, right: second };
  }
}

/** Names in a tree, in order of appearance. */
export function namesIn(tree: Tree): string[] {
  return tree.kind === 'name' ? [tree.name] : childrenOf(tree).flatMap(namesIn);
}

/** Whether s stands in an expression. */
export const holdsS = (tree: Tree): boolean =>
  (tree.kind === 'name' && tree.name === 's') || childrenOf(tree).some(holdsS);
