/** @jest-environment jsdom */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { askEarly } from '../src/api/early';
import { classQuery, useClassSheet } from '../src/api/queries';
import { begin, refusal, server } from './fakeServer';

beforeEach(begin);

const signedIn = (person: unknown) => ({ status: 200, body: { csrfToken: 't', person } });
const ada = { id: 'ada', name: 'Ada', email: 'ada@harbour.example' };
const asks = () => server.sent.map(({ path, whose }) => [path, whose]);
const within = (queries: QueryClient) =>
  function Within({ children }: { children: ReactNode }) {
    return <QueryClientProvider client={queries}>{children}</QueryClientProvider>;
  };

describe('what the first view needs', () => {
  const queries = () => new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 5000 } } });

  test('is asked for by the one whose page it is, once, and is there when the view is first drawn', async () => {
    server.answer = (asked) => (asked === '/api/session' ? signedIn(ada) : { status: 200, body: { title: 'Crane' } });
    const client = queries();
    await askEarly(client, classQuery('e'));
    const { result } = renderHook(() => useClassSheet('e'), { wrapper: within(client) });
    expect(result.current.data).toEqual({ title: 'Crane' });
    expect(asks()).toEqual([
      ['/api/session', undefined],
      ['/api/exercises/e/class', 'ada'],
    ]);
    // Signing out leaves nothing of it to whoever comes next.
    server.answer = () => refusal(403, 'forbidden');
    await client.resetQueries();
    await waitFor(() => expect(result.current).toMatchObject({ isError: true, data: undefined }));
  });

  test('is not asked for while nobody is signed in', async () => {
    server.answer = () => signedIn(null);
    await askEarly(queries(), classQuery('e'));
    expect(asks()).toHaveLength(1);
  });

  test('is asked for again by the view when it was refused', async () => {
    server.answer = (asked) => (asked === '/api/session' ? signedIn(ada) : refusal(503, 'unavailable'));
    const client = queries();
    await askEarly(client, classQuery('e'));
    server.answer = () => ({ status: 200, body: { title: 'Crane' } });
    const { result } = renderHook(() => useClassSheet('e'), { wrapper: within(client) });
    await waitFor(() => expect(result.current.data).toEqual({ title: 'Crane' }));
  });
});
