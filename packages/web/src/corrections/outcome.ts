import type { Recheck } from '@nailset/core';

/** What a correction would do to one answer. */
export type Outcome = 'gains' | 'loses' | 'stays' | 'unread';

/** By how many points an answer would change. Points that were set by hand stay. */
export function changeOf({ before, after, byHand }: Recheck): { outcome: Outcome; by: number } {
  if (!after) return { outcome: 'unread', by: 0 };
  const by = byHand ? 0 : after.points - before.points;
  return { outcome: by > 0 ? 'gains' : by < 0 ? 'loses' : 'stays', by };
}

/** How many answers of each outcome there are. */
export function outcomes(rows: readonly Recheck[]): Record<Outcome, number> {
  const counts = { gains: 0, loses: 0, stays: 0, unread: 0 };
  for (const row of rows) counts[changeOf(row).outcome] += 1;
  return counts;
}
