import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { type IncomingMessage, request } from 'node:http';
import type { Bench, ClassSheet, GainsPart, Handed } from '@nailset/core';
import {
  Browser,
  exercise,
  handIn,
  right,
  save,
  type SmallCourse,
  smallCourse,
  TestServer,
  tuned,
  wrong,
} from './harness';

let server: TestServer;
let course: SmallCourse;

beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.end());

interface Refused {
  error: { code: string; message: string; at?: number };
}

describe('one student', () => {
  beforeAll(async () => {
    course = await smallCourse(server);
  });

  test('is given the same numbers every time, others than their neighbour', async () => {
    const numbers = async (browser: Browser) =>
      (await browser.get<Bench>(`/exercises/${course.exerciseId}/bench`)).body.parameters[0]!.value;
    const mine = await numbers(course.student);
    expect(await numbers(course.student)).toBe(mine);
    expect(await numbers(course.other)).not.toBe(mine);
  });

  test('finds the answer in the making again', async () => {
    const answer = { kind: 'gains', gains: { Kp: '3.', Kd: '' } };
    const trail = [{ gains: { Kp: '1', Kd: '0' }, holding: 0 }];
    expect((await save(course.student, course.exerciseId, 'tune', answer, { trail })).status).toBe(200);
    const { body } = await course.student.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    expect(body.saved).toMatchObject([{ partId: 'tune', answer, trail }]);
  });

  test.each([
    ['nothing', { kind: 'transferFunction', text: '' }, 'refused', 0],
    ['a division by zero', { kind: 'transferFunction', text: '1/0' }, 'refused', 1],
    ['a huge power', { kind: 'transferFunction', text: 's^99999' }, 'refused', 2],
    ['more zeros than poles', { kind: 'transferFunction', text: 's^2/(s+1)' }, 'refused', 0],
    ['brackets without end', { kind: 'transferFunction', text: '('.repeat(1900) }, 'refused', 60],
    ['an answer of another kind', tuned, 'refused', 0],
    ['too long a text', { kind: 'transferFunction', text: '('.repeat(100_000) }, 'badRequest', undefined],
    ['no answer at all', null, 'badRequest', undefined],
  ])('%s is refused and costs no try', async (_name, answer, code, at) => {
    const { status, body } = (await handIn(course.student, course.exerciseId, 'model', answer)) as unknown as {
      status: number;
      body: Refused;
    };
    expect(status).toBeGreaterThanOrEqual(400);
    expect(body.error.code).toBe(code);
    expect(body.error.at).toBe(at);
    const { body: bench } = await course.student.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    expect(bench.handedIn).toEqual([]);
  });

  test('ten megabytes are refused as too large, before they are sent', async () => {
    const { hostname, port } = new URL(server.url);
    const asked = request({
      ...{ hostname, port, method: 'POST', path: `/api/exercises/${course.exerciseId}/submissions` },
      headers: { ...course.student.headers(), 'content-type': 'application/json', 'content-length': 10_000_000 },
    });
    asked.on('error', () => undefined);
    asked.flushHeaders();
    const [answer] = (await once(asked, 'response')) as [IncomingMessage];
    const body = JSON.parse(Buffer.concat(await answer.toArray()).toString()) as Refused;
    expect([answer.statusCode, body.error.code]).toEqual([413, 'tooLarge']);
    asked.destroy();
  });

  test('handing in twice with one key is one try with one answer', async () => {
    const key = randomUUID();
    const both = await Promise.all([
      handIn(course.student, course.exerciseId, 'model', wrong, { key }),
      handIn(course.student, course.exerciseId, 'model', wrong, { key }),
    ]);
    const again = await handIn(course.student, course.exerciseId, 'model', wrong, { key });
    expect(new Set([...both, again].map(({ body }) => body.id)).size).toBe(1);
    expect(again.body.attempt).toBe(1);
    expect(again.body.verdict).toMatchObject({ met: false, points: 0 });
  });

  test('uses up the tries, and no more; the best counts', async () => {
    expect((await handIn(course.student, course.exerciseId, 'model', right)).body).toMatchObject({
      attempt: 2,
      verdict: { met: true, points: 2 },
    });
    const third = (await handIn(course.student, course.exerciseId, 'model', right)) as unknown as {
      status: number;
      body: Refused;
    };
    expect([third.status, third.body.error.code]).toEqual([409, 'attemptsUsed']);
    const { body } = await course.instructor.get<ClassSheet>(`/exercises/${course.exerciseId}/class`);
    const row = body.rows.find(({ person }) => person.id === course.student.id)!;
    expect(row).toMatchObject({ points: 2, cells: { model: { attempt: 2, met: true } } });
  });

  test('two tries at once never take the same place', async () => {
    const answers = await Promise.all(
      Array.from({ length: 6 }, () => handIn(course.other, course.exerciseId, 'tune', tuned)),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 200, 409, 409, 409, 409]);
  });

  test('another student’s key is no way to their answer', async () => {
    const key = randomUUID();
    const fresh = await new Browser(server).register('Fresh Key', course.joinCode);
    const mine = await handIn(fresh, course.exerciseId, 'model', wrong, { key });
    const theirs = await handIn(course.other, course.exerciseId, 'model', wrong, { key });
    expect(theirs.body.id).not.toBe(mine.body.id);
  });

  test('an answer to an old version is told so, and the draft is kept', async () => {
    const { body: before } = await course.other.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    const changed = { ...exercise, title: 'Lamp, mended' };
    await course.instructor.put(`/exercises/${course.exerciseId}/draft`, { revision: 1, document: changed });
    await course.instructor.post(`/exercises/${course.exerciseId}/versions`, { revision: 2 });
    const late = (await handIn(course.other, course.exerciseId, 'model', wrong, {
      versionId: before.versionId,
    })) as unknown as { status: number; body: Refused };
    expect([late.status, late.body.error.code]).toEqual([409, 'oldVersion']);
    expect((await save(course.other, course.exerciseId, 'model', wrong)).status).toBe(200);
    const { body: after } = await course.other.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    expect(after).toMatchObject({ version: 2, title: 'Lamp, mended' });
    expect(after.parameters).toEqual(before.parameters);
    expect(after.saved.find(({ partId }) => partId === 'model')!.answer).toEqual(wrong);
  });

  test('after the due date nothing is taken, and the draft is kept', async () => {
    await course.instructor.send('PATCH', `/api/exercises/${course.exerciseId}`, {
      dueAt: new Date(Date.now() - 60_000).toISOString(),
    });
    const fresh = await new Browser(server).register('Too Late', course.joinCode);
    const late = (await handIn(fresh, course.exerciseId, 'model', right)) as unknown as {
      status: number;
      body: Refused;
    };
    expect([late.status, late.body.error.code]).toEqual([409, 'pastDue']);
    expect((await save(fresh, course.exerciseId, 'model', right)).status).toBe(200);
  });
});

describe('staff', () => {
  let submissionId: string;
  beforeAll(async () => {
    server = await restarted();
    course = await smallCourse(server);
    submissionId = (await handIn(course.student, course.exerciseId, 'model', wrong)).body.id;
  });

  test('see the answer with its verdict and what was expected', async () => {
    const { body } = await course.assistant.get<Handed>(`/submissions/${submissionId}`);
    expect(body).toMatchObject({ person: { name: 'Ilse Okafor' }, answer: wrong, attempt: 1, overrides: [] });
    expect(body.verdict!.words).toContain('order 1');
    expect(body.expected).toContain('7770800');
  });

  test('decide otherwise with a reason; the newest decision counts and all are kept', async () => {
    const decide = (points: number, reason: string) =>
      course.assistant.post<Refused>(`/submissions/${submissionId}/overrides`, { points, reason });
    expect((await decide(3, 'Too generous.')).body.error.message).toContain('at most 2');
    expect((await decide(1, '')).status).toBe(400);
    await decide(2, 'Right on paper.');
    await decide(1.5, 'A sign was missing.');
    const { body } = await course.instructor.get<Handed>(`/submissions/${submissionId}`);
    expect(body.overrides.map(({ points, by }) => [points, by])).toEqual([
      [2, 'Bram Ozturk'],
      [1.5, 'Bram Ozturk'],
    ]);
    const { body: bench } = await course.student.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    expect(bench.handedIn[0]!.override).toEqual({ points: 1.5, reason: 'A sign was missing.' });
    const { body: sheet } = await course.instructor.get<ClassSheet>(`/exercises/${course.exerciseId}/class`);
    expect(sheet.rows.find(({ person }) => person.id === course.student.id)!.points).toBe(1.5);
  });

  test('cannot publish what cannot be answered', async () => {
    const broken = { ...exercise, parts: [{ ...exercise.parts[0]!, expected: '1/(q+s)' }] };
    const { body: added } = await course.instructor.post<{ id: string }>(
      `/courses/${course.courseId}/exercises`,
      broken,
    );
    const { status, body } = await course.instructor.post<{ error: { code: string; findings: { path: string }[] } }>(
      `/exercises/${added.id}/versions`,
      { revision: 1 },
    );
    expect([status, body.error.code, body.error.findings[0]!.path]).toEqual([422, 'notReady', 'parts/0/expected']);
    expect((await course.student.get(`/exercises/${added.id}/bench`)).status).toBe(404);
  });

  test('cannot save over each other', async () => {
    const save = (revision: number, title: string) =>
      course.instructor.put<Refused>(`/exercises/${course.exerciseId}/draft`, {
        revision,
        document: { ...exercise, title },
      });
    expect((await save(1, 'First window')).status).toBe(200);
    expect((await save(1, 'Second window')).body.error.code).toBe('changedElsewhere');
  });
});

describe('what was handed in', () => {
  beforeAll(async () => {
    server = await restarted();
    course = await smallCourse(server);
  });

  test.each(['versions', 'draws', 'submissions', 'verdicts', 'overrides'])(
    '%s can be neither changed nor removed',
    async (table) => {
      const { body } = await handIn(course.student, course.exerciseId, 'tune', tuned);
      if (body.id)
        await course.instructor.post(`/submissions/${body.id}/overrides`, { points: 1, reason: 'For the test.' });
      const [column] = await server.sql<{ column_name: string }>(
        `select column_name from information_schema.columns where table_name = $1 limit 1`,
        [table],
      );
      await expect(server.sql(`update ${table} set ${column!.column_name} = ${column!.column_name}`)).rejects.toThrow(
        /append-only/,
      );
      await expect(server.sql(`delete from ${table}`)).rejects.toThrow(/append-only/);
    },
  );

  test('fifty students at once are all recorded and checked', async () => {
    const crowd = await Promise.all(
      Array.from({ length: 50 }, (_, k) => new Browser(server).register(`Student Number${k}`, course.joinCode)),
    );
    const answers = await Promise.all(
      crowd.map((browser, k) => handIn(browser, course.exerciseId, 'model', k % 2 ? right : wrong)),
    );
    expect(answers.map(({ status }) => status)).toEqual(Array(50).fill(200));
    expect(answers.filter(({ body }) => body.verdict!.met)).toHaveLength(25);
    const [count] = await server.sql<{ submissions: string; verdicts: string }>(
      `select (select count(*) from submissions where part_id = 'model') submissions,
              (select count(*) from verdicts join submissions s on s.id = submission_id where s.part_id = 'model') verdicts`,
    );
    expect(count).toEqual({ submissions: '50', verdicts: '50' });
  });

  test('survives the server being killed right after it was acknowledged', async () => {
    const fresh = await new Browser(server).register('Sudden End', course.joinCode);
    const { body } = await handIn(fresh, course.exerciseId, 'model', right);
    await server.end('SIGKILL');
    await server.run();
    const { body: bench } = await fresh.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    expect(bench.handedIn).toMatchObject([{ id: body.id, verdict: { met: true } }]);
  });
});

test('a check that takes too long is stopped, recorded, and wants a look', async () => {
  const hasty = await TestServer.start({ NAILSET_CHECK_SECONDS: '0.001' });
  try {
    // So little damping that the response rings for millions of periods: far more work than the limit allows.
    const [, tune] = exercise.parts as [unknown, GainsPart];
    const slow = { ...exercise, parts: [{ ...tune, plant: '1/(s^2 + 1e-9*s + 1)' }] };
    const small = await smallCourse(hasty, slow);
    const { status, body } = await handIn(small.student, small.exerciseId, 'tune', {
      kind: 'gains',
      gains: { Kp: '4', Kd: '0' },
    });
    expect(status).toBe(200);
    expect(body.verdict).toBeUndefined();
    const { body: sheet } = await small.instructor.get<ClassSheet>(`/exercises/${small.exerciseId}/class`);
    expect(sheet.rows.find(({ person }) => person.id === small.student.id)!.cells['tune']).toMatchObject({
      outOfTime: true,
      look: true,
    });
  } finally {
    await hasty.end();
  }
});

async function restarted(): Promise<TestServer> {
  await server.end();
  return TestServer.start();
}
