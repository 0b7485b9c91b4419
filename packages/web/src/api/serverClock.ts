/** The server's time less this device's, in milliseconds; zero until the server has been heard. */
let ahead = 0;

/** Half of what the server's `date` leaves out: it counts whole seconds. */
const halfSecond = 500;

/** Notes the `date` of an answer that came when this device said `at`, in milliseconds. */
export function hearServerTime(date: string | null | undefined, at = Date.now()): void {
  const time = date ? new Date(date).getTime() : NaN;
  if (Number.isFinite(time)) ahead = time + halfSecond - at;
}

/** Milliseconds since 1970 by the server's clock, whatever this device's says. */
export const serverNow = (): number => Date.now() + ahead;
