import type { ErrorMessage, Session } from '@nailset/core';
import { jsonIn } from '../shared/json';
import { forgetBegun, takeBegun } from './begun';
import { follows, pageOwner } from './page';
import { hearServerTime } from './serverClock';

/** An answer of the server that is an error, in its own words, or no answer at all. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly at?: number,
    readonly findings: { path: string; message: string; at?: number }[] = [],
    /** What the server’s log calls the request, where the fault is ours. */
    readonly request?: string,
  ) {
    super(message);
  }
}

/** Whether the server could not be reached at all. */
export const isOffline = (error: unknown): boolean => error instanceof ApiError && error.code === 'offline';

/** Whether the server is away for a moment only: not reached, restarted, or without its database. */
export const isAway = (error: unknown): boolean =>
  isOffline(error) || (error instanceof ApiError && error.status >= 500);

/** How often a question is asked again by itself while the server is away, and after how long. */
export const askAgain = {
  retry: (failures: number, error: unknown): boolean => failures < (isOffline(error) ? 2 : 4) && isAway(error),
  retryDelay: (failures: number): number => 500 * 2 ** failures,
};

let csrfToken = '';

/** Kept from the session; every change of data carries it. */
export function rememberToken(token: string): void {
  csrfToken = token;
}

/**
 * Asks who is signed in. Undefined when that is someone else than the one whose page this is: the page stays as it is,
 * and its owner is told.
 * @throws ApiError
 */
export async function askSession(): Promise<Session | undefined> {
  const session = await request<Session>('GET', '/session');
  if (!follows(session)) return undefined;
  rememberToken(session.csrfToken);
  return session;
}

/** How a request is sent: for whom, if not for the one whose page this is. */
interface Sending {
  readonly whose?: string | undefined;
  readonly again?: boolean;
}

/** In ms: what is not answered by then is taken for lost. The server gives up as late. */
const patience = 60_000;

/**
 * Sends a request to the server and gives back its answer. It says whose page sends it, so that nothing is recorded for
 * someone who has signed in since. An outdated token is renewed and the request repeated once.
 * @throws ApiError
 */
export async function request<T>(method: string, path: string, body?: unknown, sending: Sending = {}): Promise<T> {
  const { whose = pageOwner().person?.id, again = false } = sending;
  let heard: { readonly response: Response; readonly at: number; readonly text: string };
  try {
    if (method !== 'GET') forgetBegun();
    heard = await within(patience, async (signal) => {
      const answer = (await takeBegun(path, whose)) ?? (await send(method, path, body, whose, signal));
      return { ...answer, text: await answer.response.text() };
    });
  } catch {
    throw lost('No connection to Nailset. What you typed is kept; check the network and try again.');
  }
  const { response, at, text } = heard;
  const answer = text === '' ? null : jsonIn(text);
  if (response.ok && answer === undefined)
    throw lost(
      'The answer did not come from Nailset. Does this network ask for a sign-in of its own? What you typed is kept.',
    );
  hearServerTime(response.headers.get('date'), at);
  if (response.ok) return answer as T;
  const { error } = (answer ?? {}) as Partial<ErrorMessage>;
  if (error?.code === 'wrongToken' && !again && (await askSession())) {
    return request<T>(method, path, body, { ...sending, again: true });
  }
  if (error?.code === 'otherPerson') await askSession().catch(() => undefined);
  throw new ApiError(
    response.status,
    error?.code ?? 'internal',
    error?.message ?? 'Nailset did not answer as expected. Try again in a moment.',
    error?.at,
    error?.findings ?? [],
    error?.request,
  );
}

const lost = (message: string) => new ApiError(0, 'offline', message);

/** Does something that takes at most this long, in ms. @throws Error when it took longer. */
async function within<T>(milliseconds: number, work: (signal: AbortSignal) => Promise<T>): Promise<T> {
  const late = new AbortController();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const over = new Promise<never>((_, reject) => {
    timer = setTimeout(() => {
      late.abort();
      reject(new Error('No answer in time.'));
    }, milliseconds);
  });
  try {
    return await Promise.race([work(late.signal), over]);
  } finally {
    clearTimeout(timer);
  }
}

async function send(method: string, path: string, body: unknown, whose: string | undefined, signal: AbortSignal) {
  const response = await fetch(`/api${path}`, {
    method,
    signal,
    headers: {
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      ...(method === 'GET' ? {} : { 'x-csrf-token': csrfToken }),
      ...(whose ? { 'x-nailset-person': whose } : {}),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return { response, at: Date.now() };
}
