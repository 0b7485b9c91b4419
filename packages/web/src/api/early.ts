import type { Session } from '@nailset/core';
import { type QueryClient, queryOptions } from '@tanstack/react-query';
import { askSession, request } from './client';

/** Who is signed in. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  // Where someone else is signed in by now, the page stays with whom it was opened by.
  queryFn: async ({ client }) => (await askSession()) ?? client.getQueryData<Session>(['session'])!,
  staleTime: 60_000,
});

const answers = new Map<string, unknown>();

/**
 * Asks who is signed in, and then for what the view at this address shows, while its script is still on the way; ends when
 * both are there, or will not come.
 */
export async function askEarly(queries: QueryClient, path: string | undefined): Promise<void> {
  await queries.prefetchQuery(sessionQuery);
  if (!path || !queries.getQueryData<Session>(sessionQuery.queryKey)?.person) return;
  try {
    answers.set(path, await request('GET', path));
  } catch {
    // The view asks again, and says what is wrong.
  }
}

/** What was asked for before the first view was shown. Each answer is taken once, by the view that it was for. */
export function takeEarly<T>(path: string): T | undefined {
  const answer = answers.get(path) as T | undefined;
  answers.delete(path);
  return answer;
}
