import type { Draft, ExerciseDocument } from '@nailset/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { isAway } from '../api/client';
import { useSaveDraft } from '../api/queries';
import { retryAfter, savePause, type Saving, useLeaveWarning, useSaveOnLeaving } from '../shared/saving';
import { useLatest } from '../shared/useLatest';

/**
 * Saves the draft a moment after the last change, one save at a time. `flush` saves at once and gives back the revision
 * that is on the server then; after `giveUp` what is on the page is no longer saved, not even when it is left.
 */
export function useDraftSaving(draft: Draft, document: ExerciseDocument) {
  const save = useSaveDraft(draft.id).mutateAsync;
  const [saving, setSaving] = useState<Saving>({ state: 'saved', at: draft.savedAt });
  const [kept, setKept] = useState(draft.document);
  const stored = useRef({ document: draft.document, revision: draft.revision });
  const latest = useLatest(document);
  const running = useRef<Promise<number>>(undefined);

  const flush = useCallback((): Promise<number> => {
    const work = async (): Promise<number> => {
      while (latest.current !== stored.current.document) {
        const going = latest.current;
        setSaving({ state: 'saving' });
        const { revision, savedAt } = await save({ revision: stored.current.revision, document: going });
        stored.current = { document: going, revision };
        setKept(going);
        setSaving({ state: 'saved', at: savedAt });
      }
      return stored.current.revision;
    };
    running.current ??= work().finally(() => (running.current = undefined));
    return running.current;
  }, [save, latest]);

  const giveUp = useCallback(() => {
    stored.current.document = latest.current;
    setKept(latest.current);
  }, [latest]);

  useEffect(() => {
    if (document === stored.current.document) return;
    let timer: ReturnType<typeof setTimeout>;
    const send = () =>
      void flush().catch((error: unknown) => {
        setSaving(isAway(error) ? { state: 'offline' } : { state: 'refused', message: (error as Error).message });
        if (isAway(error)) timer = setTimeout(send, retryAfter);
      });
    timer = setTimeout(send, savePause);
    return () => clearTimeout(timer);
  }, [document, flush]);

  // From the first letter on, not only once its save has begun.
  useLeaveWarning(document !== kept);
  useSaveOnLeaving(flush);

  return { saving, flush, giveUp };
}
