const day = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short' });
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** `14:02` */
export const clockTime = (iso: string): string => clock.format(new Date(iso));

/** `Fri 27 Nov, 18:00` */
export const dayAndTime = (iso: string): string => `${day.format(new Date(iso)).replace(',', '')}, ${clockTime(iso)}`;

/** Value of a `datetime-local` input for a time, in the reader's own zone. */
export function toLocalInput(iso: string | null): string {
  if (!iso) return '';
  const date = new Date(iso);
  return new Date(date.getTime() - date.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}
