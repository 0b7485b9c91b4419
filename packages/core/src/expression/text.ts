import type { Tree } from './tree.js';

const strength = {
  sum: 1,
  difference: 1,
  negative: 2,
  product: 3,
  quotient: 3,
  power: 5,
  exponential: 6,
  call: 6,
  number: 6,
  name: 6,
} as const;

/** An expression as text that reads back as the same tree, with as few brackets as that takes. */
export function toText(tree: Tree): string {
  const inside = (node: Tree, atLeast: number): string =>
    strength[node.kind] < atLeast ? `(${toText(node)})` : toText(node);
  switch (tree.kind) {
    case 'number':
      return tree.text;
    case 'name':
      return tree.name;
    case 'negative':
      return `-${inside(tree.of, 5)}`;
    case 'sum':
      return `${toText(tree.left)} + ${inside(tree.right, 2)}`;
    case 'difference':
      return `${toText(tree.left)} - ${inside(tree.right, 2)}`;
    case 'product':
      return `${factor(tree.left)}*${inside(tree.right, 5)}`;
    case 'quotient':
      return `${factor(tree.left)}/${inside(tree.right, 5)}`;
    case 'power':
      return `${inside(tree.base, 6)}^${inside(tree.exponent, 6)}`;
    case 'exponential':
      return `exp(${toText(tree.exponent)})`;
    case 'call':
      return `${tree.name}(${tree.of.map(toText).join(', ')})`;
  }
}

/** On the left of a product a sign in front of all of it needs no brackets. */
const factor = (tree: Tree): string => (strength[tree.kind] < 2 ? `(${toText(tree)})` : toText(tree));
