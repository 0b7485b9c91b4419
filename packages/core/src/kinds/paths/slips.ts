import type { Model } from '../../checking/model.js';
import type { Slip, WrongAnswer } from '../../checking/slips/slip.js';
import { isSameGain } from '../../diagram/gains.js';
import { expectedPaths, gainsIn } from './check.js';
import type { PathsPart } from './part.js';

const signs = {
  loops: { id: 'signs', words: 'With the minus signs of the sums these are the loops.' },
  forward: { id: 'signs', words: 'With the signs of the sums these are the forward paths.' },
} as const;
const other = { loops: 'These are the forward paths.', forward: 'These are the loops.' } as const;

/** What a wrong list goes wrong by: signs left out, or the other list. */
export function slipOfPaths(part: PathsPart, model: Model, text: string): Slip | undefined {
  const listed = gainsIn(part, model, text);
  const expected = expectedPaths(part, model);
  if (expected.length > 0 && sameList(listed, expected, true) && !sameList(listed, expected, false))
    return signs[part.list];
  const others = expectedPaths({ ...part, list: part.list === 'loops' ? 'forward' : 'loops' }, model);
  const isOther = others.length > 0 && sameList(listed, others, false);
  return isOther ? { id: 'otherList', words: other[part.list] } : undefined;
}

/** The usual wrong lists, as they could be typed. */
export function wrongPaths(part: PathsPart, model: Model): WrongAnswer[] {
  const list = (gains: readonly string[]): string => gains.join(', ') || 'none';
  const expected = expectedPaths(part, model);
  const others = expectedPaths({ ...part, list: part.list === 'loops' ? 'forward' : 'loops' }, model);
  const answer = (text: string) => ({ kind: 'paths', text }) as const;
  return [
    { ...signs[part.list], answer: answer(list(expected.map((gain) => gain.replace(/^-/, '')))) },
    { id: 'otherList', words: other[part.list], answer: answer(list(others)) },
    { id: 'oneMissing', words: 'One is missing.', answer: answer(list(expected.slice(1))) },
  ];
}

/** The same gains in any order; with `anySign`, up to their signs. */
function sameList(left: readonly string[], right: readonly string[], anySign: boolean): boolean {
  const isSame = (a: string, b: string): boolean => isSameGain(a, b) || (anySign && isSameGain(a, `-(${b})`));
  return left.length === right.length && left.every((a) => right.some((b) => isSame(a, b)));
}
