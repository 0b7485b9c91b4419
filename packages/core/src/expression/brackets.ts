import { parseTyped } from './parse.js';
import { orElse } from './problem.js';
import { holdsS, type Tree } from './tree.js';

const opening = '([{（';
const closing = ')]}）';

/** The places of a sign that stand in no bracket. */
function outside(text: string, isIt: (sign: string, at: number) => boolean): number[] {
  let depth = 0;
  const places: number[] = [];
  for (let at = 0; at < text.length; at++) {
    const sign = text.charAt(at);
    if (opening.includes(sign)) depth += 1;
    if (closing.includes(sign)) depth -= 1;
    if (depth === 0 && isIt(sign, at)) places.push(at);
  }
  return places;
}

/** Whether a text is one pair of brackets with what is in it. */
const isGroup = (text: string): boolean =>
  opening.includes(text.charAt(0)) && outside(text, () => true).every((at) => at === text.length - 1);

/**
 * The text with the brackets that are most often forgotten: round all that stands below a line, and round a sum above it,
 * as in `12/s^2+1.6s+4`, `5(s+2)/s(s+1)` and `1/2s`. Undefined where none can be missing: what follows the first factor
 * below the line is free of s.
 */
export function withBrackets(text: string): string | undefined {
  const [line, second] = outside(text, (sign) => '/÷∕'.includes(sign));
  if (line === undefined || second !== undefined || text.includes('\\')) return undefined;
  const head = text.slice(0, line).trim();
  const tail = text
    .slice(line + 1)
    .trim()
    .replace(/[.;]$/, '');
  const [above, below] = [head, tail].map((half) => orElse(undefined, () => parseTyped(half)));
  if (!above || !below || isGroup(tail) || !laterParts(below).some(holdsS)) return undefined;
  const isSum = above.kind === 'sum' || above.kind === 'difference';
  return `${isSum && !isGroup(head) ? `(${head})` : head}/(${tail})`;
}

/** The terms or factors of a sum or product but the first. */
function laterParts(tree: Tree): Tree[] {
  if (tree.kind !== 'sum' && tree.kind !== 'difference' && tree.kind !== 'product') return [];
  return [...laterParts(tree.left), tree.right];
}
