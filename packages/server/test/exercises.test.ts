import type { Bench, ClassSheet, Draft, ExerciseDocument, Home, Shelf, Version } from '@nailset/core';
import { exercise, handIn, right, type SmallCourse, smallCourse, TestServer, wrong } from './harness';

let server: TestServer;
let course: SmallCourse;
beforeAll(async () => {
  server = await TestServer.start();
  course = await smallCourse(server);
});
afterAll(() => server.end());

/** Another published exercise of the same course. */
async function published(document: ExerciseDocument): Promise<string> {
  const { body } = await course.instructor.post<{ id: string }>(`/courses/${course.courseId}/exercises`, document);
  const { status } = await course.instructor.post(`/exercises/${body.id}/versions`, { revision: 1 });
  expect(status).toBe(200);
  return body.id;
}
const benchOf = async (id: string) => (await course.student.get<Bench>(`/exercises/${id}/bench`)).body;
const setDue = (id: string, hoursFromNow: number) =>
  course.instructor.send('PATCH', `/api/exercises/${id}`, {
    dueAt: new Date(Date.now() + hoursFromNow * 3_600_000).toISOString(),
  });

describe('versions', () => {
  test('stay as they were published, with who, when and how much was handed in', async () => {
    const id = await published({ ...exercise, title: 'First words' });
    await handIn(course.student, id, 'model', wrong);
    await course.instructor.put(`/exercises/${id}/draft`, {
      revision: 1,
      document: { ...exercise, title: 'Second words' },
    });
    await course.instructor.post(`/exercises/${id}/versions`, { revision: 2 });
    const { body } = await course.instructor.get<Version[]>(`/exercises/${id}/versions`);
    expect(body).toMatchObject([
      { number: 2, by: 'Marit Solano', submissions: 0 },
      { number: 1, by: 'Marit Solano', submissions: 1 },
    ]);
    const version = (number: number) => course.assistant.get<ExerciseDocument>(`/exercises/${id}/versions/${number}`);
    expect((await version(1)).body.title).toBe('First words');
    expect((await version(2)).body.title).toBe('Second words');
    expect((await version(3)).status).toBe(404);
  });

  test('of an earlier format are read in the present one', async () => {
    const id = await published(exercise);
    const old = {
      format: 1,
      title: 'Old',
      statement: '',
      parameters: [],
      parts: [
        {
          id: 'rise',
          kind: 'number',
          title: 'Rise',
          prompt: '',
          points: 1,
          quantity: 'riseTime',
          system: '1/(s+1)',
          tolerancePercent: 2,
        },
      ],
      attempts: 2,
      verdict: 'atOnce',
      solution: 'never',
    };
    await server.sql('alter table versions disable trigger all');
    await server.sql(`update versions set document = '${JSON.stringify(old)}' where exercise_id = '${id}'`);
    await server.sql('alter table versions enable trigger all');
    expect((await benchOf(id)).parts[0]).toMatchObject({ kind: 'number', unit: 's', quantity: 'riseTime' });
    const { body } = await handIn(course.student, id, 'rise', { kind: 'number', text: '2.197' });
    expect(body.verdict).toMatchObject({ met: true, points: 1 });
  });
});

describe('the shelf', () => {
  const shelf = async () => (await course.instructor.get<Shelf>(`/courses/${course.courseId}/shelf`)).body.exercises;

  test('duplicates a draft, which then lives by itself', async () => {
    const id = await published({ ...exercise, title: 'Original' });
    const { body } = await course.instructor.post<{ id: string }>(`/exercises/${id}/copies`);
    const copy = (await course.instructor.get<Draft>(`/exercises/${body.id}/draft`)).body;
    expect(copy).toMatchObject({ version: null, submissions: 0 });
    expect(copy.document).toEqual({ ...exercise, title: 'Original (copy)' });
  });

  test('keeps what is archived, and students no longer see it', async () => {
    const id = await published({ ...exercise, title: 'Put away' });
    const home = async () =>
      (await course.student.get<Home>(`/courses/${course.courseId}/home`)).body.exercises.map((row) => row.title);
    expect(await home()).toContain('Put away');
    await course.instructor.send('PATCH', `/api/exercises/${id}`, { archived: true });
    expect(await home()).not.toContain('Put away');
    expect((await shelf()).find((row) => row.id === id)).toMatchObject({ archived: true });
    expect((await course.student.get(`/exercises/${id}/bench`)).status).toBe(404);
    await course.instructor.send('PATCH', `/api/exercises/${id}`, { archived: false });
    expect(await home()).toContain('Put away');
  });
});

describe('late answers', () => {
  test('are taken for as long as the exercise says, and keep their share', async () => {
    const id = await published({ ...exercise, late: { hours: 2, keepPercent: 50 } });
    await setDue(id, -1);
    const { status } = await handIn(course.student, id, 'model', right);
    expect(status).toBe(200);
    const { body } = await course.instructor.get<ClassSheet>(`/exercises/${id}/class`);
    expect(body.rows.find(({ person }) => person.id === course.student.id)!.points).toBe(1);
    await setDue(id, 24);
    const { body: inTime } = await course.instructor.get<ClassSheet>(`/exercises/${id}/class`);
    expect(inTime.rows.find(({ person }) => person.id === course.student.id)!.points).toBe(2);
  });

  test('are refused after that, and everywhere without a late rule', async () => {
    const late = await published({ ...exercise, late: { hours: 2, keepPercent: 50 } });
    const strict = await published(exercise);
    await setDue(late, -3);
    await setDue(strict, -1);
    for (const id of [late, strict]) expect((await handIn(course.student, id, 'model', right)).status).toBe(409);
  });

  test('keep expected answers back until nobody can use them', async () => {
    const id = await published({ ...exercise, solution: 'afterDue', late: { hours: 2, keepPercent: 50 } });
    await setDue(id, -1);
    expect((await benchOf(id)).solutions).toEqual([]);
    await setDue(id, -3);
    expect((await benchOf(id)).solutions).toMatchObject([{ partId: 'model' }]);
  });
});

describe('verdicts', () => {
  test('tell no measured values and no slip where the exercise says so', async () => {
    const id = await published({ ...exercise, shows: { measured: false, slip: false } });
    const slip = { kind: 'transferFunction', text: '1/(s^2 + 31*s + 7770777)' };
    await handIn(course.student, id, 'model', slip);
    const [attempt] = (await benchOf(id)).handedIn;
    expect(attempt!.verdict).toMatchObject({ met: false, words: 'Not yet.' });
    expect(attempt!.verdict!.slip).toBeUndefined();
    const open = await published(exercise);
    await handIn(course.student, open, 'model', slip);
    expect((await benchOf(open)).handedIn[0]!.verdict!.slip).toMatchObject({ id: 'unitNumerator' });
  });
});

describe('predictions', () => {
  const prediction: ExerciseDocument = {
    ...exercise,
    attempts: 5,
    parts: [
      {
        id: 'guess',
        kind: 'choice',
        title: 'Guess',
        prompt: '',
        points: 1,
        several: false,
        options: [
          { id: 'a', text: 'up', right: true },
          { id: 'b', text: 'down', right: false },
        ],
        figure: { horizon: 2, curves: [{ label: 'secret', system: '1/(s+1)', afterwards: true }] },
      },
    ],
  };

  test('have one try whatever the exercise allows, and reveal their curves after it', async () => {
    const id = await published(prediction);
    const before = await benchOf(id);
    expect(before.revealed).toEqual([]);
    expect(JSON.stringify(before)).not.toContain('secret');
    expect(before.parts[0]).toMatchObject({ attempts: 1 });
    const answer = { kind: 'choice', chosen: ['b'] };
    expect((await handIn(course.student, id, 'guess', answer)).body.verdict).toMatchObject({ met: false });
    expect((await handIn(course.student, id, 'guess', { kind: 'choice', chosen: ['a'] })).status).toBe(409);
    expect((await benchOf(id)).revealed).toMatchObject([{ partId: 'guess', curves: [{ label: 'secret' }] }]);
    const other = (await course.other.get<Bench>(`/exercises/${id}/bench`)).body;
    expect(other.revealed).toEqual([]);
    expect(other.measured).toEqual([]);
  });

  test('tell the measures of their curves when nothing is open that asks for one, or never', async () => {
    const parts = [...prediction.parts, ...exercise.parts.slice(0, 1)];
    const id = await published({ ...prediction, solution: 'onceDone', attempts: 1, parts });
    const answer = { kind: 'choice', chosen: ['a'] };
    await handIn(course.student, id, 'guess', answer);
    expect((await benchOf(id)).measured).toEqual([]);
    await handIn(course.student, id, parts[1]!.id, wrong);
    const [told] = (await benchOf(id)).measured;
    expect(told).toMatchObject({ partId: 'guess', curves: [{ at: 0, restValue: 0, finalValue: 1, peakTime: null }] });
    expect(told!.curves[0]!.riseTime).toBeCloseTo(Math.log(9), 6);

    const silent = await published({ ...prediction, solution: 'never' });
    await handIn(course.student, silent, 'guess', answer);
    expect(await benchOf(silent)).toMatchObject({ revealed: [{ partId: 'guess' }], measured: [] });
  });
});

describe('a document', () => {
  const add = (document: unknown) => course.instructor.post(`/courses/${course.courseId}/exercises`, document);

  test.each<[string, unknown, RegExp]>([
    [
      'a picture of an unknown type',
      { ...exercise, pictures: [{ id: 'p', type: 'text/html', base64: '' }] },
      /pictures/,
    ],
    [
      'a picture that is no base64',
      { ...exercise, pictures: [{ id: 'p', type: 'image/png', base64: '<b>' }] },
      /pictures/,
    ],
    [
      'a huge picture',
      { ...exercise, pictures: [{ id: 'p', type: 'image/png', base64: 'A'.repeat(400_004) }] },
      /pictures/,
    ],
    ['a table without values', { ...exercise, series: [{ id: 't', name: 't', times: [0, 1], values: [] }] }, /series/],
    ['thirteen guards', { ...exercise, guards: Array(13).fill('1 < 2') }, /guards/],
    ['a system without a name', { ...exercise, systems: [{ name: '', meaning: '', form: {} }] }, /systems/],
  ])('with %s is refused by name', async (_name, document, message) => {
    const { status, body } = await add(document);
    expect([status, (body as { error: { message: string } }).error.message]).toEqual([
      400,
      expect.stringMatching(message),
    ]);
  });

  test('whose guard nothing meets is not published, and its draft is kept', async () => {
    const { body } = await course.instructor.post<{ id: string }>(`/courses/${course.courseId}/exercises`, {
      ...exercise,
      guards: ['K < 0'],
    });
    const answered = await course.instructor.post(`/exercises/${body.id}/versions`, { revision: 1 });
    expect(answered.status).toBe(422);
    expect(JSON.stringify(answered.body)).toContain('guards');
    expect((await course.instructor.get<Draft>(`/exercises/${body.id}/draft`)).body.document.guards).toEqual(['K < 0']);
  });
});
