import { connect } from 'node:net';
import type { Bench } from '@nailset/core';
import { Browser, handIn, right, save, type SmallCourse, smallCourse, TestServer } from './harness';

let server: TestServer;
let course: SmallCourse;

beforeAll(async () => {
  server = await TestServer.start();
  course = await smallCourse(server);
});
afterAll(() => server.end());

const cutConnections = () =>
  server.sql(
    'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
  );

test('connections that are cut in the middle of hand-ins cost those requests, nothing more', async () => {
  const crowd = await Promise.all(
    Array.from({ length: 12 }, (_, k) => new Browser(server).register(`Cut Off${k}`, course.joinCode)),
  );
  const statuses = new Set<number>();
  for (let round = 0; round < 3; round++) {
    const hands = crowd.map((browser) => handIn(browser, course.exerciseId, 'model', right));
    await new Promise((resolve) => setTimeout(resolve, 10 + 20 * round));
    await cutConnections();
    for (const { status } of await Promise.all(hands)) statuses.add(status);
  }
  // Done, told to try again, or no version was found to hand in to; never a crash.
  expect([...statuses].filter((status) => ![200, 400, 409, 503].includes(status))).toEqual([]);
  const late = await new Browser(server).register('After All', course.joinCode);
  expect((await handIn(late, course.exerciseId, 'model', right)).body.verdict).toMatchObject({ met: true });
});

test.each(['/%61pi/courses', '/api/%63ourses'])(
  '%s is the route that it leads to: without a token nothing changes',
  async (address) => {
    const { status, body } = await course.instructor.send(
      'POST',
      address,
      { name: 'Slipped in' },
      {
        headers: { 'x-csrf-token': 'none' },
      },
    );
    expect([status, body.error.code]).toEqual([403, 'wrongToken']);
  },
);

test.each([
  ['NUL', '1/(s+1)\u0000', '1/(s+1)'],
  ['half a pair of surrogates', '1/(s+\ud800)', '1/(s+\ufffd)'],
])('%s in a text is taken out at the door, so that it can be saved', async (_name, text, kept) => {
  const answer = { kind: 'transferFunction', text };
  const stranger = await new Browser(server).register(`Odd ${kept.length}${text.length}`, course.joinCode);
  expect((await save(stranger, course.exerciseId, 'model', answer)).status).toBe(200);
  const { body } = await stranger.get<Bench>(`/exercises/${course.exerciseId}/bench`);
  expect(body.saved[0]!.answer).toEqual({ kind: 'transferFunction', text: kept });
  expect((await handIn(stranger, course.exerciseId, 'model', answer)).status).toBeLessThan(500);
  const odd = { name: `Course ${text}` };
  expect((await course.instructor.post('/courses', odd)).status).toBe(200);
});

test.each([2 ** 31, 2 ** 53, 1e300, -(2 ** 40)])(
  'a number such as %p, which no database counts to, is refused',
  async (n) => {
    const { exerciseId, instructor, student } = course;
    const draft = await instructor.get<{ document: object }>(`/exercises/${exerciseId}/draft`);
    const refused = [
      save(student, exerciseId, 'model', right, { base: n }),
      save(student, exerciseId, 'model', right, { count: n }),
      instructor.put(`/exercises/${exerciseId}/draft`, { revision: n, document: draft.body.document }),
      instructor.post(`/exercises/${exerciseId}/versions`, { revision: n }),
      instructor.post(`/exercises/${exerciseId}/corrections`, { version: n, partIds: [], submissionIds: [] }),
      student.put(`/sheets/abcdefgh12345678`, { revision: n, sheet: {} }),
    ];
    const statuses = (await Promise.all(refused)).map(({ status }) => status);
    expect(statuses).toEqual(refused.map(() => 400));
  },
);

test('a lecture hall behind one address opens its pages; the API keeps its limit', async () => {
  const page = new Browser(server);
  const statuses = new Set<number>();
  for (let batch = 0; batch < 15; batch++) {
    const all = await Promise.all(Array.from({ length: 100 }, () => page.send('GET', '/')));
    for (const { status } of all) statuses.add(status);
  }
  expect([...statuses]).toEqual([200]);
});

test('everybody knows the password of the demo: outside it, it opens nothing', async () => {
  const browser = await new Browser(server).open();
  const email = 'known.password@harbour.example';
  const password = 'harbour-lights';
  expect((await browser.post('/people', { name: 'Known Password', email, password })).status).toBe(200);
  const other = await new Browser(server).open();
  expect((await other.post('/session', { email, password })).status).toBe(401);
});

test('answers of the API are not kept by anybody on the way', async () => {
  const { headers } = await course.student.get(`/exercises/${course.exerciseId}/bench`);
  expect(headers.get('cache-control')).toBe('no-store');
});

test('files and answers go out compressed', async () => {
  const as = (encoding: string) => ({ headers: { 'accept-encoding': encoding } });
  const { body: page } = await course.student.send<string>('GET', '/', undefined, as('identity'));
  const [script] = /\/assets\/index-[^"]+\.js/.exec(page)!;
  for (const [encoding, used] of [
    ['br, gzip', 'br'],
    ['gzip', 'gzip'],
    ['identity', null],
  ] as const) {
    const { headers, status } = await course.student.send('GET', script, undefined, as(encoding));
    expect([status, headers.get('content-encoding')]).toEqual([200, used]);
    expect(headers.get('cache-control')).toContain('immutable');
  }
  const sheet = await course.instructor.send('GET', `/api/exercises/${course.exerciseId}/class`, undefined, as('gzip'));
  expect(sheet.headers.get('content-encoding')).toBe('gzip');
});

test('a page names the files of its view, and they are there; another page does not', async () => {
  const filesOf = async (address: string) => {
    const page = await (await fetch(`${server.url}${address}`)).text();
    return [...page.matchAll(/<link rel="modulepreload" crossorigin href="([^"]+)">/g)].map(([, file]) => file!);
  };
  const bench = await filesOf('/exercises/x?part=a');
  expect(bench.length).toBeGreaterThan(5);
  expect(bench.some((file) => file.includes('BenchPage'))).toBe(true);
  for (const file of bench) expect((await fetch(`${server.url}${file}`)).status).toBe(200);
  expect(await filesOf('/exercises/x/build')).not.toEqual(bench);
  expect((await filesOf('/account')).filter((file) => file.includes('Page'))).toEqual([]);
});

test('what is no request is answered in our own words', async () => {
  const { hostname, port } = new URL(server.url);
  const heard = await new Promise<string>((resolve, reject) => {
    let text = '';
    const socket = connect(Number(port), hostname, () => socket.write('HELLO THERE\r\n\r\n'));
    socket.on('data', (data) => (text += data.toString()));
    socket.on('end', () => resolve(text));
    socket.on('error', reject);
  });
  expect(heard).toMatch(/^HTTP\/1\.1 400 Bad Request\r\n/);
  expect(JSON.parse(heard.slice(heard.indexOf('\r\n\r\n')))).toEqual({
    error: { code: 'badRequest', message: 'The request is not as expected.' },
  });
});
