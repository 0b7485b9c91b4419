/** @jest-environment jsdom */
import type { Draft, ExerciseDocument } from '@nailset/core';
import { act, renderHook } from '@testing-library/react';
import { useShelf } from '../src/api/queries';
import { newExercise } from '../src/builder/newExercise';
import { useDraftSaving } from '../src/builder/useDraftSaving';
import { begin, pass, refusal, server, shared, wrapper } from './fakeServer';

beforeEach(begin);

describe('saving a draft', () => {
  const document = newExercise();
  const draft = { id: 'x', document, revision: 4, savedAt: '2026-11-20T14:00:00Z' } as unknown as Draft;
  const titled = (title: string): ExerciseDocument => ({ ...document, title });
  const start = () => renderHook(({ of }) => useDraftSaving(draft, of), { wrapper, initialProps: { of: document } });
  let revision = 4;

  beforeEach(() => {
    jest.useFakeTimers();
    revision = 4;
    server.answer = () => ({ status: 200, body: { revision: ++revision, savedAt: '2026-11-20T14:05:00Z' } });
  });
  afterEach(() => jest.useRealTimers());
  const bodies = () => server.sent.map(({ body }) => body as { revision: number; document: ExerciseDocument });

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
    expect(server.sent).toHaveLength(1);
  });

  test('a change made just before the builder is left is saved', async () => {
    const { rerender, unmount } = start();
    rerender({ of: titled('Last words') });
    unmount();
    await pass(10);
    expect(bodies().map((body) => [body.revision, body.document.title])).toEqual([[4, 'Last words']]);
  });

  test('the shelf is asked for when the last save of the builder that was left for it is through', async () => {
    const page = { wrapper: shared() };
    server.answer = async () => {
      await new Promise((resolve) => setTimeout(resolve, 300));
      return { status: 200, body: { revision: 5, savedAt: '2026-11-20T14:05:00Z' } };
    };
    const builder = renderHook(({ of }) => useDraftSaving(draft, of), { ...page, initialProps: { of: document } });
    builder.rerender({ of: titled('Penstock') });
    builder.unmount();
    const shelf = renderHook(() => useShelf('c'), page);
    await pass(200);
    expect(server.sent.map(({ method }) => method)).toEqual(['PUT']);
    await pass(200);
    expect(server.sent.map(({ method }) => method)).toEqual(['PUT', 'GET']);
    shelf.unmount();
  });

  test('whoever closes the page within a second of the last letter is asked first', async () => {
    const asks = () => !window.dispatchEvent(new Event('beforeunload', { cancelable: true }));
    const { rerender } = start();
    expect(asks()).toBe(false);
    rerender({ of: titled('Last letter') });
    expect(asks()).toBe(true);
    await pass(1000);
    expect(asks()).toBe(false);
    rerender({ of: document });
    expect(asks()).toBe(true);
  });

  test('a change from another window is told and nothing is overwritten', async () => {
    const { rerender, result, unmount } = start();
    server.answer = () => refusal(409, 'changedElsewhere');
    rerender({ of: titled('Mine') });
    await pass(20_000);
    expect(server.sent).toHaveLength(1);
    expect(result.current.saving).toEqual({ state: 'refused', message: 'It is changedElsewhere.' });
    act(() => result.current.giveUp());
    unmount();
    await pass(10);
    expect(server.sent).toHaveLength(1);
  });
});
