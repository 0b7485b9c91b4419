import type { Bench } from '@nailset/core';
import { dueStateAt, timeLeft, useServerTime } from '../page/due';
import { dayAndTime } from '../shared/time';

type Dated = Pick<Bench, 'dueAt' | 'closesAt' | 'late' | 'extended'>;

/** How the exercise stands by the server's clock, told again as it passes. */
export function useDueState({ dueAt, closesAt }: Dated) {
  const now = useServerTime(dueAt !== null);
  return dueStateAt(now, dueAt, closesAt);
}

/** The due date in the head of the bench, with the time that is left and the late rule. */
export function DueNote({ bench }: { bench: Dated }) {
  const { dueAt, closesAt, late, extended } = bench;
  const now = useServerTime(dueAt !== null);
  if (!dueAt) return null;
  const state = dueStateAt(now, dueAt, closesAt);
  const date = (iso: string) => <b className="font-medium text-ink">{dayAndTime(iso)}</b>;
  const left = (iso: string) => timeLeft(new Date(iso).getTime() - now);
  if (state === 'open') {
    return (
      <span>
        Due {date(dueAt)}, {left(dueAt)} left
        {late && `; late answers keep ${late.keepPercent} %`}
        {extended !== null && <span title={extended}> (yours: {extended})</span>}
      </span>
    );
  }
  if (state === 'late' && late && closesAt) {
    return (
      <span className="text-copper">
        Late: taken until {date(closesAt)}, {left(closesAt)} left
      </span>
    );
  }
  return <span>Was due {date(dueAt)}</span>;
}

/** What handing in now is worth, where that is less than before the due date. */
export const worthNow = (state: ReturnType<typeof useDueState>, { late }: Dated): string =>
  state === 'late' && late ? `Late: keeps ${late.keepPercent} % of its points.` : '';
