import { randomUUID } from 'node:crypto';
import type { Bench, ExerciseDocument, Home, Publishing } from '@nailset/core';
import type { Browser } from './harness';
import { exercise, handIn, right, save, type SmallCourse, smallCourse, TestServer, tuned, wrong } from './harness';

let server: TestServer;
let course: SmallCourse;

beforeAll(async () => {
  server = await TestServer.start();
  course = await smallCourse(server);
});
afterAll(() => server.end());

interface Refused {
  error: { code: string; message: string };
}

const benchOf = async (browser: Browser, exerciseId = course.exerciseId): Promise<Bench> =>
  (await browser.get<Bench>(`/exercises/${exerciseId}/bench`)).body;

/** Another published exercise of the course. */
async function added(document: ExerciseDocument): Promise<string> {
  const { body } = await course.instructor.post<{ id: string }>(`/courses/${course.courseId}/exercises`, document);
  await publish(body.id, 1);
  return body.id;
}

const publish = (exerciseId: string, revision: number, more: { newNumbers?: boolean } = {}) =>
  course.instructor.post<{ version: number }>(`/exercises/${exerciseId}/versions`, { revision, ...more });

const change = (exerciseId: string, revision: number, document: ExerciseDocument) =>
  course.instructor.put(`/exercises/${exerciseId}/draft`, { revision, document });

describe('a page of one person, with another signed in by now', () => {
  const as = (whose: Browser) => ({ headers: { 'x-nailset-person': whose.id } });

  test('records nothing for the other', async () => {
    const { versionId } = await benchOf(course.student);
    const sent = { key: randomUUID(), versionId, partId: 'model', answer: wrong, trail: [] };
    const address = `/api/exercises/${course.exerciseId}`;
    const answers = await Promise.all([
      course.other.send<Refused>('POST', `${address}/submissions`, sent, as(course.student)),
      course.other.send<Refused>(
        'PUT',
        `${address}/answers/model`,
        { answer: wrong, trail: [], base: 0, page: 'page-of-ilse', count: 1 },
        as(course.student),
      ),
      course.other.send<Refused>('GET', `${address}/bench`, undefined, as(course.student)),
      course.other.send<Refused>('DELETE', '/api/session', undefined, as(course.student)),
    ]);
    for (const { status, body } of answers) expect([status, body.error.code]).toEqual([409, 'otherPerson']);
    expect(await benchOf(course.other)).toMatchObject({ handedIn: [], saved: [] });
  });

  test('may ask who is signed in, and works on where it is the same person', async () => {
    expect((await course.other.send('GET', '/api/session', undefined, as(course.student))).status).toBe(200);
    const address = `/api/exercises/${course.exerciseId}/bench`;
    expect((await course.other.send('GET', address, undefined, as(course.other))).status).toBe(200);
  });
});

describe('saves of one answer', () => {
  const text = (value: string) => ({ kind: 'transferFunction', text: value });
  const saved = async () => (await benchOf(course.student)).saved.find(({ partId }) => partId === 'model');

  test('an older one that arrives late is refused', async () => {
    const write = (value: string, count: number) =>
      save(course.student, course.exerciseId, 'model', text(value), { base: 0, page: 'first-page', count });
    expect((await write('1/s', 2)).body.revision).toBe(1);
    const late = await write('1', 1);
    expect([late.status, late.body.error.code]).toEqual([409, 'answerChanged']);
    // The answer to the save before was lost: the next one still names the old revision.
    expect((await write('1/(s+1)', 3)).body.revision).toBe(2);
    expect(await saved()).toMatchObject({ answer: text('1/(s+1)'), revision: 2 });
  });

  test('a second window learns that the first changed the answer, and goes on from what it has seen', async () => {
    const write = (value: string, page: string, base: number, count = 1) =>
      save(course.student, course.exerciseId, 'model', text(value), { base, page, count });
    expect((await write('2/s', 'second-page', 2)).body.revision).toBe(3);
    const first = await write('3/s', 'first-page', 2, 4);
    expect([first.status, first.body.error.code]).toEqual([409, 'answerChanged']);
    expect(await saved()).toMatchObject({ answer: text('2/s') });
    expect((await write('3/s', 'first-page', 3, 5)).status).toBe(200);
    expect(await saved()).toMatchObject({ answer: text('3/s'), revision: 4 });
  });
});

describe('trails', () => {
  const stop = (gains: Record<string, string>) => [{ gains, holding: 0 }];

  test.each([
    ['of a part without a ladder', 'model', wrong, stop({ Kp: '1' })],
    ['with a gain that is not of the part', 'tune', tuned, stop({ Ki: '1' })],
    ['with a value that is no number', 'tune', tuned, stop({ Kp: 'many', Kd: '0' })],
  ])('%s cost no try', async (_name, partId, answer, trail) => {
    const { status, body } = await handIn(course.other, course.exerciseId, partId, answer, { trail });
    expect([status, (body as unknown as Refused).error.code]).toEqual([422, 'refused']);
    expect((await benchOf(course.other)).handedIn).toEqual([]);
  });

  test('are kept as far as they are of the part while an answer is in the making', async () => {
    const trail = [...stop({ Ki: '1' }), ...stop({ Kp: '1,5', Kd: '0' })];
    expect((await save(course.other, course.exerciseId, 'tune', tuned, { trail })).status).toBe(200);
    expect((await benchOf(course.other)).saved[0]!.trail).toEqual(stop({ Kp: '1,5', Kd: '0' }));
  });
});

describe('a key', () => {
  test('names one answer to one part of one exercise', async () => {
    const second = await added({ ...exercise, title: 'Second lamp' });
    const key = randomUUID();
    const first = await handIn(course.other, course.exerciseId, 'model', wrong, { key });
    const tune = await handIn(course.other, course.exerciseId, 'tune', tuned, { key });
    const elsewhere = await handIn(course.other, second, 'model', right, { key });
    expect(new Set([first, tune, elsewhere].map(({ body }) => body.id)).size).toBe(3);
    expect(elsewhere.body.verdict!.met).toBe(true);
    const other = await handIn(course.other, course.exerciseId, 'model', right, { key });
    expect([other.status, (other.body as unknown as Refused).error.code]).toEqual([409, 'keyUsed']);
  });
});

test('an exercise that was put away is closed by its address too', async () => {
  const id = await added({ ...exercise, title: 'Put away' });
  const before = await benchOf(course.student, id);
  await course.instructor.send('PATCH', `/api/exercises/${id}`, { archived: true });
  const opened = await course.student.get<Refused>(`/exercises/${id}/bench`);
  expect([opened.status, opened.body.error.code]).toEqual([404, 'putAway']);
  const sent = { key: randomUUID(), versionId: before.versionId, partId: 'model', answer: right, trail: [] };
  const handed = await course.student.post<Refused>(`/exercises/${id}/submissions`, sent);
  expect([handed.status, handed.body.error.code]).toEqual([404, 'putAway']);
  expect((await course.instructor.get(`/exercises/${id}/bench`)).status).toBe(200);
});

describe('a version with other ranges', () => {
  const [K] = exercise.parameters as [ExerciseDocument['parameters'][number]];
  const ranged = (from: number, to: number): ExerciseDocument => ({
    ...exercise,
    title: 'Ranges',
    parameters: [{ ...K, draw: { kind: 'range', from, to, step: 1 } }],
  });
  const numberOf = async (browser: Browser, id: string) => (await benchOf(browser, id)).parameters[0]!.value;

  test('leaves students the numbers they have seen, and the dialog says how many', async () => {
    const id = await added(ranged(1, 9000));
    const seen = await numberOf(course.student, id);
    await change(id, 1, { ...ranged(50_000, 60_000), parts: [{ ...exercise.parts[0]!, points: 5 } as never] });
    const { body: told } = await course.instructor.get<Publishing>(`/exercises/${id}/publishing`);
    expect(told).toMatchObject({ seen: 1, ruledOut: 0, fixed: [] });
    expect(told.parts).toEqual([
      { title: 'Tune', change: 'removed', before: 3, after: 0, handedIn: 0 },
      { title: 'Model', change: 'points', before: 2, after: 5, handedIn: 0 },
    ]);
    await publish(id, 2);
    expect(await numberOf(course.student, id)).toBe(seen);
    expect(Number(await numberOf(course.other, id))).toBeGreaterThanOrEqual(50_000);
  });

  test('draws anew for everyone where the instructor says so, and for those whom a guard rules out', async () => {
    const id = await added(ranged(1, 9000));
    const seen = await numberOf(course.student, id);
    await publish(id, 1, { newNumbers: true });
    const anew = await numberOf(course.student, id);
    expect(anew).not.toBe(seen);
    await change(id, 1, { ...ranged(1, 9000), guards: [Number(anew) > 4500 ? `K < ${anew}` : `K > ${anew}`] });
    expect((await course.instructor.get<Publishing>(`/exercises/${id}/publishing`)).body).toMatchObject({
      ruledOut: 1,
    });
    await publish(id, 2);
    // Numbers are drawn by ids that differ from run to run, so the guard leaves the larger half.
    expect(await numberOf(course.student, id)).not.toBe(anew);
  });
});

test('a late answer is worth the same on bench and home, and counts as right', async () => {
  const id = await added({ ...exercise, title: 'Late', late: { hours: 24, keepPercent: 50 } });
  const dueAt = new Date(Date.now() - 3_600_000);
  await course.instructor.send('PATCH', `/api/exercises/${id}`, { dueAt: dueAt.toISOString() });
  const bench = await benchOf(course.student, id);
  expect(bench.closesAt).toBe(new Date(dueAt.getTime() + 24 * 3_600_000).toISOString());
  await handIn(course.student, id, 'model', right);
  const [attempt] = (await benchOf(course.student, id)).handedIn;
  expect(attempt).toMatchObject({ points: 1, verdict: { points: 2 } });
  const { body: home } = await course.student.get<Home>(`/courses/${course.courseId}/home`);
  expect(home.exercises.find((row) => row.id === id)).toMatchObject({ points: 1, parts: [{ state: 'met' }, {}] });
});

test('every answer carries the server’s time', async () => {
  const { headers } = await course.student.get('/session');
  expect(Math.abs(new Date(headers.get('date')!).getTime() - Date.now())).toBeLessThan(5000);
});

test('nothing before commitment holds a number of a hidden curve, nor a picture that nothing shows', async () => {
  const times = [0, 1, 2, 3];
  const picture = (id: string, base64: string) => ({ id, type: 'image/png' as const, base64 });
  const id = await added({
    ...exercise,
    title: 'Hidden',
    statement: 'See ![the lamp](picture:lamp).',
    series: [
      { id: 'driven', name: 'Driven', times, values: [0, 1.1111, 1.1111, 1.1111] },
      { id: 'kept-back', name: 'Kept back', times, values: [0, 4.7474, 4.8484, 4.9494] },
    ],
    pictures: [picture('lamp', 'AAAA'), picture('lamp-2', 'BBBBBBBB')],
    parts: [
      {
        ...exercise.parts[0]!,
        figure: {
          horizon: 3,
          curves: [
            { label: 'Given', system: '1/(s+1)', afterwards: false },
            { label: 'Measured', series: 'kept-back', afterwards: true },
          ],
        },
      },
      { ...exercise.parts[1]!, disturbance: { kind: 'series', series: 'driven' } } as never,
    ],
  });
  const everything = async () =>
    JSON.stringify([
      await course.student.get(`/exercises/${id}/bench`),
      await course.student.get(`/courses/${course.courseId}/home`),
      await save(course.student, id, 'model', wrong),
    ]);
  const before = await everything();
  expect(before).not.toMatch(/4\.[789]\d\d4|kept-back|BBBBBBBB/);
  expect(before).toContain('1.1111');
  expect(before).toContain('AAAA');
  await handIn(course.student, id, 'model', wrong);
  expect((await benchOf(course.student, id)).revealed[0]!.curves[0]!.values).toEqual([0, 4.7474, 4.8484, 4.9494]);
});
