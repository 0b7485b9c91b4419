import type { Session } from '@nailset/core';
import type { FetchQueryOptions, QueryClient } from '@tanstack/react-query';
import { sessionQuery } from './queries';

/** In ms. Long enough for the view that shows it to take it over. */
const kept = 10_000;

/**
 * Asks who is signed in, and then what the first view asks, while its script is still on the way; ends when both are
 * there, or will not come. The view asks the same question, which is then not asked twice.
 */
export async function askEarly<T, K extends readonly unknown[]>(
  queries: QueryClient,
  question: FetchQueryOptions<T, Error, T, K> | undefined,
): Promise<void> {
  await queries.prefetchQuery(sessionQuery);
  if (!question || !queries.getQueryData<Session>(sessionQuery.queryKey)?.person) return;
  await queries.prefetchQuery({ ...question, gcTime: kept });
}
