import { emptySheet, type KeptSheet, type Sheet } from '@nailset/core';
import { type RefObject, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { ApiError, isAway } from '../../api/client';
import { askSheet, saveSheet } from '../../api/sheets';
import { retryAfter, savePause, type Saving, useSaveOnLeaving } from '../../shared/saving';
import { useLatest, useSteady } from '../../shared/useLatest';
import { freshId } from './names';
import { keepSheetHere, type Named, type SheetState } from './useSheet';

/** What the server has of a sheet, as far as this page knows. */
interface Stored {
  readonly sheet: Sheet;
  readonly revision: number;
}

const untold: Saving = { state: 'saved', at: null };

/**
 * Keeps the sheet on the page in this browser, and on the server for someone who is signed in: a moment after the last
 * change, one save at a time, each under the sheet's own name. A sheet that was only opened is not saved.
 */
export function useSheetSaving({ now, first, open, setTrouble, owner: person }: SheetState, isSignedIn: boolean) {
  const [{ of, saving }, tell] = useState({ of: now.id, saving: untold });
  // Another sheet says nothing of how the one before was saved.
  if (of !== now.id) tell({ of: now.id, saving: untold });
  // The sheet that this page began with is as the server has it, or what was typed before signing in.
  const stored = useRef(
    new Map<string, Stored>([
      [first.id, { sheet: first.isNew ? emptySheet : first.sheet, revision: first.revision }] as const,
    ]),
  );
  const [kept, setKept] = useState<ReadonlySet<string>>(() => new Set(first.revision > 0 ? [first.id] : []));
  const running = useRef<Promise<void>>(undefined);
  const latest = useLatest(now);
  const storedOf = useCallback(({ id, sheet }: Named): Stored => {
    // One that has just been opened, as an example or from a link, is nobody's work yet.
    const known = stored.current.get(id) ?? { sheet, revision: 0 };
    stored.current.set(id, known);
    return known;
  }, []);

  // What the server does not have yet, by name: a sheet is saved also when another one is on the page by then.
  const waiting = useRef(new Map<string, Sheet>());

  const flush = useCallback((): Promise<void> => {
    const saveOne = async (id: string, sheet: Sheet) => {
      const { revision } = storedOf({ id, sheet });
      const shows = (state: Saving) => latest.current.id === id && tell({ of: id, saving: state });
      shows({ state: 'saving' });
      try {
        const saved = await saveSheet(id, revision, sheet);
        stored.current.set(id, { sheet, revision: saved.revision });
        if (waiting.current.get(id) === sheet) waiting.current.delete(id);
        if (latest.current.id === id) {
          const isNew = latest.current.sheet !== sheet;
          keepSheetHere({ ...latest.current, person, revision: saved.revision, isNew });
          // It may have changed meanwhile, back to what it was before the save as well.
          if (isNew) waiting.current.set(id, latest.current.sheet);
        }
        setKept((old) => (old.has(id) ? old : new Set([...old, id])));
        shows({ state: 'saved', at: saved.savedAt });
      } catch (error) {
        const { message } = error as Error;
        if (isAway(error)) shows({ state: 'offline' });
        else {
          waiting.current.delete(id);
          if (latest.current.id === id) shows({ state: 'refused', message });
          else setTrouble(`“${sheet.title.trim() || 'Untitled sheet'}” was not saved. ${message} Undo brings it back.`);
        }
        throw error;
      }
    };
    const work = async () => {
      for (;;) {
        const [next] = waiting.current;
        if (!next) return;
        await saveOne(...next);
      }
    };
    running.current ??= work().finally(() => (running.current = undefined));
    return running.current;
  }, [latest, storedOf, person, setTrouble]);

  useEffect(() => {
    const { sheet, revision } = storedOf(now);
    const isNew = now.sheet !== sheet;
    keepSheetHere({ ...now, revision, isNew, person });
    if (!isSignedIn) return;
    if (isNew && isWorthKeeping(now.sheet)) waiting.current.set(now.id, now.sheet);
    else waiting.current.delete(now.id);
    if (waiting.current.size === 0) return;
    let timer: ReturnType<typeof setTimeout>;
    const send = () =>
      void flush().catch((error: unknown) => {
        if (isAway(error) || waiting.current.size > 0) timer = setTimeout(send, retryAfter);
      });
    timer = setTimeout(send, savePause);
    return () => clearTimeout(timer);
  }, [now, isSignedIn, flush, storedOf, person]);
  useSaveOnLeaving(useCallback(async () => (isSignedIn ? flush() : undefined), [isSignedIn, flush]));

  /** Opens one that the server has; someone else's as a copy. */
  const openKept = useCallback(
    ({ id, sheet, revision, mine }: KeptSheet) => {
      if (!mine) return open(sheet);
      stored.current.set(id, { sheet, revision });
      setKept((old) => new Set([...old, id]));
      open(sheet, id);
    },
    [open],
  );
  useNewest(isSignedIn, first, latest, openKept, () =>
    stored.current.set(first.id, { sheet: first.sheet, revision: 0 }),
  );

  const asCopy = useCallback(() => {
    const id = freshId();
    stored.current.set(id, { sheet: emptySheet, revision: 0 });
    open(latest.current.sheet, id);
  }, [open, latest]);
  const forget = useCallback((id: string) => {
    stored.current.set(id, { sheet: emptySheet, revision: 0 });
    setKept((old) => new Set([...old].filter((each) => each !== id)));
  }, []);
  const isKept = kept.has(now.id);
  return useMemo(
    () => ({
      saving,
      openKept,
      /** Whether the server has the sheet on the page. */
      isKept,
      /** The same under another name: what another window made of it stays. */
      asCopy,
      /** It is gone on the server; where it comes back by Undo it is a new one. */
      forget,
    }),
    [saving, openKept, isKept, asCopy, forget],
  );
}

/** What another window saved since is what one goes on from, unless there is something new here. */
function useNewest(
  isSignedIn: boolean,
  first: SheetState['first'],
  latest: RefObject<Named>,
  openKept: (kept: KeptSheet) => void,
  onGone: () => void,
): void {
  const forget = useSteady(onGone);
  useEffect(() => {
    if (!isSignedIn || first.revision === 0 || first.isNew) return;
    askSheet(first.id).then(
      (kept) => kept.revision > first.revision && latest.current.sheet === first.sheet && openKept(kept),
      (error: unknown) => {
        // It was removed elsewhere: here it is a new one, once it is changed.
        if (error instanceof ApiError && error.status === 404) forget();
      },
    );
  }, [isSignedIn, first, latest, openKept, forget]);
}

export type SheetSaving = ReturnType<typeof useSheetSaving>;

const isWorthKeeping = ({ title, lines }: Sheet): boolean =>
  title.trim() !== '' || lines.some(({ text }) => text.trim() !== '');
