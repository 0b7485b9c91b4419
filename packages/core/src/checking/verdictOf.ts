import type { Verdict, VerdictItem } from './verdict.js';

/** Names the rules by which a verdict was made; raised whenever any verdict could come out differently. */
export const checkerVersion = '1';

/** Adds up the items; `words` says it in a sentence. */
export function verdictOf(items: VerdictItem[], words: string, extra: { curveDistance?: number } = {}): Verdict {
  const points = items.reduce((sum, item) => sum + item.points, 0);
  const outOf = items.reduce((sum, item) => sum + item.outOf, 0);
  return { checker: checkerVersion, met: items.every((item) => item.met), points, outOf, words, items, ...extra };
}
