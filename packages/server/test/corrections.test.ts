import type { Bench, Correction, CorrectionPreview, ExerciseDocument } from '@nailset/core';
import { type Browser, exercise, handIn, right, type SmallCourse, smallCourse, TestServer, wrong } from './harness';

let server: TestServer;
let course: { -readonly [K in keyof SmallCourse]: SmallCourse[K] };

/** The part’s key was wrong in the first version: it wanted twice the gain. */
const faulty: ExerciseDocument = {
  ...exercise,
  attempts: 2,
  parts: exercise.parts.map((part) =>
    part.kind === 'transferFunction' ? { ...part, expected: `2*(${part.expected})` } : part,
  ),
};
const corrected: ExerciseDocument = {
  ...exercise,
  parts: exercise.parts.map((part) => (part.kind === 'transferFunction' ? { ...part, points: 6 } : part)),
};

beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.end());
beforeEach(async () => {
  // The same people may register again, and as often as tests need.
  await server.sql('delete from rate_limits');
  await server.sql(`update people set email = id || '@past.example'`);
  course = await smallCourse(server, faulty);
});

async function publish(document: ExerciseDocument, revision: number): Promise<void> {
  await course.instructor.put(`/exercises/${course.exerciseId}/draft`, { revision, document });
  await course.instructor.post(`/exercises/${course.exerciseId}/versions`, { revision: revision + 1 });
}

const begin = (body: object = {}) =>
  course.instructor.post<{ id: string }>(`/exercises/${course.exerciseId}/corrections`, {
    ...{ version: 2, partIds: [], submissionIds: [] },
    ...body,
  });

/** The correction once all of it is checked. */
async function checked(id: string): Promise<CorrectionPreview> {
  for (let tries = 0; tries < 200; tries++) {
    const { body } = await course.instructor.get<CorrectionPreview>(
      `/exercises/${course.exerciseId}/corrections/${id}`,
    );
    if (body.state !== 'checking') return body;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('Still checking.');
}

const apply = (id: string, body: object = {}) =>
  course.instructor.post<{ changed: number; error: { code: string } }>(
    `/exercises/${course.exerciseId}/corrections/${id}/application`,
    { counting: 'better', reason: 'The key wanted twice the gain.', givesBack: false, ...body },
  );

const benchOf = async (browser: Browser) => (await browser.get<Bench>(`/exercises/${course.exerciseId}/bench`)).body;

test('a preview changes nothing; applied, the better counts, and the student is told why', async () => {
  await handIn(course.student, course.exerciseId, 'model', right);
  await handIn(course.other, course.exerciseId, 'model', wrong);
  await publish(corrected, 1);
  const { rows } = await checked((await begin()).body.id);
  const told = rows.map(({ name, before, after }) => [name, before.points, before.outOf, after?.points, after?.outOf]);
  expect(told.sort()).toEqual([
    ['Ilse Okafor', 0, 2, 6, 6],
    ['Tomasz Berg', 0, 2, 0, 6],
  ]);
  expect((await benchOf(course.student)).handedIn).toMatchObject([{ points: 0, verdict: { met: false } }]);
  const { body } = await course.instructor.get<Correction[]>(`/exercises/${course.exerciseId}/corrections`);
  expect((await apply(body[0]!.id)).body.changed).toBe(2);
  const [attempt] = (await benchOf(course.student)).handedIn;
  expect(attempt).toMatchObject({
    points: 6,
    verdict: { met: true, outOf: 6 },
    corrected: { version: 2, reason: 'The key wanted twice the gain.' },
  });
  expect((await benchOf(course.other)).handedIn[0]).toMatchObject({ points: 0, verdict: { outOf: 6 } });
  const { body: log } = await course.instructor.get<{ words: string; person: string }[]>(
    `/courses/${course.courseId}/log`,
  );
  expect(log).toContainEqual(
    expect.objectContaining({
      person: 'Ilse Okafor',
      words: 'Model, try 1: 0 of 2 → 6 of 6 points, checked again against version 2',
      reason: 'The key wanted twice the gain.',
    }),
  );
});

test('the newer counts also where it is worse, the better never takes away', async () => {
  await handIn(course.student, course.exerciseId, 'model', { ...right, text: `2*(${right.text})` });
  await publish(corrected, 1);
  const first = (await begin()).body.id;
  await checked(first);
  expect((await apply(first)).body.changed).toBe(0);
  expect((await benchOf(course.student)).handedIn[0]).toMatchObject({ points: 2 });
  const second = (await begin()).body.id;
  await checked(second);
  expect((await apply(second, { counting: 'newer' })).body.changed).toBe(1);
  expect((await benchOf(course.student)).handedIn[0]).toMatchObject({ points: 0, verdict: { outOf: 6 } });
});

test('tries are given back by choice, and checking one again keeps the corrected verdict', async () => {
  await handIn(course.student, course.exerciseId, 'model', wrong);
  await handIn(course.student, course.exerciseId, 'model', right);
  await publish(corrected, 1);
  expect((await handIn(course.student, course.exerciseId, 'model', wrong)).status).toBe(409);
  const { id } = (await begin({ partIds: ['model'] })).body;
  await checked(id);
  await apply(id, { givesBack: true });
  const third = await handIn(course.student, course.exerciseId, 'model', right);
  expect(third.body).toMatchObject({ attempt: 3, verdict: { met: true } });
  const { handedIn } = await benchOf(course.student);
  expect(handedIn.map(({ returned, points }) => [returned, points])).toEqual([
    [true, 0],
    [true, 6],
    [false, 6],
  ]);
  const second = handedIn[1]!.id;
  await course.instructor.post(`/submissions/${second}/checks`);
  for (let tries = 0; tries < 100; tries++) {
    const [count] = await server.sql<{ n: number }>(
      'select count(*)::int as n from verdicts where submission_id = $1',
      [second],
    );
    if (count!.n === 3) break;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  expect((await benchOf(course.student)).handedIn[1]).toMatchObject({ points: 6, corrected: { version: 2 } });
});

test('points set by hand stay, and a part that is gone or of another kind is told', async () => {
  const { body } = await handIn(course.student, course.exerciseId, 'model', right);
  await course.assistant.post(`/submissions/${body.id}/overrides`, { points: 1, reason: 'Seen on paper.' });
  const [model, tune] = corrected.parts;
  await publish({ ...corrected, parts: [{ ...model!, id: 'other' }, tune!] }, 1);
  const gone = await checked((await begin()).body.id);
  expect(gone.rows).toMatchObject([{ after: null, problem: 'This version has no such part.', byHand: true }]);
  await publish(corrected, 2);
  const { id } = (await begin({ version: 3 })).body;
  await checked(id);
  await apply(id);
  expect((await benchOf(course.student)).handedIn[0]).toMatchObject({ points: 1, verdict: { points: 6 } });
});

test('a correction is applied once, not before it is checked, and not after it was cancelled', async () => {
  await handIn(course.student, course.exerciseId, 'model', right);
  await publish(corrected, 1);
  const { id } = (await begin()).body;
  await checked(id);
  await server.sql(`update corrections set state = 'checking' where id = $1`, [id]);
  expect((await apply(id)).body.error.code).toBe('notChecked');
  await server.sql(`update corrections set state = 'ready' where id = $1`, [id]);
  const twice = await Promise.all([apply(id), apply(id)]);
  expect(twice.map(({ status }) => status).sort()).toEqual([200, 409]);
  const other = (await begin()).body.id;
  await course.instructor.send('DELETE', `/api/exercises/${course.exerciseId}/corrections/${other}`);
  expect((await apply(other)).body.error.code).toBe('alreadyDecided');
  expect((await begin({ version: 7 })).status).toBe(404);
  expect((await begin({ partIds: ['nothing'] })).status).toBe(400);
});

test('one that was begun before the server was killed is ended by the next', async () => {
  await handIn(course.student, course.exerciseId, 'model', right);
  await publish(corrected, 1);
  const client = await server.connection();
  await client.query('begin');
  // Holds the answer, so that the check waits while the server dies.
  await client.query('lock table draws in access exclusive mode');
  const { id } = (await begin()).body;
  await server.end('SIGKILL');
  await client.query('rollback');
  await server.run();
  course.instructor = await rejoined(course.instructor);
  expect((await checked(id)).rows).toMatchObject([{ after: { points: 6 } }]);
}, 60_000);

/** The same browser; its cookies hold, its token is asked for anew. */
const rejoined = (browser: Browser): Promise<Browser> => browser.open();
