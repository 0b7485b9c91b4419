import { type Answer, type Bench, limits, must, type Trail } from '@nailset/core';
import { type Dispatch, useCallback, useEffect, useRef, useState } from 'react';
import { ApiError, isAway } from '../api/client';
import { useSaveAnswer, useSavedAnswers } from '../api/queries';
import { sameAnswer } from '../kinds/students';
import type { Work, WorkAction } from '../loop/action';
import { retryAfter, savePause, type Saving, useLeaveWarning, useSaveOnLeaving } from '../shared/saving';
import { useLatest } from '../shared/useLatest';
import type { OpenPage } from './openPage';
import type { Bases, Unsaved } from './unsaved';

/** An answer that another window has changed since this page saw it. */
export interface Changed {
  readonly partId: string;
  readonly theirs: { readonly answer: Answer; readonly trail: Trail; readonly revision: number };
}

export interface WorkSaving {
  readonly saving: Saving;
  /** Answers that wait for a decision: nothing of them is saved until then. */
  readonly changed: readonly Changed[];
  readonly settle: (keep: 'mine' | 'theirs') => void;
}

/** The field says that it is too long; the server would refuse it. */
const isTooLong = (answer: Answer): boolean => 'text' in answer && answer.text.length > limits.length;

type Sent = Pick<Work, 'answers' | 'trails'>;

/** The parts whose answer or trail is not on the server; none where nothing may be handed in. */
const unsavedParts = ({ parts, mayHandIn }: Bench, work: Work, { answers, trails }: Sent): string[] =>
  !mayHandIn
    ? []
    : parts
        .map(({ id }) => id)
        .filter(
          (id) =>
            !isTooLong(must(work.answers[id])) && (work.answers[id] !== answers[id] || work.trails[id] !== trails[id]),
        );

/** Revisions from which the answers on the bench were made. */
export const basesOf = ({ saved }: Pick<Bench, 'saved'>): Bases =>
  Object.fromEntries(saved.map(({ partId, revision }) => [partId, revision]));

/**
 * Saves every changed answer a moment after the last change, one save at a time, and again after a lost connection.
 * What another window has changed since is not overwritten; `settle` says which of the two stays.
 */
export function useSaving(
  bench: Bench,
  work: Work,
  dispatch: Dispatch<WorkAction>,
  unsaved: Unsaved,
  { whose, bases, page }: { whose: string; bases: Bases; page: OpenPage },
): WorkSaving {
  const save = useSaveAnswer(bench.exerciseId).mutateAsync;
  const savedAnswers = useSavedAnswers(bench.exerciseId);
  const newest =
    bench.saved
      .map(({ savedAt }) => savedAt)
      .sort()
      .at(-1) ?? null;
  const [saving, setSaving] = useState<Saving>({ state: 'saved', at: newest });
  const [changed, setChanged] = useState<readonly Changed[]>([]);
  const known = useRef<Record<string, number>>({ ...bases });
  const sent = useRef<Sent>(
    // Work carried over from an earlier version may not have reached the server yet.
    work.changes > 0 ? { answers: {}, trails: {} } : { answers: work.answers, trails: work.trails },
  );
  const [tries, setTries] = useState(0);
  const workRef = useLatest(work);
  const changedRef = useRef(changed);

  const hold = useCallback((next: readonly Changed[]) => {
    changedRef.current = next;
    setChanged(next);
  }, []);

  /** Sends one answer; gives back when it was saved, or null where another window has changed it. */
  const sendOne = useCallback(
    async (partId: string, { answers, trails }: Work): Promise<string | null> => {
      const answer = must(answers[partId]);
      const trail = trails[partId] ?? [];
      try {
        const base = known.current[partId] ?? 0;
        const body = { partId, answer, trail, base, page: page.id, count: page.nextSave(), whose };
        const { revision, savedAt } = await save(body);
        known.current[partId] = revision;
        sent.current = {
          answers: { ...sent.current.answers, [partId]: answer },
          trails: { ...sent.current.trails, [partId]: must(trails[partId]) },
        };
        return savedAt;
      } catch (error) {
        if (!(error instanceof ApiError && error.code === 'answerChanged')) throw error;
        const theirs = (await savedAnswers()).find((entry) => entry.partId === partId);
        if (!theirs) throw error;
        // The same again, for example after a lost answer of the server, is no matter for anybody.
        if (sameAnswer(theirs.answer, answer)) known.current[partId] = theirs.revision;
        else hold([...changedRef.current, { partId, theirs }]);
        return null;
      }
    },
    [save, savedAnswers, page, whose, hold],
  );

  const saveOnce = useCallback(async (): Promise<void> => {
    const going = workRef.current;
    const waiting = (id: string): boolean => changedRef.current.some(({ partId }) => partId === id);
    const parts = unsavedParts(bench, going, sent.current).filter((id) => !waiting(id));
    if (parts.length === 0) return;
    setSaving((old) => (old.state === 'offline' || old.state === 'saving' ? old : { state: 'saving' }));
    const results = await Promise.allSettled(parts.map((id) => sendOne(id, going)));
    const failed = results.find((result) => result.status === 'rejected');
    if (failed) {
      const error: unknown = failed.reason;
      // Whoever signs in again in another window finds their work saved a moment later.
      const signedOut = error instanceof ApiError && error.status === 401;
      const lost = isAway(error);
      setSaving(lost ? { state: 'offline' } : { state: 'refused', message: (error as Error).message });
      if (lost || signedOut) setTimeout(() => setTries((n) => n + 1), retryAfter);
      return;
    }
    if (unsavedParts(bench, workRef.current, sent.current).length === 0) unsaved.forget(page.id);
    const times = results.flatMap((result) => (result.status === 'fulfilled' && result.value ? [result.value] : []));
    const again = times.length < parts.length;
    if (changedRef.current.length > 0) setSaving({ state: 'refused', message: 'It waits for your choice.' });
    else setSaving((old) => (times.length > 0 ? { state: 'saved', at: must(times.sort().at(-1)) } : old));
    if (again) setTries((n) => n + 1);
  }, [bench, sendOne, unsaved, page, workRef]);

  const running = useRef(Promise.resolve());
  const flush = useCallback((): Promise<void> => {
    running.current = running.current.then(saveOnce);
    return running.current;
  }, [saveOnce]);

  useEffect(() => {
    const parts = unsavedParts(bench, work, sent.current);
    if (parts.length === 0) return;
    unsaved.keep({ work, bases: known.current, page: page.id });
    const timer = setTimeout(() => void flush(), tries === 0 ? savePause : 0);
    return () => clearTimeout(timer);
  }, [bench, work, flush, tries, unsaved, page]);

  const settle = (keep: 'mine' | 'theirs') => {
    for (const { partId, theirs } of changed) {
      known.current[partId] = theirs.revision;
      if (keep === 'mine') continue;
      sent.current = {
        answers: { ...sent.current.answers, [partId]: theirs.answer },
        trails: { ...sent.current.trails, [partId]: theirs.trail },
      };
      dispatch({ do: 'adopt', part: partId, answer: theirs.answer, trail: theirs.trail });
    }
    hold([]);
    if (keep === 'mine') setTries((n) => n + 1);
    else setSaving({ state: 'saved', at: null });
  };

  useSaveOnLeaving(flush);
  useLeaveWarning((saving.state !== 'saved' || changed.length > 0) && bench.mayHandIn);

  return { saving, changed, settle };
}
