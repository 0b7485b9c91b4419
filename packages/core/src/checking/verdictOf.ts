import { sumOfShares } from '../exercise/points.js';
import type { Verdict, VerdictItem } from './verdict.js';

/** Names the rules by which a verdict was made; raised whenever any verdict could come out differently. */
export const checkerVersion = '12';

type Extra = Partial<Pick<Verdict, 'curveDistance' | 'responses' | 'slip'>>;

/** Adds up the items; `words` says it in a sentence. With `allOrNothing`, points only when everything is met. */
export function verdictOf(items: VerdictItem[], words: string, extra: Extra = {}, allOrNothing = false): Verdict {
  const met = items.every((item) => item.met);
  const points = allOrNothing && !met ? 0 : sumOfShares(items.map((item) => item.points));
  const outOf = sumOfShares(items.map((item) => item.outOf));
  return { checker: checkerVersion, met, points, outOf, words, items, ...extra };
}

/** What an item of a verdict has when nothing is measured. */
export const plain = { unit: '', measured: null, limit: null, relation: 'equal' as const, close: false };
