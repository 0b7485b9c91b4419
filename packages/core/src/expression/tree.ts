/** What was understood of a typed expression. `at` is the zero-based position in the text. */
export type Tree =
  | { kind: 'number'; text: string; at: number }
  | { kind: 'name'; name: string; at: number }
  | { kind: 'negative'; of: Tree; at: number }
  | { kind: 'sum' | 'difference' | 'product' | 'quotient'; left: Tree; right: Tree; at: number }
  | { kind: 'power'; base: Tree; exponent: Tree; at: number };

/** The names that occur in a tree, `s` included, in order of appearance. */
export function namesIn(tree: Tree): string[] {
  const names = new Set<string>();
  const visit = (node: Tree): void => {
    switch (node.kind) {
      case 'number':
        return;
      case 'name':
        names.add(node.name);
        return;
      case 'negative':
        return visit(node.of);
      case 'power':
        visit(node.base);
        return visit(node.exponent);
      default:
        visit(node.left);
        visit(node.right);
    }
  };
  visit(tree);
  return [...names];
}
