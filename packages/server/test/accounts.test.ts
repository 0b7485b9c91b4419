import type { CoursePeople, Session } from '@nailset/core';
import { Browser, courseKey, TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.end());

interface Refused {
  error: { code: string; message: string };
}
const account = (change: Record<string, unknown> = {}) => ({
  name: 'Runa Valdez',
  email: 'runa@harbour.example',
  password: 'a long password',
  ...change,
});

async function course(name = 'Harbour machinery') {
  const founder = await new Browser(server).register(`Founder ${Math.random().toString(36).slice(2)}`);
  const { body } = await founder.post<{ id: string }>('/courses', { name, courseKey });
  const { body: people } = await founder.get<CoursePeople>(`/courses/${body.id}/people`);
  return { founder, id: body.id, joinCode: people.joinCode };
}

describe('an account', () => {
  test('signs in with its e-mail in any case, and nobody else does', async () => {
    const browser = await new Browser(server).open();
    await browser.post('/people', account());
    const again = await new Browser(server).open();
    expect((await again.post('/session', { email: ' RUNA@harbour.example', password: 'a long password' })).status).toBe(
      200,
    );
    const wrong = await again.post<Refused>('/session', {
      email: 'runa@harbour.example',
      password: 'another password',
    });
    const unknown = await again.post<Refused>('/session', {
      email: 'nobody@harbour.example',
      password: 'a long password',
    });
    expect([wrong.status, unknown.status]).toEqual([401, 401]);
    expect(wrong.body).toEqual(unknown.body);
  });

  test('is there once for an e-mail, whatever its case', async () => {
    const browser = await new Browser(server).open();
    const { status, body } = await browser.post<Refused>('/people', account({ email: 'Runa@Harbour.example' }));
    expect([status, body.error.code]).toEqual([409, 'emailTaken']);
  });

  test.each([
    ['a short password', { password: 'short' }, /password/],
    ['no e-mail', { email: 'runa' }, /email/],
    ['an empty name', { name: '   ' }, /name/],
    ['something that is not asked for', { role: 'instructor' }, /additional/],
  ])('with %s is refused, with the field', async (_name, change, words) => {
    const browser = await new Browser(server).open();
    const { status, body } = await browser.post<Refused>(
      '/people',
      account({ email: 'new@harbour.example', ...change }),
    );
    expect(status).toBe(400);
    expect(body.error.message).toMatch(words);
  });

  test('with a wrong course code is not made at all', async () => {
    const browser = await new Browser(server).open();
    const { body } = await browser.post<Refused>(
      '/people',
      account({ email: 'half@harbour.example', joinCode: 'WRONG' }),
    );
    expect(body.error.code).toBe('unknownJoinCode');
    expect(await server.sql(`select 1 from people where email = 'half@harbour.example'`)).toEqual([]);
  });

  test('is signed out when its session ends on the server', async () => {
    const browser = await new Browser(server).register('Short Stay');
    const session = async () => (await browser.get<Session>('/session')).body;
    expect((await session()).person!.name).toBe('Short Stay');
    await server.sql(`update sessions set expires_at = now() - interval '1 second' where person_id = $1`, [browser.id]);
    expect((await session()).person).toBeNull();
  });

  test('outside demo mode nobody is offered to sign in as', async () => {
    const { body } = await (await new Browser(server).open()).get<Session>('/session');
    expect([body.demo, body.demoPassword]).toEqual([[], undefined]);
  });
});

describe('a course', () => {
  test('is joined by its code in any case, as a student, once', async () => {
    const { founder, id, joinCode } = await course();
    const student = await new Browser(server).register('Piet Joins');
    for (let times = 0; times < 2; times++) {
      const { body } = await student.post<{ id: string }>('/memberships', { joinCode: ` ${joinCode.toLowerCase()} ` });
      expect(body.id).toBe(id);
    }
    const { body } = await founder.get<CoursePeople>(`/courses/${id}/people`);
    expect(body.people.map(({ role }) => role)).toEqual(['instructor', 'student']);
  });

  test('an instructor who enters the code stays instructor', async () => {
    const { founder, id, joinCode } = await course();
    await founder.post('/memberships', { joinCode });
    const { body } = await founder.get<CoursePeople>(`/courses/${id}/people`);
    expect(body.people.map(({ role }) => role)).toEqual(['instructor']);
  });

  test('a changed role counts from the next request on', async () => {
    const { founder, id, joinCode } = await course();
    const helper = await new Browser(server).register('Helper Soon', joinCode);
    const shelf = async () => (await helper.get(`/courses/${id}/shelf`)).status;
    const become = (role: string) => founder.put(`/courses/${id}/people/${helper.id}/role`, { role });
    expect(await shelf()).toBe(403);
    await become('assistant');
    expect(await shelf()).toBe(200);
    expect((await helper.put(`/courses/${id}/people/${founder.id}/role`, { role: 'student' })).status).toBe(403);
    await become('student');
    expect(await shelf()).toBe(403);
  });

  test('of one instructor is nothing to another', async () => {
    const [mine, theirs] = [await course('Mine'), await course('Theirs')];
    expect((await mine.founder.get(`/courses/${theirs.id}/shelf`)).status).toBe(404);
    const outsider = await mine.founder.put<Refused>(`/courses/${mine.id}/people/${theirs.founder.id}/role`, {
      role: 'student',
    });
    expect(outsider.body.error.code).toBe('notFound');
  });

  test('a second one needs no key', async () => {
    const { founder } = await course();
    expect((await founder.post('/courses', { name: 'Another' })).status).toBe(200);
    const { body } = await founder.get<Session>('/session');
    expect(body.memberships.map(({ course: name }) => name)).toEqual(['Harbour machinery', 'Another']);
  });
});

describe('addresses that lead nowhere', () => {
  test.each([
    '/courses/nonsense/shelf',
    '/courses/00000000-0000-0000-0000-000000000000/shelf',
    "/exercises/'; drop table people/bench",
    '/nothing',
  ])('%s is not found', async (address) => {
    const browser = await new Browser(server).register(`Lost ${Math.random().toString(36).slice(2)}`);
    const { status, body } = await browser.get<Refused>(address);
    expect([status, body.error.code]).toEqual([404, 'notFound']);
  });

  test('what is not JSON is refused without a stack', async () => {
    const browser = await new Browser(server).open();
    const { status, body } = await browser.send<Refused>('POST', '/api/session', undefined, { raw: '{"email":' });
    expect(status).toBe(400);
    expect(JSON.stringify(body)).not.toMatch(/node_modules|at .*\.js/);
  });
});
