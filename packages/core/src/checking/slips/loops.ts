import { must } from '../../expression/must.js';
import type { Tree } from '../../expression/tree.js';
import { childrenOf, namesIn, withChildren } from '../../expression/tree.js';
import type { Slip } from './slip.js';

/** A formula with one loop gone wrong. */
export interface TreeSlip extends Slip {
  readonly tree: Tree;
}

const unit: Tree = { kind: 'number', text: '1', at: 0 };
const sum = (left: Tree, right: Tree): Tree => ({ kind: 'sum', left, right, at: 0 });
const difference = (left: Tree, right: Tree): Tree => ({ kind: 'difference', left, right, at: 0 });
const product = (left: Tree, right: Tree): Tree => ({ kind: 'product', left, right, at: 0 });
const quotient = (left: Tree, right: Tree): Tree => ({ kind: 'quotient', left, right, at: 0 });

/** The formula with each of its loops, one at a time, done as people do it wrongly. */
export function loopSlips(tree: Tree): TreeSlip[] {
  const loop = loopOf(tree);
  const here = loop ? slipsOfLoop(loop) : [];
  const children = childrenOf(tree);
  const below = children.flatMap((child, k) =>
    loopSlips(child).map((slip) => ({
      ...slip,
      tree: withChildren(
        tree,
        children.map((other, i) => (i === k ? slip.tree : other)),
      ),
    })),
  );
  return [...here, ...below];
}

interface LoopTree {
  readonly forward: Tree;
  readonly back: Tree | null;
  /** forward · back */
  readonly around: Tree;
}

/** `closed(A, B)`, or A/(1 + X). */
function loopOf(tree: Tree): LoopTree | null {
  if (tree.kind === 'call' && tree.name === 'closed') {
    const [forward, back = null] = tree.of as [Tree, Tree | undefined];
    return { forward, back, around: back ? product(forward, back) : forward };
  }
  if (tree.kind !== 'quotient' || tree.right.kind !== 'sum') return null;
  const { left, right } = tree.right;
  const around = isOne(left) ? right : isOne(right) ? left : null;
  // 4s in 3/(4s + 1) is no loop: what goes round has a name.
  if (!around || !namesIn(around).some((name) => name !== 's')) return null;
  return { forward: tree.left, around, back: isSame(tree.left, around) ? null : quotient(around, tree.left) };
}

function slipsOfLoop({ forward, back, around }: LoopTree): TreeSlip[] {
  return [
    {
      id: 'feedbackSign',
      words: 'It looks as if the feedback were added instead of subtracted.',
      tree: quotient(forward, difference(unit, around)),
    },
    { id: 'openLoop', words: 'This is the open loop: the feedback is missing.', tree: forward },
    {
      id: 'errorForOutput',
      words: 'This leads to the error, not to the output.',
      tree: quotient(unit, sum(unit, around)),
    },
    ...(back
      ? [
          {
            id: 'sensorForgotten',
            words: 'It looks as if the block in the feedback path was forgotten.',
            tree: quotient(forward, sum(unit, forward)),
          },
          {
            id: 'sensorForward',
            words: 'It looks as if the feedback block stands in the forward path.',
            tree: quotient(around, sum(unit, around)),
          },
        ]
      : []),
  ];
}

const isOne = (tree: Tree): boolean => tree.kind === 'number' && Number(tree.text) === 1;

function isSame(a: Tree, b: Tree): boolean {
  if (a.kind !== b.kind) return false;
  if (a.kind === 'number' || a.kind === 'name') {
    return a.kind === 'number' ? a.text === (b as typeof a).text : a.name === (b as typeof a).name;
  }
  if (a.kind === 'call' && a.name !== (b as typeof a).name) return false;
  const [left, right] = [childrenOf(a), childrenOf(b)];
  return left.length === right.length && left.every((child, k) => isSame(child, must(right[k])));
}
