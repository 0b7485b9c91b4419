/** @jest-environment jsdom */
import type { Bench, ExerciseDocument } from '@nailset/core';
import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { ApiError, askAgain, request } from '../src/api/client';
import { useCheckAgain, useHandIn, useOverride, useVerdicts } from '../src/api/queries';
import { newExercise } from '../src/builder/newExercise';
import { useDraftSaving } from '../src/builder/useDraftSaving';
import type { Work } from '../src/loop/action';
import { saveTable } from '../src/plot/savePlot';
import { workReducer } from '../src/work/work';
import { begin, pass, refusal, server, wrapper } from './fakeServer';

beforeEach(() => {
  begin();
  server.answer = () => ({ status: 200, body: {} });
  jest.useFakeTimers();
});
afterEach(() => jest.useRealTimers());

const queries = () => new QueryClient({ defaultOptions: { queries: { ...askAgain, networkMode: 'always' } } });
const within =
  (client: QueryClient) =>
  ({ children }: { children: ReactNode }) => <QueryClientProvider client={client}>{children}</QueryClientProvider>;
const handed = { key: 'k', versionId: 'v', partId: 'p', answer: { kind: 'number' as const, text: '1' }, trail: [] };

describe('while the database is away for a moment', () => {
  const away = (times: number, then: unknown) => () =>
    server.sent.length <= times ? refusal(503, 'unavailable') : { status: 200, body: then };

  test('a question is asked again until it is answered', async () => {
    server.answer = away(3, { found: true });
    const { result } = renderHook(() => useQuery({ queryKey: ['q'], queryFn: () => request('GET', '/q') }), {
      wrapper: within(queries()),
    });
    await pass(10_000);
    expect(server.sent).toHaveLength(4);
    expect(result.current.data).toEqual({ found: true });
  });

  test.each([404, 409, 422, 401])('a refusal by %i is asked once', async (status) => {
    server.answer = () => refusal(status, 'refused');
    const { result } = renderHook(() => useQuery({ queryKey: ['q'], queryFn: () => request('GET', '/q') }), {
      wrapper: within(queries()),
    });
    await pass(10_000);
    expect(server.sent).toHaveLength(1);
    expect(result.current.error).toBeInstanceOf(ApiError);
  });

  test('a hand-in goes again with the same key, and is given up in the end', async () => {
    server.answer = away(2, { id: 'x', checked: true });
    const { result } = renderHook(() => useHandIn('e'), { wrapper: within(queries()) });
    result.current.mutate({ ...handed, whose: 'me' });
    await pass(10_000);
    expect(server.sent.map(({ body }) => (body as { key: string }).key)).toEqual(['k', 'k', 'k']);
    expect(result.current.isSuccess).toBe(true);
    server.answer = () => refusal(503, 'unavailable');
    result.current.mutate({ ...handed, whose: 'me' });
    await pass(60_000);
    expect([server.sent.length, result.current.isError]).toEqual([8, true]);
  });

  const beingChecked = { exerciseId: 'e', handedIn: [{ id: 'a', checked: false }] } as unknown as Bench;

  test('a verdict is waited for however long that takes', async () => {
    server.answer = away(9, { id: 'a', checked: true });
    const client = queries();
    client.setQueryData(['bench', 'e', 1], beingChecked);
    renderHook(() => useVerdicts(beingChecked), { wrapper: within(client) });
    await pass(60_000);
    expect(server.sent).toHaveLength(10);
    expect(client.getQueryData<Bench>(['bench', 'e', 1])!.handedIn).toEqual([{ id: 'a', checked: true }]);
  });

  test('many verdicts are waited for on two connections, and all come', async () => {
    const done = new Set<string>();
    let [open, most] = [0, 0];
    server.answer = async (path) => {
      open += 1;
      most = Math.max(most, open);
      await new Promise((resolve) => setTimeout(resolve, 500));
      open -= 1;
      const id = path.split('/').at(-1)!;
      done.add(id);
      return { status: 200, body: { id, checked: true } };
    };
    const client = queries();
    const handedIn = ['a', 'b', 'c', 'd', 'e', 'f', 'g'].map((id) => ({ id, checked: false }));
    const queryKey = ['bench', 'e', 1];
    const known = () => client.getQueryData<Bench>(queryKey)!;
    client.setQueryData(queryKey, { ...beingChecked, handedIn });
    renderHook(() => useVerdicts(useQuery({ queryKey, queryFn: known, staleTime: Infinity }).data!), {
      wrapper: within(client),
    });
    await pass(10_000);
    expect([most, [...done].sort()]).toEqual([2, ['a', 'b', 'c', 'd', 'e', 'f', 'g']]);
  });

  test.each([401, 404, 409])('who is answered %i asks no more for a verdict', async (status) => {
    server.answer = () => refusal(status, 'refused');
    renderHook(() => useVerdicts(beingChecked), { wrapper: within(queries()) });
    await pass(60_000);
    expect(server.sent).toHaveLength(1);
  });

  test('a draft is saved again by itself; two saves are never under way at once', async () => {
    const document = newExercise();
    const titled = (title: string): ExerciseDocument => ({ ...document, title });
    const draft = { id: 'x', document, revision: 1, savedAt: '' };
    let underWay = 0;
    let most = 0;
    const plain = globalThis.fetch;
    globalThis.fetch = async (...args: Parameters<typeof fetch>) => {
      most = Math.max(most, ++underWay);
      await new Promise((resolve) => setTimeout(resolve, 3000));
      underWay -= 1;
      return plain(...args);
    };
    server.answer = away(1, { revision: 2, savedAt: '' });
    const { rerender, result } = renderHook(({ of }) => useDraftSaving(draft as never, of), {
      wrapper,
      initialProps: { of: document },
    });
    rerender({ of: titled('One') });
    await pass(2000);
    rerender({ of: titled('Two') });
    await pass(1500);
    void result.current.flush().catch(() => undefined);
    await pass(60_000);
    expect(most).toBe(1);
    expect(result.current.saving.state).toBe('saved');
    expect((server.sent.at(-1)!.body as { document: ExerciseDocument }).document.title).toBe('Two');
  });
});

test.each(['a decision', 'a second check'])('%s brings the sheet up to date', async (name) => {
  const client = queries();
  let asked = 0;
  const { result } = renderHook(
    () => {
      useQuery({ queryKey: ['class', 'e'], queryFn: () => ++asked, staleTime: Infinity });
      return { decide: useOverride('s'), check: useCheckAgain('s') };
    },
    { wrapper: within(client) },
  );
  await pass(10);
  expect(asked).toBe(1);
  if (name === 'a decision') result.current.decide.mutate({ points: 1, reason: 'Seen.' });
  else result.current.check.mutate(undefined);
  await pass(500);
  expect(asked).toBe(2);
});

test('a full trail drops its oldest stop, but none that is pinned or has a name', () => {
  const start = { trails: {}, answers: { p: { kind: 'gains', gains: { Kp: '0' } } }, changes: 0, readable: {} };
  const stopped = (work: Work, k: number): Work =>
    workReducer(workReducer(work, { do: 'set', part: 'p', knob: 'Kp', text: String(k) }), {
      ...{ do: 'stop', part: 'p', holding: 0 },
    } as const);
  let work = [0, 1, 2].reduce(stopped, start as unknown as Work);
  work = workReducer(work, { do: 'pin', part: 'p', index: 0 });
  work = workReducer(work, { do: 'name', part: 'p', index: 1, name: 'the best so far' });
  for (let k = 3; k < 400; k++) work = stopped(work, k);
  const kept = work.trails['p']!;
  expect(kept.length).toBeLessThan(300);
  expect(kept[0]).toMatchObject({ pinned: true, gains: { Kp: '0' } });
  expect(kept[1]).toMatchObject({ name: 'the best so far' });
  expect(kept.at(-1)).toMatchObject({ gains: { Kp: '399' } });
  expect(kept.some(({ gains }) => gains['Kp'] === '2')).toBe(false);
});

test('a table keeps what it holds: commas, quotes and line ends in names', async () => {
  jest.useRealTimers();
  const blobs: Blob[] = [];
  URL.createObjectURL = (blob) => {
    blobs.push(blob as Blob);
    return 'blob:x';
  };
  URL.revokeObjectURL = () => undefined;
  HTMLAnchorElement.prototype.click = () => undefined;
  saveTable(['t, s', 'the "best" y', 'two\nlines'], [[0, 1, null]], 'table');
  const text = await new Promise<string>((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.readAsText(blobs[0]!);
  });
  expect(text).toBe('"t, s","the ""best"" y","two\nlines"\n0,1,\n');
});
