import { attempt, emptySheet, Problem, type Sheet, sheetFrom, type SheetLine } from '@nailset/core';
import { useCallback, useEffect, useMemo, useReducer, useState } from 'react';
import { historyOf, historyReducer } from '../shared/history';
import { keepHere, keepInTab, keptHere, keptInTab } from '../shared/keptHere';
import { sheetOfAddress } from './link';

const key = 'nailset open bench';

/** In ms: typing that rests this long is a step of its own. */
const rest = 1500;

/** What this tab showed last, or else what any tab did: two open benches do not overwrite each other. */
function keptSheet(): Sheet {
  const kept = [keptInTab(key), keptHere(key)].map((value) => attempt(() => sheetFrom(value)));
  return kept.find((each): each is Sheet => !(each instanceof Problem)) ?? emptySheet;
}

/**
 * The sheet on the page with undo and redo. It is kept in this browser with every change; one that comes with the
 * address is opened as a copy, and what stood here before comes back by Undo.
 */
export function useSheet() {
  const [history, dispatch] = useReducer(historyReducer<Sheet>, undefined, () => historyOf(keptSheet()));
  const [trouble, setTrouble] = useState('');
  const [opened, setOpened] = useState(0);
  const sheet = history.now;
  useEffect(() => {
    keepInTab(key, sheet);
    keepHere(key, sheet);
    const timer = setTimeout(() => dispatch({ do: 'pause' }), rest);
    return () => clearTimeout(timer);
  }, [sheet]);
  const open = useCallback((to: Sheet) => {
    setTrouble('');
    setOpened((count) => count + 1);
    dispatch({ do: 'change', to });
  }, []);
  useEffect(() => {
    const take = () =>
      void sheetOfAddress(location.hash)
        .then((found) => found && open(found))
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
  const change = useCallback((to: Sheet, typing?: string) => {
    setTrouble('');
    dispatch({ do: 'change', to, typing });
  }, []);
  const changeLine = (index: number, line: Partial<SheetLine>) =>
    change(
      { ...sheet, lines: sheet.lines.map((old, k) => (k === index ? { ...old, ...line } : old)) },
      'drawn' in line || 'panes' in line ? undefined : `${index} ${Object.keys(line).join()}`,
    );
  return {
    ...{ sheet, change, changeLine, open, trouble, setTrouble },
    /** The sheet with how many were opened before it: each is another one, with axes of its own. */
    shown: useMemo(() => ({ sheet, opened }), [sheet, opened]),
    step: useCallback((way: 'undo' | 'redo') => dispatch({ do: way }), []),
    ...{ canUndo: history.past.length > 0, canRedo: history.future.length > 0 },
  };
}

export type SheetState = ReturnType<typeof useSheet>;

/** Of the browser. */
const pages = window.history;
