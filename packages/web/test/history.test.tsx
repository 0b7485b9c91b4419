/** @jest-environment jsdom */
import type { ExerciseDocument } from '@nailset/core';
import { act, renderHook } from '@testing-library/react';
import { newExercise, newPart } from '../src/builder/newExercise';
import { onlyLeaf, useDocumentHistory } from '../src/builder/useDocumentHistory';
import { type HistoryAction, historyOf, historyReducer, undoKey } from '../src/shared/history';

const after = (...actions: HistoryAction<string>[]) => actions.reduce(historyReducer<string>, historyOf('a'));
const type = (to: string, typing = 'text') => ({ do: 'change' as const, to, typing });
const undo = { do: 'undo' as const };

describe('a history', () => {
  test('takes what is typed in one place in one go as one step', () => {
    const typed = [type('ab'), type('abc'), { do: 'change' as const, to: 'x' }];
    expect(after(...typed, undo).now).toBe('abc');
    expect(after(...typed, undo, undo).now).toBe('a');
    expect(after(type('ab'), type('ab2', 'other'), undo).now).toBe('ab');
    expect(after(type('ab'), { do: 'pause' }, type('abc'), undo).now).toBe('ab');
  });

  test('is altered from what it is by then, letter by letter in one step', () => {
    const more = (by: string) => ({ do: 'alter' as const, by: (now: string) => now + by, typing: 'text' });
    expect(after(more('b'), more('c')).now).toBe('abc');
    expect(after(type('x', 'other'), more('b'), more('c'), undo).now).toBe('x');
  });

  test('goes as far as there is something, and forgets what was undone with the next change', () => {
    expect(after(undo).now).toBe('a');
    expect(after({ do: 'redo' }).now).toBe('a');
    expect(after(type('b'), undo, { do: 'redo' }).now).toBe('b');
    expect(after(type('b'), undo, type('c'), { do: 'redo' })).toMatchObject({ now: 'c', future: [] });
    expect(after(type('a'))).toMatchObject({ past: [] });
  });

  test.each([
    [{ key: 'z', ctrlKey: true }, 'undo'],
    [{ key: 'Z', metaKey: true, shiftKey: true }, 'redo'],
    [{ key: 'y', ctrlKey: true }, 'redo'],
    [{ key: 'z' }, undefined],
    [{ key: 'x', ctrlKey: true }, undefined],
  ])('%j asks for %s', (event, way) => {
    expect(undoKey({ ctrlKey: false, metaKey: false, shiftKey: false, ...event })).toBe(way);
  });
});

test('where two documents differ in one text or number, and whether they do at all', () => {
  const one = {
    title: 'a',
    parts: [
      { id: 'x', points: 1 },
      { id: 'y', points: 2 },
    ],
  };
  expect(
    onlyLeaf(one, {
      parts: [
        { points: 1, id: 'x' },
        { id: 'y', points: 2 },
      ],
      title: 'a',
    }),
  ).toBe('');
  expect(onlyLeaf(one, { ...one, title: 'b' })).toBe('/title/');
  expect(onlyLeaf(one, { ...one, parts: [one.parts[0], { id: 'y', points: 3 }] })).toBe('/parts/1/points/');
  expect(onlyLeaf(one, { ...one, title: 'b', parts: [one.parts[0], { id: 'y', points: 3 }] })).toBeUndefined();
  expect(onlyLeaf(one, { ...one, parts: [one.parts[0]] })).toBeUndefined();
  expect(onlyLeaf(one, { ...one, extra: 1 })).toBeUndefined();
});

describe('the draft in the builder', () => {
  const opened = (document: ExerciseDocument, id = 'e1', whose = 'ada') =>
    renderHook(() => useDocumentHistory({ id, document }, whose)).result;
  const titled = (title: string) => (old: ExerciseDocument) => ({ ...old, title });

  test('parts come back as they were, and go again', () => {
    const start = newExercise();
    const page = opened(start);
    expect([page.current.canUndo, page.current.canRedo]).toEqual([false, false]);
    act(() => page.current.edit((old) => ({ ...old, parts: [...old.parts, newPart('number', ['tune'])] })));
    act(() => page.current.edit((old) => ({ ...old, parts: old.parts.slice(1) })));
    act(() => page.current.step('undo'));
    expect(page.current.document.parts.map(({ kind }) => kind)).toEqual(['gains', 'number']);
    act(() => page.current.step('undo'));
    // The very document that is stored, so that nothing is left to be saved.
    expect(page.current.document).toBe(start);
    act(() => page.current.step('redo'));
    act(() => page.current.step('redo'));
    expect(page.current.document.parts.map(({ kind }) => kind)).toEqual(['number']);
    expect(page.current.canRedo).toBe(false);
  });

  test('letters of one field are one step until the hands rest', () => {
    jest.useFakeTimers();
    const page = opened(newExercise(), 'e2');
    act(() => page.current.edit(titled('C')));
    act(() => page.current.edit(titled('Cr')));
    act(() => jest.advanceTimersByTime(2000));
    act(() => page.current.edit(titled('Cra')));
    act(() => page.current.step('undo'));
    expect(page.current.document.title).toBe('Cr');
    act(() => page.current.step('undo'));
    expect(page.current.document.title).toBe('New exercise');
    jest.useRealTimers();
  });

  test('is kept while its page is left, unless another window has changed it since', () => {
    const start = newExercise();
    const before = opened(start, 'e3');
    act(() => before.current.edit(titled('Winch')));
    // A database gives the keys back in another order.
    const stored = Object.fromEntries(Object.entries({ ...start, title: 'Winch' }).reverse()) as ExerciseDocument;
    const again = opened(stored, 'e3');
    expect(again.current.document).toBe(stored);
    act(() => again.current.step('undo'));
    expect(again.current.document.title).toBe('New exercise');
    act(() => again.current.step('redo'));
    expect(opened({ ...start }, 'e3', 'bo').current.canUndo).toBe(false);
    const elsewhere = opened({ ...start, title: 'Gate' }, 'e3');
    expect([elsewhere.current.canUndo, elsewhere.current.document.title]).toEqual([false, 'Gate']);
  });
});
