import { withKnownLetters } from '../expression/letters.js';
import { parse } from '../expression/parse.js';
import { childrenOf, holdsS, type Tree, withChildren } from '../expression/tree.js';
import { transferFromComplex } from '../system/complexFactors.js';
import type { Transfer } from '../system/transfer.js';
import type { Transfers } from '../system/transferAlgebra.js';
import { numberFrom } from './evaluate.js';

/** Reads a fraction as it is typed, `j2` as j·2 where no letter is called so. @throws Problem as `parse`. */
export function typedTree(text: string, letters: Iterable<string>): Tree {
  const known = [...letters];
  const tree = parse(text, { roots: true, imaginary: !known.some((letter) => /^[ij]\d/.test(letter)) });
  return withKnownLetters(tree, [...known, 'pi']);
}

/** The transfer function that a typed tree stands for. @throws Problem as `transferFrom` and `withRootsRounded`. */
export const typedTransferFrom = (tree: Tree, names: Transfers): Transfer =>
  transferFromComplex(withRootsRounded(tree, names), names);

/**
 * The same expression with π, each root and each power that is no whole number as the double that is nearest to it: from
 * there on everything is exact.
 * @throws Problem for what depends on s or is not known, and for the root of a negative number
 */
export function withRootsRounded(tree: Tree, names: Transfers): Tree {
  if (isRounded(tree, names)) return { kind: 'number', text: String(numberFrom(tree, { names })), at: tree.at };
  return withChildren(
    tree,
    childrenOf(tree).map((child) => withRootsRounded(child, names)),
  );
}

/** Whether an expression holds what is not worked out exactly. @throws Problem as `withRootsRounded`. */
export const holdsRoots = (tree: Tree, names: Transfers): boolean =>
  isRounded(tree, names) || childrenOf(tree).some((child) => holdsRoots(child, names));

function isRounded(tree: Tree, names: Transfers): boolean {
  switch (tree.kind) {
    case 'call':
      return true;
    case 'name':
      return tree.name === 'pi' && !names.has('pi');
    case 'power':
      return !holdsS(tree) && !Number.isInteger(numberFrom(tree.exponent, { names }));
    default:
      return false;
  }
}
