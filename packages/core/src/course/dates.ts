import type { LateRule } from '../exercise/document.js';

/** When an exercise is seen and handed in. Times in ISO 8601; null for no such date. */
export interface Dates {
  readonly visibleFrom: string | null;
  readonly dueAt: string | null;
  /** Null for the rule of the exercise itself. */
  readonly late: LateRule | null;
}

/** Dates of one person or of a group, with what they are for. */
export interface Extension extends Dates {
  readonly personId: string | null;
  readonly group: string | null;
  readonly reason: string;
}

/**
 * The dates that hold for one person: their own, else their group’s, else everyone’s. What an extension leaves open is
 * as for everyone.
 */
export function datesFor(
  everyone: Dates,
  extensions: readonly Extension[],
  { personId, group }: { personId: string; group: string },
): Dates & { readonly reason: string | null } {
  const longer =
    extensions.find((extension) => extension.personId === personId) ??
    (group ? extensions.find((extension) => extension.group === group) : undefined);
  return {
    visibleFrom: longer?.visibleFrom ?? everyone.visibleFrom,
    dueAt: longer?.dueAt ?? everyone.dueAt,
    late: longer?.late ?? everyone.late,
    reason: longer?.reason ?? null,
  };
}

/** Whether something shown from this time on is shown now. */
export const isVisible = ({ visibleFrom }: Pick<Dates, 'visibleFrom'>, now: Date): boolean =>
  visibleFrom === null || new Date(visibleFrom) <= now;

/**
 * The same time of day that many weeks later, where the clocks of a zone may have changed meanwhile.
 *
 * @param zone Name of a time zone, as in `Europe/Berlin`.
 * @throws RangeError for a zone that is not known.
 */
export function weeksLater(iso: string, weeks: number, zone: string): string {
  const from = new Date(iso);
  const moved = new Date(from.getTime() + weeks * 7 * 86_400_000);
  const shift = offsetAt(from, zone) - offsetAt(moved, zone);
  return new Date(moved.getTime() + shift).toISOString();
}

/** How far the clocks of a zone are ahead of UTC, in ms. */
function offsetAt(at: Date, zone: string): number {
  const parts = new Intl.DateTimeFormat('en-US', { timeZone: zone, timeZoneName: 'longOffset' }).formatToParts(at);
  const name = parts.find(({ type }) => type === 'timeZoneName')?.value ?? 'GMT';
  const [, sign, hours, minutes] = /GMT([+-])(\d\d):(\d\d)/.exec(name) ?? [];
  const size = (Number(hours ?? 0) * 60 + Number(minutes ?? 0)) * 60_000;
  return sign === '-' ? -size : size;
}
