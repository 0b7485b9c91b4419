/** @jest-environment jsdom */
import type { Bench, Draft, ExerciseDocument } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { type ApiError, askSession, isOffline, rememberToken, request } from '../src/api/client';
import { unsavedOf } from '../src/bench/unsaved';
import { basesOf, useSaving } from '../src/bench/useSaving';
import { type Work, type WorkAction, workFrom, workReducer } from '../src/bench/work';
import { newExercise } from '../src/builder/newExercise';
import { useDraftSaving } from '../src/builder/useDraftSaving';
import { letGo, pageOwner } from '../src/api/page';
import { serverNow } from '../src/api/serverClock';
import { saveAll } from '../src/shared/saving';
import { answered } from './page';

/** What the page sent, and what it is answered. */
const sent: { method: string; path: string; body: unknown; token: string | undefined; whose: string | undefined }[] =
  [];
let serverDate: string | null = null;
let answer: (path: string) => { status: number; body: unknown } | 'lost' = () => ({ status: 200, body: {} });

beforeEach(() => {
  sent.length = 0;
  serverDate = null;
  letGo();
  globalThis.fetch = (async (path: string, { method, body, headers }: RequestInit) => {
    const given = headers as Record<string, string>;
    sent.push({
      method: method!,
      path,
      body: body ? JSON.parse(body as string) : undefined,
      token: given['x-csrf-token'],
      whose: given['x-nailset-person'],
    });
    const reply = answer(path);
    if (reply === 'lost') throw new TypeError('Failed to fetch');
    return answered(reply.status, reply.body, serverDate);
  }) as unknown as typeof fetch;
});

const refusal = (status: number, code: string) => ({ status, body: { error: { code, message: `It is ${code}.` } } });

describe('requests', () => {
  test('changes carry the token, questions do not', async () => {
    rememberToken('t1');
    answer = () => ({ status: 200, body: { fine: true } });
    expect(await request('POST', '/courses', { name: 'x' })).toEqual({ fine: true });
    await request('GET', '/session');
    expect(sent.map(({ path, token }) => [path, token])).toEqual([
      ['/api/courses', 't1'],
      ['/api/session', undefined],
    ]);
  });

  test('an outdated token is renewed and the change repeated, once', async () => {
    rememberToken('old');
    answer = (path) =>
      path === '/api/session' ? { status: 200, body: { csrfToken: 'new' } } : refusal(403, 'wrongToken');
    await expect(request('POST', '/courses', {})).rejects.toMatchObject({ code: 'wrongToken' });
    expect(sent.map(({ path, token }) => `${path} ${token}`)).toEqual([
      '/api/courses old',
      '/api/session undefined',
      '/api/courses new',
    ]);
  });

  test('errors come in the server’s words, or in ours when there are none', async () => {
    answer = () => refusal(409, 'pastDue');
    await expect(request('POST', '/x')).rejects.toMatchObject({ status: 409, message: 'It is pastDue.' });
    answer = () => ({ status: 502, body: null });
    await expect(request('POST', '/x')).rejects.toMatchObject({
      code: 'internal',
      message: expect.stringContaining('Try again') as string,
    });
    answer = () => 'lost';
    const lost = await request('GET', '/x').catch((error: ApiError) => error);
    expect(isOffline(lost)).toBe(true);
  });
});

const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient({ defaultOptions: { mutations: { networkMode: 'always' } } })}>
    {children}
  </QueryClientProvider>
);
const pass = (milliseconds: number) => act(() => jest.advanceTimersByTimeAsync(milliseconds));

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
  const type = (work: Work, name: string, text: string) => workReducer(work, { do: 'type', part: name, text });

  const dispatched: WorkAction[] = [];
  const unsaved = unsavedOf('person', 'version');
  beforeEach(() => localStorage.clear());

  const start = (of = bench) => {
    const first = workFrom(of);
    dispatched.length = 0;
    const hook = renderHook(
      ({ work }) =>
        useSaving(of, work, (action) => dispatched.push(action), unsaved, { whose: 'ada', bases: basesOf(of) }),
      { wrapper, initialProps: { work: first } },
    );
    return { ...hook, first };
  };

  beforeEach(() => {
    jest.useFakeTimers();
    answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:02:00Z', revision: 1 } });
  });
  afterEach(() => jest.useRealTimers());

  test('waits for a pause, and sends only the part that changed', async () => {
    const { first, rerender, result } = start();
    await pass(5000);
    expect(sent).toEqual([]);
    const once = type(first, 'b', '1/');
    rerender({ work: once });
    await pass(300);
    const twice = type(once, 'b', '1/s');
    rerender({ work: twice });
    await pass(1000);
    expect(sent).toMatchObject([
      { method: 'PUT', path: `/api/exercises/${id}/answers/b`, body: { answer: { text: '1/s' } } },
    ]);
    expect(result.current.saving).toEqual({ state: 'saved', at: '2026-11-20T14:02:00Z' });
  });

  test('is in time when the view is left, or someone signs out, before the pause is over', async () => {
    const { first, rerender, unmount } = start();
    const once = type(first, 'a', '1/s');
    rerender({ work: once });
    await act(() => saveAll());
    expect(sent.map(({ body }) => body)).toMatchObject([{ answer: { text: '1/s' } }]);
    expect(unsaved.find()).toBeUndefined();
    rerender({ work: type(once, 'a', '2/s') });
    unmount();
    await pass(10);
    expect(sent.map(({ body }) => body)).toMatchObject([{ answer: { text: '1/s' } }, { answer: { text: '2/s' } }]);
    expect(unsaved.find()).toBeUndefined();
    await saveAll();
    expect(sent).toHaveLength(2);
  });

  test('signing out waits for it no longer than the connection allows', async () => {
    const { first, rerender } = start();
    answer = () => 'lost';
    rerender({ work: type(first, 'a', '1/s') });
    await act(() => saveAll());
    expect(unsaved.find()!.work.answers['a']).toMatchObject({ text: '1/s' });
  });

  test('says when it is offline, tries again, and then sends the newest', async () => {
    const { first, rerender, result } = start();
    answer = () => 'lost';
    rerender({ work: type(first, 'a', '1/s') });
    await pass(1000);
    expect(result.current.saving.state).toBe('offline');
    rerender({ work: type(first, 'a', '2/s') });
    answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:03:00Z', revision: 1 } });
    await pass(6000);
    expect(sent.at(-1)!.body).toMatchObject({ answer: { text: '2/s' } });
    expect(result.current.saving.state).toBe('saved');
  });

  test('keeps in this browser what has not reached the server, for this person and version alone', async () => {
    const { first, rerender, unmount } = start();
    answer = () => 'lost';
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
    answer = () => refusal(404, 'notFound');
    rerender({ work: type(first, 'a', '1/s') });
    await pass(20_000);
    expect(sent).toHaveLength(1);
    expect(result.current.saving).toEqual({ state: 'refused', message: 'It is notFound.' });
  });

  test('goes on by itself once someone has signed in again', async () => {
    const { first, rerender, result } = start();
    answer = () => refusal(401, 'notSignedIn');
    rerender({ work: type(first, 'a', '1/s') });
    await pass(1000);
    expect(result.current.saving).toEqual({ state: 'refused', message: 'It is notSignedIn.' });
    answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:04:00Z', revision: 1 } });
    await pass(4500);
    await pass(100);
    expect(result.current.saving.state).toBe('saved');
  });

  test('keeps far too long a text to itself', async () => {
    const { first, rerender } = start();
    rerender({ work: type(first, 'a', '('.repeat(5000)) });
    await pass(2000);
    expect(sent).toEqual([]);
  });

  test('sends nothing for those who only watch', async () => {
    const { first, rerender } = start({ ...bench, mayHandIn: false });
    rerender({ work: type(first, 'a', '1/s') });
    await pass(2000);
    expect(sent).toEqual([]);
  });

  test('never lets an older save overtake a newer one', async () => {
    const { first, rerender } = start();
    let release: () => void = () => undefined;
    const slow = new Promise<void>((resolve) => (release = resolve));
    const real = globalThis.fetch;
    globalThis.fetch = (async (path: string, init: RequestInit) => {
      const reply = await real(path, init);
      if (sent.length === 1) await slow;
      return reply;
    }) as typeof fetch;
    const once = type(first, 'a', '1/s');
    rerender({ work: once });
    await pass(1000);
    rerender({ work: type(once, 'a', '2/s') });
    await pass(5000);
    expect(sent).toHaveLength(1);
    release();
    await pass(1000);
    expect(sent.map(({ body }) => body)).toMatchObject([
      { answer: { text: '1/s' }, base: 0, count: 1 },
      { answer: { text: '2/s' }, base: 1, count: 2 },
    ]);
  });

  describe('an answer that another window has changed', () => {
    const theirs = { partId: 'a', answer: { kind: 'transferFunction', text: '7/s' }, trail: [], revision: 9 };
    const changedThere = () => {
      answer = (path) =>
        path.endsWith('/bench') ? { status: 200, body: { saved: [theirs] } } : refusal(409, 'answerChanged');
      const hook = start();
      hook.rerender({ work: type(hook.first, 'a', '1/s') });
      return hook;
    };

    test('is not overwritten: it says so and waits for a choice', async () => {
      const { result } = changedThere();
      await pass(20_000);
      expect(sent.filter(({ method }) => method === 'PUT')).toHaveLength(1);
      expect(result.current.changed).toEqual([{ partId: 'a', theirs }]);
      expect(unsaved.find()!.work.answers['a']).toMatchObject({ text: '1/s' });
    });

    test('gives way where this one is kept', async () => {
      const { result } = changedThere();
      await pass(1000);
      answer = () => ({ status: 200, body: { savedAt: '2026-11-20T14:05:00Z', revision: 10 } });
      act(() => result.current.settle('mine'));
      await pass(1000);
      expect(sent.at(-1)!.body).toMatchObject({ answer: { text: '1/s' }, base: 9 });
      expect(result.current.changed).toEqual([]);
    });

    test('comes onto the bench where it is wanted', async () => {
      const { result } = changedThere();
      await pass(1000);
      act(() => result.current.settle('theirs'));
      expect(dispatched).toEqual([{ do: 'adopt', part: 'a', answer: theirs.answer, trail: [] }]);
    });

    test('is no matter where it is the same', async () => {
      answer = (path) =>
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

describe('whose page it is', () => {
  const ada = { id: 'ada', name: 'Ada', email: 'ada@harbour.example' };
  const bo = { id: 'bo', name: 'Bo', email: 'bo@harbour.example' };
  const signedIn = (person: unknown, csrfToken = 't') => ({ status: 200, body: { csrfToken, person } });

  test('goes with every request', async () => {
    answer = () => signedIn(ada);
    await askSession();
    await request('GET', '/x');
    await request('POST', '/x', {});
    expect(sent.slice(1).map(({ whose }) => whose)).toEqual(['ada', 'ada']);
  });

  test('does not change when someone else signs in in another tab: nothing is repeated for them', async () => {
    answer = () => signedIn(ada);
    await askSession();
    rememberToken('old');
    answer = (path) => (path === '/api/session' ? signedIn(bo, 'new') : refusal(403, 'wrongToken'));
    await expect(request('POST', '/x', {})).rejects.toMatchObject({ code: 'wrongToken' });
    expect(sent.filter(({ path }) => path === '/api/x')).toHaveLength(1);
    expect(pageOwner()).toEqual({ person: ada, other: bo });
    expect(await askSession()).toBeUndefined();
  });

  test('is asked when the server says that someone else is there', async () => {
    answer = () => signedIn(ada);
    await askSession();
    answer = (path) => (path === '/api/session' ? signedIn(bo) : refusal(409, 'otherPerson'));
    await expect(request('PUT', '/x', {})).rejects.toMatchObject({ code: 'otherPerson' });
    expect(pageOwner().other).toEqual(bo);
  });

  test('stays with its owner after the session has ended, until someone signs in', async () => {
    answer = () => signedIn(ada);
    await askSession();
    answer = () => signedIn(null);
    await askSession();
    await request('PUT', '/x', {}).catch(() => undefined);
    expect(sent.at(-1)!.whose).toBe('ada');
    letGo();
    answer = () => signedIn(bo);
    expect((await askSession())!.person).toEqual(bo);
    expect(pageOwner()).toEqual({ person: bo, other: null });
  });
});

test('the server’s time counts, whatever this device’s clock says', async () => {
  answer = () => ({ status: 200, body: {} });
  serverDate = new Date(Date.now() + 3 * 3_600_000).toUTCString();
  await request('GET', '/x');
  expect(Math.abs(serverNow() - Date.now() - 3 * 3_600_000)).toBeLessThan(1500);
  serverDate = new Date().toUTCString();
  await request('GET', '/x');
  expect(Math.abs(serverNow() - Date.now())).toBeLessThan(1500);
});

describe('saving a draft', () => {
  const document = newExercise();
  const draft = { id: 'x', document, revision: 4, savedAt: '2026-11-20T14:00:00Z' } as unknown as Draft;
  const titled = (title: string): ExerciseDocument => ({ ...document, title });
  const start = () => renderHook(({ of }) => useDraftSaving(draft, of), { wrapper, initialProps: { of: document } });
  let revision = 4;

  beforeEach(() => {
    jest.useFakeTimers();
    revision = 4;
    answer = () => ({ status: 200, body: { revision: ++revision, savedAt: '2026-11-20T14:05:00Z' } });
  });
  afterEach(() => jest.useRealTimers());
  const bodies = () => sent.map(({ body }) => body as { revision: number; document: ExerciseDocument });

  test('each save goes over the revision before it', async () => {
    const { rerender, result } = start();
    rerender({ of: titled('One') });
    await pass(1000);
    rerender({ of: titled('Two') });
    await pass(1000);
    expect(bodies().map((body) => [body.revision, body.document.title])).toEqual([
      [4, 'One'],
      [5, 'Two'],
    ]);
    expect(result.current.saving).toEqual({ state: 'saved', at: '2026-11-20T14:05:00Z' });
  });

  test('flushing saves at once and gives the revision', async () => {
    const { rerender, result } = start();
    rerender({ of: titled('Now') });
    let flushed: number | undefined;
    await act(async () => {
      flushed = await result.current.flush();
    });
    expect(flushed).toBe(5);
    await pass(2000);
    expect(sent).toHaveLength(1);
  });

  test('a change made just before the builder is left is saved', async () => {
    const { rerender, unmount } = start();
    rerender({ of: titled('Last words') });
    unmount();
    await pass(10);
    expect(bodies().map((body) => [body.revision, body.document.title])).toEqual([[4, 'Last words']]);
  });

  test('a change from another window is told and nothing is overwritten', async () => {
    const { rerender, result, unmount } = start();
    answer = () => refusal(409, 'changedElsewhere');
    rerender({ of: titled('Mine') });
    await pass(20_000);
    expect(sent).toHaveLength(1);
    expect(result.current.saving).toEqual({ state: 'refused', message: 'It is changedElsewhere.' });
    result.current.giveUp();
    unmount();
    await pass(10);
    expect(sent).toHaveLength(1);
  });
});
