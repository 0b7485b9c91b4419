import { emptySheet, orProblem, Problem, type Sheet, sheetFrom, type SheetLine } from '@nailset/core';
import { useCallback, useEffect, useMemo, useReducer, useState } from 'react';
import { historyOf, historyReducer } from '../../shared/history';
import { keepHere, keepInTab, keptHere, keptInTab } from '../../shared/keptHere';
import { sheetOfAddress } from '../../shared/sheetLink';
import { useLatest } from '../../shared/useLatest';
import { freshId } from './names';

const key = 'nailset open bench';

/** In ms: typing that rests this long is a step of its own. */
const stepRest = 1500;

/** In ms: the browser's storage is written at most so often. */
const keepPause = 50;

/** What a number that is slid is called in the history, before its line. */
const slid = 'slid ';

/** A sheet with the name that it has on the server, or will have once it is kept there. */
export interface Named {
  readonly id: string;
  readonly sheet: Sheet;
}

/** A sheet as this browser keeps it. */
export interface KeptHere extends Named {
  /** What the server had last of it; 0 for one that it does not have. */
  readonly revision: number;
  /** Whether there is something in it that the server does not have. */
  readonly isNew: boolean;
  /** Who was signed in when it was kept; null for nobody. */
  readonly person: string | null;
}

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;

/** What is kept under a key; sheets of before have no name yet. @throws Problem for what is no sheet. */
function keptFrom(value: unknown): KeptHere {
  if (!isObject(value) || !('sheet' in value)) {
    return { id: freshId(), sheet: sheetFrom(value), revision: 0, isNew: true, person: null };
  }
  const { id, sheet, revision, isNew, person } = value;
  return {
    id: typeof id === 'string' ? id : freshId(),
    sheet: sheetFrom(sheet),
    revision: typeof revision === 'number' ? revision : 0,
    isNew: isNew !== false,
    person: typeof person === 'string' ? person : null,
  };
}

/**
 * What this tab showed last, or else what any tab did: two open benches do not overwrite each other. What someone else
 * left in this browser is theirs; what was typed before anyone signed in is whose turn it is.
 * @param owner who is signed in, null for nobody, undefined where that cannot be asked
 */
function keptSheet(owner: string | null | undefined): KeptHere {
  // Whoever signs in just after a letter finds it as well.
  keepNow();
  const kept = [keptInTab(key), keptHere(key)].map((value) => orProblem(() => keptFrom(value)));
  const isOwn = (each: KeptHere) => owner === undefined || each.person === null || each.person === owner;
  const usable = kept.find((each): each is KeptHere => !(each instanceof Problem) && isOwn(each));
  return usable ?? { id: freshId(), sheet: emptySheet, revision: 0, isNew: false, person: owner ?? null };
}

let waiting: KeptHere | undefined;

function keepNow(): void {
  if (!waiting) return;
  keepInTab(key, waiting);
  keepHere(key, waiting);
  waiting = undefined;
}
window.addEventListener('pagehide', keepNow);

/** Keeps a sheet in this browser once what changed in it is painted, and before the page is left. */
export function keepSheetHere(kept: KeptHere): void {
  if (!waiting) setTimeout(keepNow, keepPause);
  waiting = kept;
}

/** What becomes of a sheet, from what it is by then. */
export type SheetChange = Partial<Sheet> | ((now: Sheet) => Partial<Sheet>);

/**
 * The sheet on the page with undo and redo. One that comes with the address is opened as a copy, and what stood here
 * before comes back by Undo, under its own name.
 */
export function useSheet(owner: string | null | undefined) {
  const [first] = useState(() => keptSheet(owner));
  const [history, dispatch] = useReducer(historyReducer<Named>, undefined, () =>
    historyOf<Named>({ id: first.id, sheet: first.sheet }),
  );
  const [trouble, setTrouble] = useState('');
  const [opened, setOpened] = useState(0);
  const { now } = history;
  const { id, sheet } = now;
  useEffect(() => {
    const timer = setTimeout(() => dispatch({ do: 'pause' }), stepRest);
    return () => clearTimeout(timer);
  }, [sheet]);
  const open = useCallback((to: Sheet, as = freshId()) => {
    setTrouble('');
    setOpened((count) => count + 1);
    dispatch({ do: 'change', to: { id: as, sheet: to } });
  }, []);
  useEffect(() => {
    const take = () =>
      void sheetOfAddress(location.hash)
        .then((linked) => linked && open(linked))
        .catch((error: unknown) =>
          setTrouble(
            error instanceof Problem
              ? `The link holds no sheet. ${error.message}`
              : 'The link holds no sheet; it may have been cut short. Copy all of it.',
          ),
        )
        .finally(() => pages.replaceState(pages.state, '', location.pathname));
    if (location.hash) take();
    window.addEventListener('hashchange', take);
    return () => window.removeEventListener('hashchange', take);
  }, [open]);
  const change = useCallback((to: SheetChange, typing?: string) => {
    setTrouble('');
    const by = ({ id, sheet }: Named): Named => ({
      id,
      sheet: { ...sheet, ...(typeof to === 'function' ? to(sheet) : to) },
    });
    dispatch({ do: 'alter', by, typing });
  }, []);
  const changeLine = useCallback(
    (index: number, line: Partial<SheetLine>) =>
      change(
        ({ lines }) => ({ lines: lines.map((old, k) => (k === index ? { ...old, ...line } : old)) }),
        'drawn' in line || 'panes' in line || 'groups' in line ? undefined : `${index} ${Object.keys(line).join()}`,
      ),
    [change],
  );
  const slideLine = useCallback(
    (index: number, text: string) =>
      change(
        ({ lines }) => ({ lines: lines.map((old, k) => (k === index ? { ...old, text } : old)) }),
        `${slid}${index}`,
      ),
    [change],
  );
  const rest = useRest(sheet);
  const latest = useLatest(sheet);
  const sheetNow = useCallback(() => latest.current, [latest]);
  const step = useCallback((way: 'undo' | 'redo') => dispatch({ do: way }), []);
  const [canUndo, canRedo] = [history.past.length > 0, history.future.length > 0];
  return {
    owner: owner ?? first.person,
    ...{ id, sheet, rest, now, first, change, changeLine, slideLine, open, trouble, setTrouble },
    /** The sheet with how many were opened before it: each is another one, with axes of its own. */
    shown: useMemo(() => ({ sheet, opened }), [sheet, opened]),
    /** Whether a number is under a hand: what is drawn goes along, while letters are painted before it. */
    isSlid: history.typing?.startsWith(slid) ?? false,
    step,
    /** What is done with the sheet as a whole: the same object while it is only worked on. */
    controls: useMemo(
      () => ({ id, open, step, canUndo, canRedo, setTrouble, sheetNow }),
      [id, open, step, canUndo, canRedo, sheetNow],
    ),
  };
}

export type SheetState = ReturnType<typeof useSheet>;
export type SheetControls = SheetState['controls'];

/** The sheet without its lines. */
export type SheetRest = Omit<Sheet, 'lines'>;

/** The same object for as long as only lines change. */
function useRest({ format, title, drives, initial, unit, time, nails, data, panes }: Sheet): SheetRest {
  return useMemo(
    () => ({ format, title, drives, initial, unit, time, nails, data, panes }),
    [format, title, drives, initial, unit, time, nails, data, panes],
  );
}

/** Of the browser. */
const pages = window.history;
