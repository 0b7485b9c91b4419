/** @jest-environment jsdom */
import type { Bench } from '@nailset/core';
import { act, renderHook } from '@testing-library/react';
import type { Work, WorkAction } from '../src/loop/action';
import { saveAll } from '../src/shared/saving';
import { openPage } from '../src/work/openPage';
import { unsavedOf } from '../src/work/unsaved';
import { basesOf, useSaving } from '../src/work/useSaving';
import { workFrom, workReducer } from '../src/work/work';
import { begin, pass, refusal, server, wrapper } from './fakeServer';

beforeEach(begin);

describe('saving while working', () => {
  const id = '00000000-0000-0000-0000-000000000000';
  const part = (name: string) =>
    ({ id: name, kind: 'transferFunction', title: name, prompt: '', points: 1, tolerancePercent: 1 }) as const;
  const bench = {
    exerciseId: id,
    mayHandIn: true,
    parts: [part('a'), part('b')],
    saved: [],
    handedIn: [],
  } as unknown as Bench;
  const type = (work: Work, name: string, text: string) =>
    workReducer(work, { do: 'answer', part: name, answer: { kind: 'transferFunction', text } });

  const dispatched: WorkAction[] = [];
  const unsaved = unsavedOf('person', 'version');
  beforeEach(() => localStorage.clear());

  const start = (of = bench) => {
    const first = workFrom(of);
    dispatched.length = 0;
    const page = openPage();
    const hook = renderHook(
      ({ work }) =>
        useSaving(of, work, (action) => dispatched.push(action), unsaved, { whose: 'ada', bases: basesOf(of), page }),
      { wrapper, initialProps: { work: first } },
    );
    return { ...hook, first };
  };

  beforeEach(() => {
    jest.useFakeTimers();
    server.answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:02:00Z', revision: 1 } });
  });
  afterEach(() => jest.useRealTimers());

  test('waits for a pause, and sends only the part that changed', async () => {
    const { first, rerender, result } = start();
    await pass(5000);
    expect(server.sent).toEqual([]);
    const once = type(first, 'b', '1/');
    rerender({ work: once });
    await pass(300);
    const twice = type(once, 'b', '1/s');
    rerender({ work: twice });
    await pass(1000);
    expect(server.sent).toMatchObject([
      { method: 'PUT', path: `/api/exercises/${id}/answers/b`, body: { answer: { text: '1/s' } } },
    ]);
    expect(result.current.saving).toEqual({ state: 'saved', at: '2026-11-20T14:02:00Z' });
  });

  test('is in time when the view is left, or someone signs out, before the pause is over', async () => {
    const { first, rerender, unmount } = start();
    const once = type(first, 'a', '1/s');
    rerender({ work: once });
    await act(() => saveAll());
    expect(server.sent.map(({ body }) => body)).toMatchObject([{ answer: { text: '1/s' } }]);
    expect(unsaved.find()).toBeUndefined();
    rerender({ work: type(once, 'a', '2/s') });
    unmount();
    await pass(10);
    expect(server.sent.map(({ body }) => body)).toMatchObject([
      { answer: { text: '1/s' } },
      { answer: { text: '2/s' } },
    ]);
    expect(unsaved.find()).toBeUndefined();
    await saveAll();
    expect(server.sent).toHaveLength(2);
  });

  test('signing out waits for it no longer than the connection allows', async () => {
    const { first, rerender } = start();
    server.answer = () => 'lost';
    rerender({ work: type(first, 'a', '1/s') });
    await act(() => saveAll());
    expect(unsaved.find()!.work.answers['a']).toMatchObject({ text: '1/s' });
  });

  test('says when it is offline, tries again, and then sends the newest', async () => {
    const { first, rerender, result } = start();
    server.answer = () => 'lost';
    rerender({ work: type(first, 'a', '1/s') });
    await pass(1000);
    expect(result.current.saving.state).toBe('offline');
    rerender({ work: type(first, 'a', '2/s') });
    server.answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:03:00Z', revision: 1 } });
    await pass(6000);
    expect(server.sent.at(-1)!.body).toMatchObject({ answer: { text: '2/s' } });
    expect(result.current.saving.state).toBe('saved');
  });

  test('keeps in this browser what has not reached the server, for this person and version alone', async () => {
    const { first, rerender, unmount } = start();
    server.answer = () => 'lost';
    rerender({ work: type(first, 'a', '1/s') });
    await pass(1000);
    unmount();
    expect(unsaved.find()!.work.answers['a']).toEqual({ kind: 'transferFunction', text: '1/s' });
    expect(unsavedOf('another person', 'version').find()).toBeUndefined();
    expect(workFrom(bench, unsaved.find()!.work).answers['a']).toEqual({ kind: 'transferFunction', text: '1/s' });
  });

  test('forgets it once it is saved, but not what was typed meanwhile', async () => {
    const { first, rerender } = start();
    const once = type(first, 'a', '1/s');
    rerender({ work: once });
    expect(unsaved.find()).toBeDefined();
    await pass(2000);
    expect(unsaved.find()).toBeUndefined();
    rerender({ work: type(once, 'a', '2/s') });
    expect(unsaved.find()!.work.answers['a']).toMatchObject({ text: '2/s' });
  });

  test('a browser without storage works all the same', () => {
    const broken = jest.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
      throw new Error('full');
    });
    expect(() => unsaved.keep({ work: workFrom(bench), bases: {}, page: 'p' })).not.toThrow();
    broken.mockRestore();
    localStorage.setItem('nailset unsaved person version', '{half');
    expect(unsaved.find()).toBeUndefined();
  });

  test('says what the server refuses and does not insist', async () => {
    const { first, rerender, result } = start();
    server.answer = () => refusal(404, 'notFound');
    rerender({ work: type(first, 'a', '1/s') });
    await pass(20_000);
    expect(server.sent).toHaveLength(1);
    expect(result.current.saving).toEqual({ state: 'refused', message: 'It is notFound.' });
  });

  test('goes on by itself once someone has signed in again', async () => {
    const { first, rerender, result } = start();
    server.answer = () => refusal(401, 'notSignedIn');
    rerender({ work: type(first, 'a', '1/s') });
    await pass(1000);
    expect(result.current.saving).toEqual({ state: 'refused', message: 'It is notSignedIn.' });
    server.answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:04:00Z', revision: 1 } });
    await pass(4500);
    await pass(100);
    expect(result.current.saving.state).toBe('saved');
  });

  test('keeps far too long a text to itself', async () => {
    const { first, rerender } = start();
    rerender({ work: type(first, 'a', '('.repeat(5000)) });
    await pass(2000);
    expect(server.sent).toEqual([]);
  });

  test('sends nothing for those who only watch', async () => {
    const { first, rerender } = start({ ...bench, mayHandIn: false });
    rerender({ work: type(first, 'a', '1/s') });
    await pass(2000);
    expect(server.sent).toEqual([]);
  });

  test('never lets an older save overtake a newer one', async () => {
    const { first, rerender } = start();
    let release: () => void = () => undefined;
    const slow = new Promise<void>((resolve) => (release = resolve));
    const real = globalThis.fetch;
    globalThis.fetch = (async (path: string, init: RequestInit) => {
      const reply = await real(path, init);
      if (server.sent.length === 1) await slow;
      return reply;
    }) as typeof fetch;
    const once = type(first, 'a', '1/s');
    rerender({ work: once });
    await pass(1000);
    rerender({ work: type(once, 'a', '2/s') });
    await pass(5000);
    expect(server.sent).toHaveLength(1);
    release();
    await pass(1000);
    expect(server.sent.map(({ body }) => body)).toMatchObject([
      { answer: { text: '1/s' }, base: 0, count: 1 },
      { answer: { text: '2/s' }, base: 1, count: 2 },
    ]);
  });

  describe('an answer that another window has changed', () => {
    const theirs = { partId: 'a', answer: { kind: 'transferFunction', text: '7/s' }, trail: [], revision: 9 };
    const changedThere = () => {
      server.answer = (path) =>
        path.endsWith('/bench') ? { status: 200, body: { saved: [theirs] } } : refusal(409, 'answerChanged');
      const hook = start();
      hook.rerender({ work: type(hook.first, 'a', '1/s') });
      return hook;
    };

    test('is not overwritten: it says so and waits for a choice', async () => {
      const { result } = changedThere();
      await pass(20_000);
      expect(server.sent.filter(({ method }) => method === 'PUT')).toHaveLength(1);
      expect(result.current.changed).toEqual([{ partId: 'a', theirs }]);
      expect(result.current.saving).toMatchObject({ state: 'refused' });
      expect(unsaved.find()!.work.answers['a']).toMatchObject({ text: '1/s' });
    });

    test('gives way where this one is kept', async () => {
      const { result } = changedThere();
      await pass(1000);
      server.answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:05:00Z', revision: 10 } });
      act(() => result.current.settle('mine'));
      await pass(1000);
      expect(server.sent.at(-1)!.body).toMatchObject({ answer: { text: '1/s' }, base: 9 });
      expect(result.current.changed).toEqual([]);
    });

    test('comes onto the bench where it is wanted', async () => {
      const { result } = changedThere();
      await pass(1000);
      act(() => result.current.settle('theirs'));
      expect(dispatched).toEqual([{ do: 'adopt', part: 'a', answer: theirs.answer, trail: [] }]);
    });

    test('is no matter where it is the same', async () => {
      server.answer = (path) =>
        path.endsWith('/bench')
          ? { status: 200, body: { saved: [{ ...theirs, answer: { kind: 'transferFunction', text: '1 / s' } }] } }
          : refusal(409, 'answerChanged');
      const { first, rerender, result } = start();
      rerender({ work: type(first, 'a', '1/s') });
      await pass(800);
      expect(result.current.changed).toEqual([]);
    });
  });

  test.each([
    ['nothing of ours', '[1, 2]'],
    ['an answer of a kind that there is no more', JSON.stringify(kept({ kind: 'sonnet', text: 'x' }))],
    ['settings that are no texts', JSON.stringify(kept({ kind: 'gains', gains: { Kp: 4 } }))],
    ['an answer without its text', JSON.stringify(kept({ kind: 'transferFunction' }))],
  ])('believes nothing that it has not written: %s', (_name, text) => {
    localStorage.setItem('nailset unsaved person version', text);
    expect(unsaved.find()).toBeUndefined();
  });

  test('takes over what an earlier release has kept', () => {
    const { work } = kept({ kind: 'transferFunction', text: '1/s' });
    localStorage.setItem('nailset unsaved person version', JSON.stringify(work));
    expect(unsaved.find()!.work.answers['a']).toEqual({ kind: 'transferFunction', text: '1/s' });
  });

  test('what another page keeps is not forgotten with one’s own', () => {
    unsaved.keep({ work: workFrom(bench), bases: {}, page: 'theirs' });
    unsaved.forget('mine');
    expect(unsaved.find()).toBeDefined();
  });
});

function kept(answer: unknown) {
  const work = { open: 'a', chosen: '', answers: { a: answer }, trails: { a: [] }, readable: {}, changes: 1 };
  return { work, bases: { a: 1 }, page: 'page' };
}
