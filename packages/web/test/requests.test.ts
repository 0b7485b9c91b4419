/** @jest-environment jsdom */
import { type ApiError, askSession, isOffline, rememberToken, request } from '../src/api/client';
import { letGo, pageOwner } from '../src/api/page';
import { serverNow } from '../src/api/serverClock';
import { begin, refusal, server } from './fakeServer';

beforeEach(begin);

describe('requests', () => {
  test('changes carry the token, questions do not', async () => {
    rememberToken('t1');
    server.answer = () => ({ status: 200, body: { fine: true } });
    expect(await request('POST', '/courses', { name: 'x' })).toEqual({ fine: true });
    await request('GET', '/session');
    expect(server.sent.map(({ path, token }) => [path, token])).toEqual([
      ['/api/courses', 't1'],
      ['/api/session', undefined],
    ]);
  });

  test('an outdated token is renewed and the change repeated, once', async () => {
    rememberToken('old');
    server.answer = (path) =>
      path === '/api/session' ? { status: 200, body: { csrfToken: 'new' } } : refusal(403, 'wrongToken');
    await expect(request('POST', '/courses', {})).rejects.toMatchObject({ code: 'wrongToken' });
    expect(server.sent.map(({ path, token }) => `${path} ${token}`)).toEqual([
      '/api/courses old',
      '/api/session undefined',
      '/api/courses new',
    ]);
  });

  test('errors come in the server’s words, or in ours when there are none', async () => {
    server.answer = () => refusal(409, 'pastDue');
    await expect(request('POST', '/x')).rejects.toMatchObject({ status: 409, message: 'It is pastDue.' });
    server.answer = () => ({ status: 502, body: null });
    await expect(request('POST', '/x')).rejects.toMatchObject({
      code: 'internal',
      message: expect.stringContaining('Try again') as string,
    });
    server.answer = () => 'lost';
    expect(isOffline(await failing('GET', '/x'))).toBe(true);
  });

  const failing = (method: string, path: string) =>
    request(method, path).then(
      () => undefined,
      (error: ApiError) => error,
    );
  const ok = { status: 200, body: {} };

  test('an answer that is cut off is none', async () => {
    server.answer = () => ({ ...ok, text: () => Promise.reject(new TypeError('network error')) });
    expect(isOffline(await failing('GET', '/exercises/x/bench'))).toBe(true);
  });

  test('the page of a network that wants a sign-in first is no answer of ours', async () => {
    server.answer = () => ({ ...ok, text: async () => '<html><h1>Welcome to the harbour’s network</h1></html>' });
    const error = await failing('GET', '/exercises/x/bench');
    expect(isOffline(error)).toBe(true);
    expect(error!.message).toMatch(/did not come from Nailset.*sign-in/);
    server.answer = () => ({ ...ok, text: async () => '' });
    expect(await request('PUT', '/x', {})).toBeNull();
  });

  test('what is never answered is given up after a minute', async () => {
    jest.useFakeTimers();
    try {
      server.answer = () => new Promise(() => undefined);
      const ended: string[] = [];
      void failing('PUT', '/x').then((error) => ended.push(error!.code));
      await jest.advanceTimersByTimeAsync(59_000);
      expect(ended).toEqual([]);
      await jest.advanceTimersByTimeAsync(2_000);
      expect(ended).toEqual(['offline']);
    } finally {
      jest.useRealTimers();
    }
  });
});

describe('whose page it is', () => {
  const ada = { id: 'ada', name: 'Ada', email: 'ada@harbour.example' };
  const bo = { id: 'bo', name: 'Bo', email: 'bo@harbour.example' };
  const signedIn = (person: unknown, csrfToken = 't') => ({ status: 200, body: { csrfToken, person } });

  test('goes with every request', async () => {
    server.answer = () => signedIn(ada);
    await askSession();
    await request('GET', '/x');
    await request('POST', '/x', {});
    expect(server.sent.slice(1).map(({ whose }) => whose)).toEqual(['ada', 'ada']);
  });

  test('does not change when someone else signs in in another tab: nothing is repeated for them', async () => {
    server.answer = () => signedIn(ada);
    await askSession();
    rememberToken('old');
    server.answer = (path) => (path === '/api/session' ? signedIn(bo, 'new') : refusal(403, 'wrongToken'));
    await expect(request('POST', '/x', {})).rejects.toMatchObject({ code: 'wrongToken' });
    expect(server.sent.filter(({ path }) => path === '/api/x')).toHaveLength(1);
    expect(pageOwner()).toEqual({ person: ada, other: bo });
    expect(await askSession()).toBeUndefined();
  });

  test('is asked when the server says that someone else is there', async () => {
    server.answer = () => signedIn(ada);
    await askSession();
    server.answer = (path) => (path === '/api/session' ? signedIn(bo) : refusal(409, 'otherPerson'));
    await expect(request('PUT', '/x', {})).rejects.toMatchObject({ code: 'otherPerson' });
    expect(pageOwner().other).toEqual(bo);
  });

  test('stays with its owner after the session has ended, until someone signs in', async () => {
    server.answer = () => signedIn(ada);
    await askSession();
    server.answer = () => signedIn(null);
    await askSession();
    await request('PUT', '/x', {}).catch(() => undefined);
    expect(server.sent.at(-1)!.whose).toBe('ada');
    letGo();
    server.answer = () => signedIn(bo);
    expect((await askSession())!.person).toEqual(bo);
    expect(pageOwner()).toEqual({ person: bo, other: null });
  });
});

test('the server’s time counts, whatever this device’s clock says', async () => {
  server.answer = () => ({ status: 200, body: {} });
  server.date = new Date(Date.now() + 3 * 3_600_000).toUTCString();
  await request('GET', '/x');
  expect(Math.abs(serverNow() - Date.now() - 3 * 3_600_000)).toBeLessThan(1500);
  server.date = new Date().toUTCString();
  await request('GET', '/x');
  expect(Math.abs(serverNow() - Date.now())).toBeLessThan(1500);
});
