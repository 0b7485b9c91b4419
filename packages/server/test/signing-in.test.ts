import { createHash } from 'node:crypto';
import type { ResetLink, SessionRow } from '@nailset/core';
import { hash } from '@node-rs/argon2';
import { SMTPServer } from 'smtp-server';
import { Browser, type SmallCourse, smallCourse, TestServer } from './harness';

/** Passwords, sessions and links, by ASVS level 2; each person has a browser of their own. */

const letters: string[] = [];
const mailServer = new SMTPServer({
  authOptional: true,
  disabledCommands: ['STARTTLS', 'AUTH'],
  onData(stream, _session, done) {
    let letter = '';
    stream.on('data', (chunk: Buffer) => (letter += chunk.toString()));
    stream.on('end', () => {
      letters.push(letter.replaceAll('=\r\n', '').replaceAll('=3D', '='));
      done();
    });
  },
});

let server: TestServer;
let course: SmallCourse;
const password = 'a long password';
const other = 'ferry at dawn';

beforeAll(async () => {
  await new Promise<void>((resolve) => mailServer.listen(0, '127.0.0.1', resolve));
  const { port } = mailServer.server.address() as { port: number };
  server = await TestServer.start({
    NAILSET_SMTP_URL: `smtp://127.0.0.1:${port}`,
    NAILSET_PUBLIC_URL: 'https://control.example',
    NAILSET_TRUSTED_PROXIES: 'loopback',
    NAILSET_METRICS_TOKEN: 'a token for figures',
  });
  course = await smallCourse(server);
});
afterAll(async () => {
  await server.end();
  await new Promise<void>((resolve) => mailServer.close(resolve));
});

const emailOf = (name: string) => `${name.toLowerCase().replaceAll(' ', '.')}@harbour.example`;

/** A browser at an address of its own, as a proxy tells it. */
async function at(address: string): Promise<(email: string, password: string) => Promise<number>> {
  const browser = await new Browser(server).open();
  return async (email, secret) => {
    const { status } = await browser.send(
      'POST',
      '/api/session',
      { email, password: secret },
      {
        headers: { 'x-forwarded-for': address },
      },
    );
    return status;
  };
}

describe('guessing', () => {
  test('five wrong passwords are free, then each waits longer; the right one from elsewhere works at once', async () => {
    await new Browser(server).register('Gull One');
    const guess = await at('192.0.2.1');
    const statuses: number[] = [];
    for (let k = 0; k < 9; k++) statuses.push(await guess(emailOf('Gull One'), `wrong ${k}`));
    expect(statuses).toEqual([401, 401, 401, 401, 401, 401, 429, 429, 429]);
    expect(await guess(emailOf('Gull One'), password)).toBe(429);
    expect(await (await at('192.0.2.2'))(emailOf('Gull One'), password)).toBe(200);
    expect(await guess(emailOf('Someone Else'), 'wrong')).toBe(401);
  });

  test('the wait is told, and over after that time', async () => {
    await new Browser(server).register('Gull Two');
    const browser = await new Browser(server).open();
    const tries = (secret: string) =>
      browser.post<{ error: { wait: number } }>('/session', { email: emailOf('Gull Two'), password: secret });
    for (let k = 0; k < 6; k++) await tries('wrong');
    const { status, body, headers } = await tries(password);
    expect([status, headers.get('retry-after')]).toEqual([429, String(body.error.wait)]);
    expect(body.error.wait).toBeLessThanOrEqual(2);
    await new Promise((resolve) => setTimeout(resolve, body.error.wait * 1000 + 100));
    expect((await tries(password)).status).toBe(200);
    // A right one clears the count.
    expect((await tries('wrong')).status).toBe(401);
  });

  test('tries at the same moment count one by one', async () => {
    await new Browser(server).register('Gull Three');
    const guess = await at('192.0.2.3');
    const statuses = await Promise.all(
      Array.from({ length: 30 }, (_, k) => guess(emailOf('Gull Three'), `wrong ${k}`)),
    );
    expect(statuses.filter((status) => status === 401).length).toBeLessThanOrEqual(7);
  });

  test('whoever guesses from many addresses keeps no one out who has signed in from theirs before', async () => {
    await new Browser(server).register('Gull Four');
    const home = await at('198.51.100.7');
    expect(await home(emailOf('Gull Four'), password)).toBe(200);
    for (let k = 0; k < 56; k++) await (await at(`203.0.113.${k}`))(emailOf('Gull Four'), 'wrong');
    expect(await (await at('203.0.113.200'))(emailOf('Gull Four'), 'wrong')).toBe(429);
    expect(await home(emailOf('Gull Four'), password)).toBe(200);
  });

  test('tries that are refused because others guess do not count against the one who makes them', async () => {
    await new Browser(server).register('Gull Five');
    for (let k = 0; k < 56; k++) await (await at(`203.0.113.${k}`))(emailOf('Gull Five'), 'wrong');
    const owner = await at('198.51.100.8');
    for (let k = 0; k < 12; k++) await owner(emailOf('Gull Five'), password);
    const counts = await server.sql<{ key: string; points: number }>(
      `select key, points from rate_limits where key = 'wrong:' || $1`,
      [
        createHash('sha256')
          .update(`${emailOf('Gull Five')} 198.51.100.8`)
          .digest('base64url'),
      ],
    );
    expect(counts.filter(({ points }) => points > 0)).toEqual([]);
  });

  test('a lecture hall of four hundred signs in from one address', async () => {
    const hall = await at('198.51.100.99');
    // Hashed as quickly as can be: what is tried is the room at the door, not the work behind it.
    const quick = await hash(password, { memoryCost: 8, timeCost: 1 });
    await server.sql(
      `insert into people (name, email, password_hash)
      select 'Hall ' || k, 'hall' || k || '@harbour.example', $1 from generate_series(1, 400) k`,
      [quick],
    );
    for (let from = 1; from <= 400; from += 50) {
      const some = Array.from({ length: 50 }, (_, k) => hall(`hall${from + k}@harbour.example`, password));
      expect(await Promise.all(some)).toEqual(Array(50).fill(200));
    }
  });
});

describe('a password', () => {
  test.each([
    ['a common one', 'qwertyuiop12'],
    ['the e-mail', 'weak.person@harbour.example'],
    ['the name', 'Weak Person'],
    ['one that repeats itself', 'abababababab'],
    ['one letter', 'aaaaaaaaaaaaaaaaaaaa'],
    ['the product', 'nailset1234'],
  ])('%s is refused', async (_name, weak) => {
    const browser = await new Browser(server).open();
    const { status, body } = await browser.post<{ error: { code: string } }>('/people', {
      ...{ name: 'Weak Person', email: 'weak.person@harbour.example', password: weak },
    });
    expect([status, body.error.code]).toEqual([422, 'weakPassword']);
  });

  test('is changed by who knows the present one; every other browser is signed out', async () => {
    const here = await new Browser(server).register('Changing Person');
    const there = await new Browser(server).open();
    await there.post('/session', { email: emailOf('Changing Person'), password });
    expect((await there.get('/me/sessions')).status).toBe(200);
    const change = (current: string, next: string) =>
      here.put<{ error: { code: string } }>('/me/password', { current, password: next });
    expect((await change('not it at all', other)).body.error.code).toBe('wrongPassword');
    expect((await change(password, 'qwertyuiop12')).body.error.code).toBe('weakPassword');
    expect((await there.get('/me/sessions')).status).toBe(200);
    expect((await change(password, other)).status).toBe(200);
    expect([(await here.get('/me/sessions')).status, (await there.get('/me/sessions')).status]).toEqual([200, 401]);
    const again = await at('192.0.2.20');
    expect(await again(emailOf('Changing Person'), password)).toBe(401);
    expect(await again(emailOf('Changing Person'), other)).toBe(200);
  });

  test('sessions are listed and ended one by one or all together; nobody ends another’s', async () => {
    const here = await new Browser(server).register('Many Browsers');
    const more = [await new Browser(server).open(), await new Browser(server).open()];
    for (const each of more) await each.post('/session', { email: emailOf('Many Browsers'), password });
    const { body: rows } = await here.get<SessionRow[]>('/me/sessions');
    expect(rows.map(({ current }) => current).sort()).toEqual([false, false, true]);
    const theirs = rows.find(({ current }) => !current)!;
    await course.student.send('DELETE', `/api/me/sessions/${theirs.id}`);
    expect((await here.get<SessionRow[]>('/me/sessions')).body).toHaveLength(3);
    await here.send('DELETE', `/api/me/sessions/${theirs.id}`);
    expect((await here.get<SessionRow[]>('/me/sessions')).body).toHaveLength(2);
    await here.send('DELETE', '/api/me/sessions');
    expect((await here.get<SessionRow[]>('/me/sessions')).body).toMatchObject([{ current: true }]);
    const statuses = await Promise.all(more.map(async (each) => (await each.get('/me/sessions')).status));
    expect(statuses).toEqual([401, 401]);
  });
});

describe('a link for a new password', () => {
  const use = async (token: string, secret: string) =>
    (await new Browser(server).open()).put<{ error?: { code: string }; name?: string }>('/password', {
      token,
      password: secret,
    });
  const linkFor = (maker: Browser, personId: string) =>
    maker.post<ResetLink & { error?: { code: string } }>(`/courses/${course.courseId}/people/${personId}/reset-link`);

  test('made by staff works once, and ends every session; a weak password leaves it usable', async () => {
    const forgetful = await new Browser(server).register('Forgetful Person', course.joinCode);
    const { body } = await linkFor(course.assistant, forgetful.id);
    const token = body.path.split('#')[1]!;
    expect(new Date(body.expiresAt).getTime() - Date.now()).toBeGreaterThan(71 * 3_600_000);
    expect((await use(token, 'qwertyuiop12')).body.error!.code).toBe('weakPassword');
    const once = await Promise.all([use(token, other), use(token, other), use(token, other)]);
    expect(once.map(({ status }) => status).sort()).toEqual([200, 404, 404]);
    expect((await forgetful.get('/me/sessions')).status).toBe(401);
    expect(await (await at('192.0.2.30'))(emailOf('Forgetful Person'), other)).toBe(200);
  });

  test('is over after three days, and when a newer one is made', async () => {
    const forgetful = await new Browser(server).register('Slow Person', course.joinCode);
    const [first, second] = [
      await linkFor(course.instructor, forgetful.id),
      await linkFor(course.instructor, forgetful.id),
    ];
    expect((await use(first.body.path.split('#')[1]!, other)).body.error!.code).toBe('usedLink');
    await server.sql(`update reset_links set expires_at = now() - interval '1 minute'`);
    expect((await use(second.body.path.split('#')[1]!, other)).body.error!.code).toBe('usedLink');
  });

  test('opens no account that may do more than its maker', async () => {
    const colleague = await new Browser(server).register('Teaching Elsewhere', course.joinCode);
    expect((await linkFor(course.assistant, course.instructor.id)).body.error!.code).toBe('forbidden');
    expect((await linkFor(course.instructor, course.assistant.id)).status).toBe(200);
    expect((await linkFor(course.instructor, course.outsider.id)).body.error!.code).toBe('notFound');
    await colleague.post('/courses', { name: 'Another course', courseKey: 'the-course-key' });
    // A student here, an instructor there: only mail, or who runs the server.
    expect((await linkFor(course.instructor, colleague.id)).body.error!.code).toBe('forbidden');
  });

  test('comes by mail to who asks for it, and the answer never tells who has an account', async () => {
    await new Browser(server).register('Mail Reader');
    const ask = async (email: string) => (await new Browser(server).open()).post('/reset-links', { email });
    letters.length = 0;
    const [known, unknown] = [await ask('MAIL.reader@harbour.example'), await ask('nobody.at.all@harbour.example')];
    expect([known.status, known.body]).toEqual([unknown.status, unknown.body]);
    for (let tries = 0; tries < 100 && letters.length === 0; tries++) await new Promise((go) => setTimeout(go, 50));
    expect(letters).toHaveLength(1);
    expect(letters[0]).toMatch(/^To: mail\.reader@harbour\.example/m);
    const [, token] = /https:\/\/control\.example\/new-password#([\w-]+)/.exec(letters[0]!)!;
    expect((await use(token!, other)).body.name).toBe('Mail Reader');
    const statuses: number[] = [];
    for (let k = 0; k < 6; k++) statuses.push((await ask('mail.reader@harbour.example')).status);
    expect(statuses).toEqual([200, 200, 200, 200, 429, 429]);
  });
});

describe('what is told to whom', () => {
  test('the log names requests by route and holds no e-mail, password, hash or parameter', async () => {
    const browser = await new Browser(server).open();
    await browser.post('/session', { email: 'secret.reader@harbour.example', password: 'the secret itself' });
    await browser.send('GET', '/api/session?code=a-secret-parameter');
    await browser.send('GET', '/new-password?token=another-secret');
    await server.sql('alter table sessions rename to sessions_away');
    const failed = await browser.send<{ error: { code: string; request: string } }>('POST', '/api/people', {
      ...{ name: 'Log Reader', email: 'log.reader@harbour.example', password: 'whale and lantern' },
    });
    await server.sql('alter table sessions_away rename to sessions');
    expect([failed.status, failed.body.error.code]).toEqual([500, 'internal']);
    const lines = server.output.split('\n');
    expect(
      lines.filter((line) => line.includes(`"reqId":"${failed.body.error.request}"`)).length,
    ).toBeGreaterThanOrEqual(2);
    expect(server.output).not.toMatch(/harbour\.example|secret|whale|argon2|insert into/i);
    expect(server.output).toMatch(/"method":"POST","route":"\/api\/session","status":401/);
  });

  test('figures are for this machine or who has the token', async () => {
    const read = (headers: Record<string, string>) =>
      course.nobody.send<string>('GET', '/metrics', undefined, { headers });
    const { status, body } = await read({});
    expect([status, body]).toEqual([200, expect.stringMatching(/^nailset_checks_waiting \d+$/m)]);
    expect(body).toMatch(/nailset_request_seconds_count\{method="POST",route="\/api\/people",status="200"\} \d+/);
    expect((await read({ 'x-forwarded-for': '192.0.2.1' })).status).toBe(404);
    expect((await read({ 'x-forwarded-for': '192.0.2.1', authorization: 'Bearer wrong' })).status).toBe(404);
    expect((await read({ 'x-forwarded-for': '192.0.2.1', authorization: 'Bearer a token for figures' })).status).toBe(
      200,
    );
  });

  test('the server’s own role can neither change what is append-only nor the tables that guard it', async () => {
    const asServer = await server.connection('server');
    const refusals = [
      'update verdicts set points = 3',
      'delete from submissions',
      'truncate overrides',
      'alter table verdicts disable trigger all',
      'drop trigger append_only on draws',
      'create table public.mine (x int)',
      'update drizzle.__drizzle_migrations set hash = 1',
      'create role other superuser',
    ];
    for (const statement of refusals)
      await expect(asServer.query(statement)).rejects.toThrow(/permission denied|must be (owner|superuser)/);
    await asServer.end();
  });
});

describe('personal links by mail', () => {
  test('reach everyone who has not chosen a password, each their own, and nobody else', async () => {
    letters.length = 0;
    const text = 'email,name\nnew.one@harbour.example,New One\nnew.two@harbour.example,New Two';
    await course.instructor.post(`/courses/${course.courseId}/people/lists`, {
      files: [{ name: 'list.csv', text }],
      apply: true,
    });
    const { body } = await course.instructor.post<{ links: unknown[]; sent: number }>(
      `/courses/${course.courseId}/people/links`,
      { mail: true },
    );
    expect(body).toEqual({ links: [], sent: 2 });
    for (let tries = 0; tries < 100 && letters.length < 2; tries++) await new Promise((go) => setTimeout(go, 50));
    expect(letters.map((letter) => /^To: (\S+)/m.exec(letter)![1]).sort()).toEqual([
      'new.one@harbour.example',
      'new.two@harbour.example',
    ]);
    const tokens = letters.map((letter) => /https:\/\/control\.example\/new-password#([\w-]+)/.exec(letter)![1]!);
    expect(new Set(tokens).size).toBe(2);
    const browser = await new Browser(server).open();
    expect((await browser.put('/password', { token: tokens[0], password: 'kelp and barnacles' })).status).toBe(200);
  });
});
