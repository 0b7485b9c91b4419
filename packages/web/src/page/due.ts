import { useEffect, useState } from 'react';
import { serverNow } from '../api/serverClock';

/** How an exercise stands by its due date: no date, before it, after it within the late rule, closed. */
export type DueState = 'none' | 'open' | 'late' | 'closed';

/** Grace that the server gives to what was already on its way, in milliseconds; the page closes with it. */
const grace = 5_000;

/** Where a moment lies. `closesAt` is when even late answers are no longer taken; all times ISO 8601. */
export function dueStateAt(now: number, dueAt: string | null, closesAt: string | null): DueState {
  if (dueAt === null) return 'none';
  if (now <= new Date(dueAt).getTime()) return 'open';
  return now <= new Date(closesAt ?? dueAt).getTime() + grace ? 'late' : 'closed';
}

/** The server's time in milliseconds, told again every few seconds while something depends on it. */
export function useServerTime(matters: boolean, every = 5_000): number {
  const [now, setNow] = useState(serverNow);
  useEffect(() => {
    if (!matters) return;
    const tell = () => setNow(serverNow());
    tell();
    const timer = setInterval(tell, every);
    return () => clearInterval(timer);
  }, [matters, every]);
  return now;
}

const minute = 60_000;

/** `2 days`, `5 h`, `12 min`, `under a minute`. */
export function timeLeft(milliseconds: number): string {
  const minutes = Math.floor(milliseconds / minute);
  if (minutes < 1) return 'under a minute';
  if (minutes < 120) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  return hours < 48 ? `${hours} h` : `${Math.floor(hours / 24)} days`;
}
