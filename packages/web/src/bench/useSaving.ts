import { useEffect, useRef, useState } from 'react';
import { type Answer, type Bench, limits } from '@nailset/core';
import { ApiError, isOffline } from '../api/client';
import { useSaveAnswer } from '../api/queries';
import { type Saving, retryAfter, savePause, useLeaveWarning } from '../shared/saving';
import type { Unsaved } from './unsaved';
import type { Work } from './work';

/** The field says that it is too long; the server would refuse it. */
const isTooLong = (answer: Answer): boolean => 'text' in answer && answer.text.length > limits.length;

/** Saves every changed answer a moment after the last change, and again after a lost connection. */
export function useSaving(bench: Bench, work: Work, unsaved: Unsaved): Saving {
  const save = useSaveAnswer(bench.exerciseId).mutateAsync;
  const newest =
    bench.saved
      .map(({ savedAt }) => savedAt)
      .sort()
      .at(-1) ?? null;
  const [saving, setSaving] = useState<Saving>({ state: 'saved', at: newest });
  const sent = useRef<Pick<Work, 'answers' | 'trails'>>(
    // Work carried over from an earlier version may not have reached the server yet.
    work.changes > 0 ? { answers: {}, trails: {} } : { answers: work.answers, trails: work.trails },
  );
  const [tries, setTries] = useState(0);
  const latest = useRef(work);
  useEffect(() => {
    latest.current = work;
  });

  useEffect(() => {
    if (!bench.mayHandIn) return;
    const changed = bench.parts.filter(
      ({ id }) =>
        !isTooLong(work.answers[id]!) &&
        (work.answers[id] !== sent.current.answers[id] || work.trails[id] !== sent.current.trails[id]),
    );
    if (changed.length === 0) return;
    unsaved.keep(work);
    const timer = setTimeout(
      () => {
        setSaving((old) => (old.state === 'offline' ? old : { state: 'saving' }));
        const going = { answers: work.answers, trails: work.trails };
        Promise.all(
          changed.map(({ id }) => save({ partId: id, answer: work.answers[id]!, trail: work.trails[id] ?? [] })),
        ).then(
          ([first]) => {
            sent.current = going;
            const { answers, trails } = latest.current;
            if (answers === going.answers && trails === going.trails) unsaved.forget();
            setSaving({ state: 'saved', at: first!.savedAt });
          },
          (error: unknown) => {
            // Whoever signs in again in another window finds their work saved a moment later.
            const signedOut = error instanceof ApiError && error.status === 401;
            const lost = isOffline(error) || (error instanceof ApiError && error.status >= 500);
            setSaving(lost ? { state: 'offline' } : { state: 'refused', message: (error as Error).message });
            if (lost || signedOut) setTimeout(() => setTries((n) => n + 1), retryAfter);
          },
        );
      },
      tries === 0 ? savePause : 0,
    );
    return () => clearTimeout(timer);
  }, [bench, work, save, tries, unsaved]);

  useLeaveWarning(saving.state !== 'saved' && bench.mayHandIn);

  return saving;
}
