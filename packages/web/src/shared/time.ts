import { must } from '@nailset/core';
/** A format that is made when a first time is written: making one takes as long as painting a small view. */
function format(options: Intl.DateTimeFormatOptions): () => Intl.DateTimeFormat {
  let made: Intl.DateTimeFormat | undefined;
  return () => (made ??= new Intl.DateTimeFormat('en-GB', options));
}

const clock = format({ hour: '2-digit', minute: '2-digit' });
const zoned = format({
  ...{ weekday: 'short', day: 'numeric', month: 'short' },
  ...{ hour: '2-digit', minute: '2-digit', timeZoneName: 'short' },
});

/** `14:02` */
export const clockTime = (iso: string): string => clock().format(new Date(iso));

/** `Fri 27 Nov, 18:00 CET`: in the reader's own zone, which stands beside it. */
export const dayAndTime = (iso: string): string => {
  const { weekday, day, month, hour, minute, timeZoneName } = zonedParts(new Date(iso));
  return `${weekday} ${day} ${month}, ${hour}:${minute} ${timeZoneName}`;
};

/** The reader's own zone at a time, as in `CET`. */
export const zoneAt = (iso: string | null): string => must(zonedParts(iso ? new Date(iso) : new Date()).timeZoneName);

const zonedParts = (at: Date): Partial<Record<Intl.DateTimeFormatPartTypes, string>> =>
  Object.fromEntries(
    zoned()
      .formatToParts(at)
      .map(({ type, value }) => [type, value]),
  );

/** Values of a `date` and a `time` input for a time, in the reader's own zone. */
export function toLocalInputs(iso: string | null): { date: string; time: string } {
  if (!iso) return { date: '', time: '' };
  const at = new Date(iso);
  const local = new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString();
  return { date: local.slice(0, 10), time: local.slice(11, 16) };
}
