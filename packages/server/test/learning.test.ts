import type { Bench, ExerciseDocument, HintsTold, Marks, Practice, PracticeResult, Working } from '@nailset/core';
import { Browser, exercise, handIn, right, type SmallCourse, smallCourse, TestServer, wrong } from './harness';

let server: TestServer;
let course: SmallCourse;

/** The usual exercise, with hints to its first part. */
const hinted: ExerciseDocument = {
  ...exercise,
  solution: 'onceDone',
  parts: exercise.parts.slice(0, 1).map((part) => ({
    ...part,
    hints: [
      { text: 'With $K = {{K}}$ begin at $s = 0$.', cost: 0 },
      { text: 'The middle coefficient is 31.', cost: 1.5 },
    ],
  })),
};

beforeAll(async () => {
  server = await TestServer.start();
  course = await smallCourse(server, hinted);
});
afterAll(() => server.end());

interface Refused {
  error: { code: string; message: string };
}

const here = () => `/exercises/${course.exerciseId}`;
const benchOf = async (browser: Browser): Promise<Bench> => (await browser.get<Bench>(`${here()}/bench`)).body;
const hint = (browser: Browser, number: number) =>
  browser.post<HintsTold & Refused>(`${here()}/hints`, { partId: 'model', number });
const practise = (browser: Browser) => browser.post<Practice & Refused>(`${here()}/practice`, { partId: 'model' });
const check = (browser: Browser, seed: string, answer: unknown) =>
  browser.post<PracticeResult & Refused>(`${here()}/practice/checks`, { seed, partId: 'model', answer });

/** Waits until an attempt is checked. */
async function handedIn(browser: Browser, answer: unknown) {
  const { body } = await handIn(browser, course.exerciseId, 'model', answer);
  return (await browser.get<Bench['handedIn'][number]>(`${here()}/attempts/${body.id}`)).body;
}

describe('hints', () => {
  test('their words are with nobody who has not asked; they come in order, with the student’s numbers', async () => {
    const before = await course.student.get<Bench>(`${here()}/bench`);
    expect(JSON.stringify(before.body)).not.toContain('middle coefficient');
    expect(before.body.parts[0]!.hints).toEqual([0, 1.5]);
    expect((await hint(course.student, 2)).status).toBe(400);
    expect((await hint(course.student, 3)).status).toBe(404);
    const { body } = await hint(course.student, 1);
    expect(body.texts).toEqual([expect.stringMatching(/^With \$K = [\d.]+\$ begin/)]);
    expect((await benchOf(course.student)).hints).toEqual([{ partId: 'model', texts: body.texts }]);
  });

  test('what is handed in afterwards loses what they cost, once; the gradebook says the same', async () => {
    const first = await handedIn(course.student, right);
    expect(first).toMatchObject({ points: first.verdict!.points });
    expect(first).not.toHaveProperty('hintCost');
    await hint(course.other, 1);
    await hint(course.other, 2);
    expect((await hint(course.other, 2)).body.texts).toHaveLength(2);
    const second = await handedIn(course.other, right);
    const full = second.verdict!.points;
    expect(second).toMatchObject({ hintCost: 1.5, points: full - 1.5 });
    const { body: marks } = await course.instructor.get<Marks>(`/courses/${course.courseId}/marks`);
    const cellOf = (browser: Browser) => marks.rows.find(({ person }) => person.id === browser.id)!.cells[0]!.points;
    expect([cellOf(course.student), cellOf(course.other)]).toEqual([full, full - 1.5]);
  });

  test('they never take more than there is', async () => {
    const late = await new Browser(server).register('Late Hinter', course.joinCode);
    await hint(late, 1);
    await hint(late, 2);
    expect(await handedIn(late, wrong)).toMatchObject({ points: 0 });
  });
});

describe('the working', () => {
  test('is told with the expected answer, not before', async () => {
    const fresh = await new Browser(server).register('Fresh Person', course.joinCode);
    const ask = (browser: Browser) => browser.get<Working & Refused>(`${here()}/parts/model/working`);
    expect((await ask(fresh)).body.error.code).toBe('notTold');
    expect((await benchOf(fresh)).working).toBe(false);
    // Solved above.
    expect((await benchOf(course.student)).working).toBe(true);
    const { status, body } = await ask(course.student);
    expect(status).toBe(200);
    expect(body.at(-1)!.latex).toContain('s^{2}+31\\,s+7770777');
  });
});

describe('practice', () => {
  test('begins once the part is solved, with other numbers each time, and never counts', async () => {
    const fresh = await new Browser(server).register('New Person', course.joinCode);
    expect((await practise(fresh)).body.error.code).toBe('notTold');
    const before = await benchOf(course.student);
    expect(before.practice).toEqual(['model']);
    const sets = [];
    for (let k = 0; k < 6; k++) sets.push((await practise(course.student)).body);
    const numbers = sets.map(({ bench }) => bench.parameters.map(({ value }) => value).join());
    expect(new Set(numbers).size).toBeGreaterThan(1);
    expect(sets[0]!.bench.parts.map(({ id }) => id)).toEqual(['model']);
    const { body } = await check(course.student, sets[0]!.seed, right);
    expect(body.verdict.met).toBe(true);
    expect(body.working.length).toBeGreaterThan(0);
    expect(body.solution).toBeDefined();
    expect((await benchOf(course.student)).handedIn).toEqual(before.handedIn);
  });

  test('tells which slips were shed: not made in the last two answers, which were right', async () => {
    const { body: set } = await practise(course.other);
    const done = async (answer: unknown) => (await check(course.other, set.seed, answer)).body.tally;
    const slip = { kind: 'transferFunction', text: 'K*7770777/(s^2-31s+7770777)' };
    expect(await done(slip)).toMatchObject({ done: 1, right: 0, slips: [{ times: 1, shed: false }] });
    await done(right);
    expect(await done(right)).toMatchObject({ done: 3, right: 2, slips: [{ times: 1, shed: true }] });
  });

  test('an answer that cannot be read says where, and is not counted', async () => {
    const { body: set } = await practise(course.other);
    const { status, body } = await check(course.other, set.seed, { kind: 'transferFunction', text: '1/(s+' });
    expect([status, body.error.code]).toEqual([422, 'refused']);
    expect((await practise(course.other)).body.tally.done).toBe(3);
  });

  test('the numbers of a person cannot be asked for by name', async () => {
    const own = (await benchOf(course.other)).parameters.map(({ value }) => value).join();
    const seed = course.other.id.replaceAll('-', '').slice(0, 32);
    const { status } = await check(course.other, seed, right);
    expect(status).toBe(200);
    // Whatever is sent as a seed, it is never the one that a person’s numbers are drawn with.
    expect(own).toBe((await benchOf(course.other)).parameters.map(({ value }) => value).join());
  });

  test('before a part is done it tells the verdict alone, where it is allowed at all', async () => {
    const { body: added } = await course.instructor.post<{ id: string }>(`/courses/${course.courseId}/exercises`, {
      ...hinted,
      practice: 'always',
    });
    await course.instructor.post(`/exercises/${added.id}/versions`, { revision: 1 });
    const there = `/exercises/${added.id}/practice`;
    const { body: set } = await course.other.post<Practice>(there, { partId: 'model' });
    const answer = { seed: set.seed, partId: 'model', answer: right };
    const { body } = await course.other.post<PracticeResult>(`${there}/checks`, answer);
    expect([body.verdict.met, body.working, body.solution]).toEqual([true, [], undefined]);
  });

  test('offers no hint, which would cost where it counts, and keeps no slip that is not told', async () => {
    const { body: added } = await course.instructor.post<{ id: string }>(`/courses/${course.courseId}/exercises`, {
      ...hinted,
      practice: 'always',
      shows: { measured: true, slip: false },
    });
    await course.instructor.post(`/exercises/${added.id}/versions`, { revision: 1 });
    const there = `/exercises/${added.id}/practice`;
    const { body: set } = await course.other.post<Practice>(there, { partId: 'model' });
    expect(set.bench.parts[0]!.hints).toEqual([]);
    const slip = { kind: 'transferFunction', text: 'K*7770777/(s^2-31s+7770777)' };
    const { body } = await course.other.post<PracticeResult>(`${there}/checks`, {
      ...{ seed: set.seed, partId: 'model', answer: slip },
    });
    expect([body.verdict.met, body.verdict.slip, body.tally.slips]).toEqual([false, undefined, []]);
  });

  test('of an exercise that is put away is refused', async () => {
    const { body: added } = await course.instructor.post<{ id: string }>(`/courses/${course.courseId}/exercises`, {
      ...hinted,
      practice: 'always',
    });
    await course.instructor.post(`/exercises/${added.id}/versions`, { revision: 1 });
    await course.instructor.send('PATCH', `/api/exercises/${added.id}`, { archived: true });
    const { body } = await course.other.post<Refused>(`/exercises/${added.id}/practice`, { partId: 'model' });
    expect(body.error.code).toBe('putAway');
  });
});
