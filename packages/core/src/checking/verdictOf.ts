import type { Verdict, VerdictItem } from './verdict.js';

/** Names the rules by which a verdict was made; raised whenever any verdict could come out differently. */
export const checkerVersion = '6';

type Extra = Partial<Pick<Verdict, 'curveDistance' | 'slip'>>;

/** Adds up the items; `words` says it in a sentence. With `allOrNothing`, points only when everything is met. */
export function verdictOf(items: VerdictItem[], words: string, extra: Extra = {}, allOrNothing = false): Verdict {
  const met = items.every((item) => item.met);
  const points = allOrNothing && !met ? 0 : items.reduce((sum, item) => sum + item.points, 0);
  const outOf = items.reduce((sum, item) => sum + item.outOf, 0);
  return { checker: checkerVersion, met, points, outOf, words, items, ...extra };
}
