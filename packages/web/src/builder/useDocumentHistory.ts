import type { Draft, ExerciseDocument } from '@nailset/core';
import { useCallback, useEffect, useReducer } from 'react';
import { type History, type HistoryAction, historyOf, historyReducer } from '../shared/history';

/** In ms: typing that rests this long is a step of its own. */
const rest = 1500;

/** What was done, and by whom, to the drafts that were open last on this page, so that leaving one and coming back keeps it. */
const left = new Map<string, History<ExerciseDocument>>();
const mostLeft = 5;

type Change = ExerciseDocument | ((document: ExerciseDocument) => ExerciseDocument);

/** The document on the page, with undo and redo. */
export function useDocumentHistory({ id: draftId, document: stored }: Pick<Draft, 'id' | 'document'>, whose: string) {
  const id = `${whose} ${draftId}`;
  const [history, dispatch] = useReducer(documentReducer, undefined, () => reopened(left.get(id), stored));
  const { now } = history;
  useEffect(() => {
    left.delete(id);
    left.set(id, history);
    for (const oldest of [...left.keys()].slice(0, -mostLeft)) left.delete(oldest);
  }, [id, history]);
  useEffect(() => {
    const timer = setTimeout(() => dispatch({ do: 'pause' }), rest);
    return () => clearTimeout(timer);
  }, [now]);
  const edit = useCallback((change: Change) => dispatch({ do: 'edit', change }), []);
  const step = useCallback((way: 'undo' | 'redo') => dispatch({ do: way }), []);
  return { document: now, edit, step, canUndo: history.past.length > 0, canRedo: history.future.length > 0 };
}

type Action = { do: 'edit'; change: Change } | Exclude<HistoryAction<ExerciseDocument>, { do: 'change' }>;

function documentReducer(state: History<ExerciseDocument>, action: Action): History<ExerciseDocument> {
  if (action.do !== 'edit') return historyReducer(state, action);
  const { now } = state;
  const to = typeof action.change === 'function' ? action.change(now) : action.change;
  return historyReducer(state, { do: 'change', to, typing: onlyLeaf(now, to) });
}

/** The draft as it is stored, with what was done to it before, if it is still what it was when the page was left. */
function reopened(before: History<ExerciseDocument> | undefined, stored: ExerciseDocument): History<ExerciseDocument> {
  if (!before || onlyLeaf(before.now, stored) !== '') return historyOf(stored);
  return { ...before, now: stored, typing: undefined };
}

/**
 * Where two documents differ, if that is one text or number: its path. Empty where they do not differ at all, undefined
 * where they differ in more.
 */
export function onlyLeaf(one: unknown, other: unknown): string | undefined {
  if (Object.is(one, other)) return '';
  const isBranch = (value: unknown): value is object => typeof value === 'object' && value !== null;
  if (!isBranch(one) || !isBranch(other)) return isBranch(one) || isBranch(other) ? undefined : '/';
  const [left, right] = [new Map(Object.entries(one)), new Map(Object.entries(other))];
  let leaf = '';
  for (const key of new Set([...left.keys(), ...right.keys()])) {
    const place = left.has(key) === right.has(key) ? onlyLeaf(left.get(key), right.get(key)) : undefined;
    if (place === undefined || (place && leaf)) return undefined;
    if (place) leaf = `/${key}${place}`;
  }
  return leaf;
}
