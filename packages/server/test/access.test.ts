import type { ClassSheet, ExerciseDocument } from '@nailset/core';
import {
  benchSheet,
  Browser,
  courseKey,
  exercise,
  handIn,
  right,
  save,
  type SmallCourse,
  smallCourse,
  TestServer,
  wrong,
} from './harness';

let server: TestServer;
let course: SmallCourse;
let submissionId: string;

beforeAll(async () => {
  server = await TestServer.start();
  course = await smallCourse(server);
  const { body } = await handIn(course.student, course.exerciseId, 'model', wrong);
  submissionId = body.id;
});
afterAll(() => server.end());

const roles = ['nobody', 'outsider', 'student', 'assistant', 'instructor'] as const;
type Statuses = [nobody: number, outsider: number, student: number, assistant: number, instructor: number];

/** Every route with what each role is answered. 409 and 422 are answers about the request itself, after access. */
const table: [method: string, route: string, body: (() => unknown) | undefined, statuses: Statuses][] = [
  ['GET', '/api/session', undefined, [200, 200, 200, 200, 200]],
  ['POST', '/api/session', () => ({ email: 'x@y', password: 'z' }), [401, 401, 401, 401, 401]],
  [
    'POST',
    '/api/people',
    () => ({ name: 'Again', email: 'ilse.okafor@harbour.example', password: 'a long password' }),
    [409, 409, 409, 409, 409],
  ],
  ['POST', '/api/memberships', () => ({ joinCode: 'NOSUCH' }), [401, 404, 404, 404, 404]],
  ['POST', '/api/courses', () => ({ name: 'Mine', courseKey: 'wrong' }), [401, 403, 403, 403, 200]],
  ['GET', '/api/courses/:courseId/people', undefined, [401, 404, 403, 200, 200]],
  ['PUT', '/api/courses/:courseId/people/:personId/role', () => ({ role: 'student' }), [401, 404, 403, 403, 200]],
  ['GET', '/api/courses/:courseId/shelf', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/courses/:courseId/home', undefined, [401, 404, 200, 200, 200]],
  ['POST', '/api/courses/:courseId/exercises', () => exercise, [401, 404, 403, 403, 200]],
  ['GET', '/api/exercises/:exerciseId/draft', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/exercises/:exerciseId/file', undefined, [401, 404, 403, 200, 200]],
  ['PUT', '/api/exercises/:exerciseId/draft', () => ({ revision: 99, document: exercise }), [401, 404, 403, 403, 409]],
  ['POST', '/api/exercises/:exerciseId/copies', undefined, [401, 404, 403, 403, 200]],
  ['GET', '/api/exercises/:exerciseId/versions', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/exercises/:exerciseId/versions/:number', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/exercises/:exerciseId/publishing', undefined, [401, 404, 403, 403, 200]],
  ['POST', '/api/exercises/:exerciseId/versions', () => ({ revision: 99 }), [401, 404, 403, 403, 409]],
  ['PATCH', '/api/exercises/:exerciseId', () => ({}), [401, 404, 403, 403, 200]],
  ['GET', '/api/exercises/:exerciseId/bench', undefined, [401, 404, 200, 200, 200]],
  [
    'PUT',
    '/api/exercises/:exerciseId/answers/:partId',
    () => ({ answer: wrong, trail: [], base: 0, page: 'the-only-page', count: 1 }),
    [401, 404, 200, 403, 403],
  ],
  [
    'POST',
    '/api/exercises/:exerciseId/submissions',
    () => ({ key: 'k'.repeat(20), versionId: course.exerciseId, partId: 'model', answer: wrong, trail: [] }),
    [401, 404, 409, 403, 403],
  ],
  ['GET', '/api/exercises/:exerciseId/attempts/:submissionId', undefined, [401, 404, 200, 403, 403]],
  ['POST', '/api/exercises/:exerciseId/hints', () => ({ partId: 'model', number: 1 }), [401, 404, 404, 403, 403]],
  // What is told to students later, staff may see at any time.
  ['GET', '/api/exercises/:exerciseId/parts/:partId/working', undefined, [401, 404, 403, 200, 200]],
  ['POST', '/api/exercises/:exerciseId/practice', () => ({ partId: 'model' }), [401, 404, 403, 200, 200]],
  [
    'POST',
    '/api/exercises/:exerciseId/practice/checks',
    () => ({ seed: 'abcdefghijklmnopqrst', partId: 'model', answer: wrong }),
    [401, 404, 403, 200, 200],
  ],
  ['GET', '/api/exercises/:exerciseId/class', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/submissions/:submissionId', undefined, [401, 404, 403, 200, 200]],
  [
    'POST',
    '/api/submissions/:submissionId/overrides',
    () => ({ points: 1, reason: 'Seen on paper.' }),
    [401, 404, 403, 200, 200],
  ],
  ['POST', '/api/submissions/:submissionId/checks', undefined, [401, 404, 403, 200, 200]],
  ['POST', '/api/courses/:courseId/people/:personId/reset-link', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/me/sessions', undefined, [401, 200, 200, 200, 200]],
  ['DELETE', '/api/me/sessions', undefined, [401, 200, 200, 200, 200]],
  ['DELETE', '/api/me/sessions/:sessionId', undefined, [401, 200, 200, 200, 200]],
  [
    'PUT',
    '/api/me/password',
    () => ({ current: 'a long password', password: 'ferry at dawn' }),
    [401, 200, 200, 200, 200],
  ],
  ['POST', '/api/reset-links', () => ({ email: 'x@y.example' }), [404, 404, 404, 404, 404]],
  ['PUT', '/api/password', () => ({ token: 'nobody made it', password: 'ferry at dawn' }), [404, 404, 404, 404, 404]],
  ['GET', '/api/sheets', undefined, [401, 200, 200, 200, 200]],
  ['GET', '/api/sheets/:sheetId', undefined, [401, 404, 404, 404, 404]],
  ['PUT', '/api/sheets/:sheetId', () => ({ revision: 7, sheet: benchSheet }), [401, 409, 409, 409, 409]],
  [
    'PUT',
    '/api/sheets/:sheetId/course',
    () => ({ courseId: course.courseId }),
    // Only an instructor shares; a sheet that is not there is told to them alone.
    [401, 404, 403, 403, 404],
  ],
  ['DELETE', '/api/sheets/:sheetId', undefined, [401, 404, 404, 404, 404]],
  [
    'POST',
    '/api/courses/:courseId/people/lists',
    () => ({ files: [{ name: 'a', text: '' }], apply: false }),
    [401, 404, 403, 403, 200],
  ],
  ['POST', '/api/courses/:courseId/people/links', () => ({ mail: false }), [401, 404, 403, 403, 200]],
  ['PATCH', '/api/courses/:courseId/people/:personId', () => ({ group: 'Mon' }), [401, 404, 403, 403, 200]],
  ['GET', '/api/exercises/:exerciseId/dates', undefined, [401, 404, 403, 200, 200]],
  [
    'POST',
    '/api/exercises/:exerciseId/extensions',
    () => ({
      personIds: [],
      groups: ['Mon'],
      visibleFrom: null,
      dueAt: '2099-01-01T12:00:00Z',
      late: null,
      reason: 'Ferry strike.',
    }),
    [401, 404, 403, 403, 200],
  ],
  ['DELETE', '/api/exercises/:exerciseId/extensions/:extensionId', undefined, [401, 404, 403, 403, 404]],
  ['GET', '/api/exercises/:exerciseId/parts/:partId/answers', undefined, [401, 404, 403, 200, 200]],
  [
    'POST',
    '/api/exercises/:exerciseId/points',
    () => ({ submissionIds: [submissionId], points: 1, reason: 'Seen on paper.' }),
    [401, 404, 403, 200, 200],
  ],
  ['POST', '/api/submissions/:submissionId/comments', () => ({ text: 'Well begun.' }), [401, 404, 403, 200, 200]],
  ['POST', '/api/submissions/:submissionId/looks', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/exercises/:exerciseId/corrections', undefined, [401, 404, 403, 200, 200]],
  [
    'POST',
    '/api/exercises/:exerciseId/corrections',
    () => ({ version: 9, partIds: [], submissionIds: [] }),
    [401, 404, 403, 403, 404],
  ],
  ['GET', '/api/exercises/:exerciseId/corrections/:correctionId', undefined, [401, 404, 403, 404, 404]],
  [
    'POST',
    '/api/exercises/:exerciseId/corrections/:correctionId/application',
    () => ({ counting: 'better', reason: 'A slip of ours.', givesBack: false }),
    [401, 404, 403, 403, 404],
  ],
  ['DELETE', '/api/exercises/:exerciseId/corrections/:correctionId', undefined, [401, 404, 403, 403, 404]],
  ['GET', '/api/courses/:courseId/marks', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/courses/:courseId/marks/mine', undefined, [401, 404, 200, 403, 403]],
  [
    'PUT',
    '/api/courses/:courseId/marking',
    () => ({ sets: [{ id: 'all', name: 'All', weight: 1, best: null }], exercises: {} }),
    [401, 404, 403, 403, 200],
  ],
  [
    'PUT',
    '/api/exercises/:exerciseId/excused/:personId',
    () => ({ excused: false, reason: 'Back again.' }),
    [401, 404, 403, 403, 200],
  ],
  ['GET', '/api/courses/:courseId/exports', undefined, [401, 404, 403, 200, 200]],
  ['POST', '/api/courses/:courseId/exports', () => ({ kind: 'exercises' }), [401, 404, 403, 200, 200]],
  ['GET', '/api/courses/:courseId/exports/:exportId', undefined, [401, 404, 403, 404, 404]],
  ['GET', '/api/courses/:courseId/log', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/courses/:courseId/overview', undefined, [401, 404, 403, 200, 200]],
  ['GET', '/api/exercises/:exerciseId/paper', undefined, [401, 404, 403, 200, 200]],
  [
    'POST',
    '/api/exercises/:exerciseId/entered',
    () => ({ text: 'e-mail,part,answer', apply: false }),
    [401, 404, 403, 200, 200],
  ],
  [
    'POST',
    '/api/courses/:courseId/copies',
    () => ({ name: 'Next year', weeks: 52, zone: 'UTC' }),
    [401, 404, 403, 403, 200],
  ],
  ['PATCH', '/api/courses/:courseId', () => ({}), [401, 404, 403, 403, 200]],
  ['GET', '/api/me/data', undefined, [401, 200, 200, 200, 200]],
  ['DELETE', '/api/me', () => ({ password: 'another one' }), [401, 401, 401, 401, 401]],
  // The last two have their own tests, as what comes after would be asked by nobody.
  ['DELETE', '/api/courses/:courseId/membership', undefined, [401, 404, 200, 200, 409]],
  ['DELETE', '/api/session', undefined, [200, 200, 200, 200, 200]],
];

test('the table below holds every route of the published description', async () => {
  const { body } = await course.nobody.send<{ paths: Record<string, Record<string, unknown>> }>(
    'GET',
    '/reference/json',
  );
  const described = Object.entries(body.paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method.toUpperCase()} ${path.replace(/\{(\w+)\}/g, ':$1')}`),
  );
  const tested = table.map(([method, route]) => `${method} ${route}`);
  expect(described.sort()).toEqual(tested.sort());
});

describe.each(table.slice(0, -2))('%s %s', (method, route, body, statuses) => {
  test.each(roles.map((role, k) => [role, statuses[k]] as const))('%s is answered %i', async (role, status) => {
    const address = route
      .replace(':courseId', course.courseId)
      .replace(':exerciseId', course.exerciseId)
      .replace(':submissionId', submissionId)
      .replace(':personId', course.other.id)
      .replace(':number', '1')
      .replace(':partId', 'model')
      .replace(':sessionId', course.exerciseId)
      .replace(':sheetId', course.exerciseId)
      .replace(/:(correction|export|extension)Id/, course.exerciseId);
    const answer = await course[role].send(method, address, body?.());
    expect([answer.status, JSON.stringify(answer.body)]).toEqual([status, expect.any(String)]);
    if (status! >= 400) expect(answer.body.error.message.length).toBeGreaterThan(10);
  });
});

test('who leaves a course is in it no more and may come back by the code; its only instructor stays', async () => {
  const guest = await new Browser(server).register('Guest Leaving', course.joinCode);
  const leave = (browser: Browser) => browser.send('DELETE', `/api/courses/${course.courseId}/membership`);
  expect((await leave(guest)).status).toBe(200);
  expect((await guest.get(`/courses/${course.courseId}/home`)).status).toBe(404);
  await guest.post('/memberships', { joinCode: course.joinCode });
  expect((await guest.get(`/courses/${course.courseId}/home`)).status).toBe(200);
  expect((await leave(course.instructor)).status).toBe(409);
  expect((await leave(course.outsider)).status).toBe(404);
  expect((await leave(course.nobody)).status).toBe(401);
});

test('signing out ends the session', async () => {
  const guest = await new Browser(server).register('Guest Once', course.joinCode);
  expect((await guest.get(`/courses/${course.courseId}/home`)).status).toBe(200);
  await guest.send('DELETE', '/api/session');
  expect((await guest.get(`/courses/${course.courseId}/home`)).status).toBe(401);
});

describe('a student never sees', () => {
  const everythingOf = async (browser: Browser): Promise<string> => {
    const answers = await Promise.all([
      browser.get('/session'),
      browser.get(`/courses/${course.courseId}/home`),
      browser.get(`/exercises/${course.exerciseId}/bench`),
      browser.get(`/exercises/${course.exerciseId}/draft`),
      browser.get(`/exercises/${course.exerciseId}/class`),
      browser.get(`/submissions/${submissionId}`),
      save(browser, course.exerciseId, 'model', wrong),
    ]);
    return JSON.stringify(answers.map(({ body }) => body));
  };

  test('an expected answer, before or after a try', async () => {
    expect(await everythingOf(course.student)).not.toMatch(/7770777|expected"/);
    expect(await everythingOf(course.other)).not.toMatch(/7770777|expected"/);
  });

  test('another student’s numbers, answers or name', async () => {
    const [draw] = await server.sql<{ values: { K: string } }>('select "values" from draws where person_id = $1', [
      course.student.id,
    ]);
    const seen = await everythingOf(course.other);
    expect(seen).not.toContain(draw!.values.K);
    expect(seen).not.toContain(submissionId);
    expect(seen).not.toContain('Ilse');
  });

  test('the expected answer until the due date, and then does', async () => {
    const { exerciseId, instructor, student } = await smallerCopy({ ...exercise, solution: 'afterDue' });
    await handIn(student, exerciseId, 'model', right);
    const bench = () => student.get<{ solutions: unknown[] }>(`/exercises/${exerciseId}/bench`);
    expect((await bench()).body.solutions).toEqual([]);
    await instructor.send('PATCH', `/api/exercises/${exerciseId}`, {
      dueAt: new Date(Date.now() - 60_000).toISOString(),
    });
    expect((await bench()).body.solutions).toMatchObject([
      { partId: 'model', text: expect.stringContaining('\\frac') as string, curve: { label: 'expected' } },
    ]);
  });

  test('it once right where the instructor says so, and never where they say never', async () => {
    const once = await smallerCopy({ ...exercise, solution: 'onceDone' });
    const never = await smallerCopy({ ...exercise, solution: 'never' });
    for (const { exerciseId, student } of [once, never]) await handIn(student, exerciseId, 'model', wrong);
    const solutions = async ({ exerciseId, student }: typeof once) =>
      (await student.get<{ solutions: unknown[] }>(`/exercises/${exerciseId}/bench`)).body.solutions.length;
    expect([await solutions(once), await solutions(never)]).toEqual([0, 0]);
    for (const { exerciseId, student } of [once, never]) await handIn(student, exerciseId, 'model', right);
    expect([await solutions(once), await solutions(never)]).toEqual([1, 0]);
  });

  test('it through another part that shares its model', async () => {
    const [first] = exercise.parts as [Extract<ExerciseDocument['parts'][number], { kind: 'transferFunction' }>];
    const second = { ...first, id: 'again' };
    const { exerciseId, student } = await smallerCopy({ ...exercise, solution: 'onceDone', parts: [first, second] });
    const solutions = async () =>
      (await student.get<{ solutions: { partId: string }[] }>(`/exercises/${exerciseId}/bench`)).body.solutions;
    await handIn(student, exerciseId, 'again', right);
    expect(await solutions()).toEqual([]);
    await handIn(student, exerciseId, 'model', right);
    expect((await solutions()).map(({ partId }) => partId)).toEqual(['model', 'again']);
  });

  test('a verdict before the due date where verdicts wait for it', async () => {
    const { exerciseId, student, instructor } = await smallerCopy({
      ...exercise,
      verdict: 'afterDue',
      solution: 'onceDone',
    });
    const { body } = await handIn(student, exerciseId, 'model', right);
    expect(body.verdict).toBeUndefined();
    const home = () => student.get<unknown>(`/courses/${course.courseId}/home`);
    expect(JSON.stringify((await home()).body)).toContain('"handedIn"');
    expect((await student.get<{ solutions: unknown[] }>(`/exercises/${exerciseId}/bench`)).body.solutions).toEqual([]);
    const sheet = await instructor.get<ClassSheet>(`/exercises/${exerciseId}/class`);
    expect(sheet.body.rows.find(({ person }) => person.id === student.id)!.points).toBe(2);
  });
});

async function smallerCopy(document: ExerciseDocument) {
  const { body } = await course.instructor.post<{ id: string }>(`/courses/${course.courseId}/exercises`, document);
  await course.instructor.post(`/exercises/${body.id}/versions`, { revision: 1 });
  return { ...course, exerciseId: body.id };
}

describe('the door', () => {
  test('a change without the token is refused', async () => {
    const stranger = new Browser(server);
    const { status, body } = await stranger.post<{ error: { code: string } }>('/session', {
      email: 'a@b',
      password: 'c',
    });
    expect([status, body.error.code]).toEqual([403, 'wrongToken']);
  });

  test('cookies are out of reach of scripts and other sites; passwords and tokens are kept as hashes', async () => {
    const { headers } = await course.nobody.post('/people', {
      name: 'Cookie',
      email: 'c@harbour.example',
      password: 'a long password',
    });
    expect(headers.getSetCookie().join()).toMatch(/nailset_session=[^;]+;.*HttpOnly; SameSite=Lax/);
    const [row] = await server.sql<{ password_hash: string }>(
      `select password_hash from people where email = 'c@harbour.example'`,
    );
    expect(row!.password_hash).toMatch(/^\$argon2id\$/);
    const tokens = await server.sql<{ token_hash: string }>('select token_hash from sessions');
    expect(tokens.every(({ token_hash }) => /^[0-9a-f]{64}$/.test(token_hash))).toBe(true);
  });

  test('pages carry a strict content policy', async () => {
    const { headers, body } = await course.nobody.send<string>('GET', '/anything');
    const policy = headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'none'");
    expect(policy).toMatch(/script-src 'self' 'nonce-[0-9a-f]+';/);
    expect(policy).not.toMatch(/unsafe/);
    expect(body).not.toContain('%NONCE%');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });

  test('a course is started with the key only, and keeps an instructor', async () => {
    const founder = await new Browser(server).register('Founder One');
    expect((await founder.post('/courses', { name: 'Mine' })).status).toBe(403);
    const { status, body } = await founder.post<{ id: string }>('/courses', { name: 'Mine', courseKey });
    expect(status).toBe(200);
    const leave = await founder.put<{ error: { code: string } }>(`/courses/${body.id}/people/${founder.id}/role`, {
      role: 'student',
    });
    expect(leave.body.error.code).toBe('lastInstructor');
  });

  test('a server that has nothing else to do prepares for every kind of request', async () => {
    const idle = new TestServer(server.database, { NAILSET_WARM_UP: '1', NAILSET_CHECKS: '0' });
    await idle.run();
    while (!/"msg":"(warmed up|warming up failed)"/.test(idle.output)) {
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    await idle.end();
    expect(idle.output).toContain('"msg":"warmed up"');
  });

  test('the description can be read as a page', async () => {
    const { status, body } = await course.nobody.send<string>('GET', '/reference/');
    expect(status).toBe(200);
    expect(body).toContain('swagger');
  });
});
