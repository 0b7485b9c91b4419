import type { ErrorMessage } from '@nailset/core';

/** An answer of the server that is an error, in its own words, or no answer at all. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly at?: number,
    readonly findings: { path: string; message: string; at?: number }[] = [],
  ) {
    super(message);
  }
}

/** Whether the server could not be reached at all. */
export const isOffline = (error: unknown): boolean => error instanceof ApiError && error.code === 'offline';

let csrfToken = '';

/** Kept from the session; every change of data carries it. */
export function rememberToken(token: string): void {
  csrfToken = token;
}

/**
 * Sends a request to the server and gives back its answer. An outdated token is renewed and the request repeated once.
 * @throws ApiError
 */
export async function request<T>(method: string, path: string, body?: unknown, again = false): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(method === 'GET' ? {} : { 'x-csrf-token': csrfToken }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch {
    throw new ApiError(
      0,
      'offline',
      'No connection to Nailset. What you typed is kept; check the network and try again.',
    );
  }
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return answer as T;
  const { error } = (answer ?? {}) as Partial<ErrorMessage>;
  if (error?.code === 'wrongToken' && !again) {
    const session = await request<{ csrfToken: string }>('GET', '/session');
    rememberToken(session.csrfToken);
    return request<T>(method, path, body, true);
  }
  throw new ApiError(
    response.status,
    error?.code ?? 'internal',
    error?.message ?? 'Nailset did not answer as expected. Try again in a moment.',
    error?.at,
    error?.findings ?? [],
  );
}
