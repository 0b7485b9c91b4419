import { useCallback, useEffect, useRef, useState } from 'react';
import { type Answer, type Bench, limits } from '@nailset/core';
import { ApiError, isOffline } from '../api/client';
import { useSaveAnswer } from '../api/queries';
import { type Saving, retryAfter, savePause, useLeaveWarning, useSaveOnLeaving } from '../shared/saving';
import { useLatest } from '../shared/useLatest';
import type { Unsaved } from './unsaved';
import type { Work } from './work';

/** The field says that it is too long; the server would refuse it. */
const isTooLong = (answer: Answer): boolean => 'text' in answer && answer.text.length > limits.length;

type Sent = Pick<Work, 'answers' | 'trails'>;

/** The parts whose answer or trail is not on the server; none where nothing may be handed in. */
const changedParts = ({ parts, mayHandIn }: Bench, work: Work, { answers, trails }: Sent): Bench['parts'] =>
  !mayHandIn
    ? []
    : parts.filter(
        ({ id }) =>
          !isTooLong(work.answers[id]!) && (work.answers[id] !== answers[id] || work.trails[id] !== trails[id]),
      );

/** Saves every changed answer a moment after the last change, and again after a lost connection. */
export function useSaving(bench: Bench, work: Work, unsaved: Unsaved): Saving {
  const save = useSaveAnswer(bench.exerciseId).mutateAsync;
  const newest =
    bench.saved
      .map(({ savedAt }) => savedAt)
      .sort()
      .at(-1) ?? null;
  const [saving, setSaving] = useState<Saving>({ state: 'saved', at: newest });
  const sent = useRef<Sent>(
    // Work carried over from an earlier version may not have reached the server yet.
    work.changes > 0 ? { answers: {}, trails: {} } : { answers: work.answers, trails: work.trails },
  );
  const [tries, setTries] = useState(0);
  const workRef = useLatest(work);

  const flush = useCallback(async (): Promise<void> => {
    const going = workRef.current;
    const changed = changedParts(bench, going, sent.current);
    if (changed.length === 0) return;
    setSaving((old) => (old.state === 'offline' ? old : { state: 'saving' }));
    try {
      const [first] = await Promise.all(
        changed.map(({ id }) => save({ partId: id, answer: going.answers[id]!, trail: going.trails[id] ?? [] })),
      );
      sent.current = going;
      const { answers, trails } = workRef.current;
      if (answers === going.answers && trails === going.trails) unsaved.forget();
      setSaving({ state: 'saved', at: first!.savedAt });
    } catch (error) {
      // Whoever signs in again in another window finds their work saved a moment later.
      const signedOut = error instanceof ApiError && error.status === 401;
      const lost = isOffline(error) || (error instanceof ApiError && error.status >= 500);
      setSaving(lost ? { state: 'offline' } : { state: 'refused', message: (error as Error).message });
      if (lost || signedOut) setTimeout(() => setTries((n) => n + 1), retryAfter);
    }
  }, [bench, save, unsaved, workRef]);

  useEffect(() => {
    if (changedParts(bench, work, sent.current).length === 0) return;
    unsaved.keep(work);
    const timer = setTimeout(() => void flush(), tries === 0 ? savePause : 0);
    return () => clearTimeout(timer);
  }, [bench, work, flush, tries, unsaved]);

  useSaveOnLeaving(flush);
  useLeaveWarning(saving.state !== 'saved' && bench.mayHandIn);

  return saving;
}
