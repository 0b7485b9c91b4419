/** @jest-environment jsdom */
import { request } from '../src/api/client';
import { letGo } from '../src/api/page';
import { serverNow } from '../src/api/serverClock';
import { begin, refusal, server } from './fakeServer';

import '../src/api/begun';

const session = (person: unknown) => ({ status: 200, body: { csrfToken: 't', person } });
const ada = { id: 'ada', name: 'Ada', email: 'ada@harbour.example' };
const asks = () => server.sent.map(({ path, whose }) => [path, whose]);

/** The page's first script at an address, run to its end. */
async function beginAt(address: string): Promise<void> {
  window.history.pushState({}, '', address);
  jest.resetModules();
  await import('../src/begin');
  for (let k = 0; k < 20; k++) await Promise.resolve();
  await new Promise((resolve) => setTimeout(resolve, 0));
}

beforeEach(() => {
  begin();
  globalThis.nailsetBegun = undefined;
  server.answer = (path) => (path === '/api/session' ? session(ada) : { status: 200, body: { path } });
});

describe('what runs before the script has come', () => {
  test.each([
    ['/exercises/e-1', '/exercises/e-1/bench'],
    ['/exercises/e-1/build', '/exercises/e-1/draft'],
    ['/exercises/e-1/lectern', '/exercises/e-1/draft'],
    ['/exercises/e-1/class', '/exercises/e-1/class'],
  ])('at %s asks for %s of the one who is signed in, and the view does not ask again', async (address, question) => {
    await beginAt(address);
    expect(asks()).toEqual([
      ['/api/session', undefined],
      [`/api${question}`, 'ada'],
    ]);
    await expect(request('GET', '/session')).resolves.toMatchObject({ person: ada });
    await expect(request('GET', question, undefined, { whose: 'ada' })).resolves.toEqual({ path: `/api${question}` });
    expect(asks()).toHaveLength(2);
    // It is an answer of that moment: the next question is sent.
    await request('GET', question, undefined, { whose: 'ada' });
    expect(asks()).toHaveLength(3);
  });

  test('a view that is quicker waits for the answer that is on its way, and leaves none behind', async () => {
    let answerSession: (reply: ReturnType<typeof session>) => void = () => undefined;
    const late = new Promise<ReturnType<typeof session>>((resolve) => (answerSession = resolve));
    server.answer = (path) => (path === '/api/session' ? late : { status: 200, body: { asked: asks().length } });
    await beginAt('/exercises/e-1');
    const first = request('GET', '/session').then(() => bench());
    const bench = () => request('GET', '/exercises/e-1/bench', undefined, { whose: 'ada' });
    answerSession(session(ada));
    await expect(first).resolves.toEqual({ asked: 2 });
    await expect(bench()).resolves.toEqual({ asked: 3 });
  });

  test('once something is changed, what was asked before is old', async () => {
    await beginAt('/exercises/e-1');
    await request('POST', '/exercises/e-1/submissions', {}, { whose: 'ada' });
    await request('GET', '/exercises/e-1/bench', undefined, { whose: 'ada' });
    expect(asks()).toHaveLength(4);
  });

  test('asks for nothing more where nobody is signed in, or where the view asks otherwise', async () => {
    server.answer = () => session(null);
    await beginAt('/exercises/e-1');
    expect(asks()).toEqual([['/api/session', undefined]]);
    begin();
    server.answer = () => session(ada);
    await beginAt('/open');
    expect(asks()).toEqual([['/api/session', undefined]]);
  });

  test('gives nobody what someone else was answered', async () => {
    await beginAt('/exercises/e-1');
    letGo();
    await request('GET', '/exercises/e-1/bench', undefined, { whose: 'bea' });
    expect(asks().at(-1)).toEqual(['/api/exercises/e-1/bench', 'bea']);
  });

  test('gives nothing that is older than a view takes to come', async () => {
    await beginAt('/exercises/e-1');
    const now = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 11_000);
    await request('GET', '/exercises/e-1/bench', undefined, { whose: 'ada' });
    now.mockRestore();
    expect(asks()).toHaveLength(3);
  });

  test('what it was refused is told as if the view had asked', async () => {
    server.answer = (path) => (path === '/api/session' ? session(ada) : refusal(403, 'forbidden'));
    await beginAt('/exercises/e-1');
    await expect(request('GET', '/exercises/e-1/bench', undefined, { whose: 'ada' })).rejects.toMatchObject({
      status: 403,
      message: 'It is forbidden.',
    });
    expect(asks()).toHaveLength(2);
  });

  test('the server’s time is that of when the answer came, not of when it was read', async () => {
    server.date = new Date(Math.floor(Date.now() / 1000) * 1000 + 60_000).toUTCString();
    await beginAt('/exercises/e-1');
    const now = Date.now();
    const clock = jest.spyOn(Date, 'now').mockReturnValue(now + 5_000);
    await request('GET', '/session');
    const ahead = serverNow() - Date.now();
    clock.mockRestore();
    expect(Math.abs(ahead - 60_000)).toBeLessThan(1_500);
  });
});
