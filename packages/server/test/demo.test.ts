import type { Bench, ClassSheet, Draft, Home, Session, Shelf } from '@nailset/core';
import { Browser, TestServer } from './harness';

let server: TestServer;
let browser: Browser;
beforeAll(async () => {
  server = await TestServer.start({ NAILSET_DEMO: '1' });
  browser = await new Browser(server).open();
});
afterAll(() => server.end());

async function comeInAs(role: string): Promise<Session> {
  const { body } = await browser.get<Session>('/session');
  const person = body.demo.find((each) => each.role === role)!;
  await browser.post('/session', { email: person.email, password: body.demoPassword });
  return (await browser.get<Session>('/session')).body;
}

describe('the demo course', () => {
  test('offers an instructor, an assistant and students to come in as', async () => {
    const { body } = await browser.get<Session>('/session');
    expect(body.demo.map(({ role }) => role)).toEqual([
      'instructor',
      'assistant',
      'student',
      'student',
      'student',
      'student',
    ]);
  });

  test('has twenty-three exercises, one of them in the making, with parts of every kind', async () => {
    const { memberships } = await comeInAs('instructor');
    const { body } = await browser.get<Shelf>(`/courses/${memberships[0]!.courseId}/shelf`);
    expect(body.exercises.map(({ version, students, points }) => [version, students, points])).toEqual([
      [1, 24, 10],
      [1, 24, 10],
      [1, 24, 7],
      [1, 24, 6],
      [1, 24, 12],
      [1, 24, 6],
      [1, 24, 6],
      [1, 24, 6],
      [1, 24, 6],
      [1, 24, 4],
      [1, 24, 8],
      [1, 24, 4],
      [1, 24, 6],
      [1, 24, 16],
      [1, 24, 5],
      [1, 24, 9],
      [1, 24, 6],
      [1, 24, 6],
      [1, 24, 9],
      [1, 24, 2],
      [1, 24, 6],
      [1, 24, 12],
      [null, 24, 4],
    ]);
    expect(body.exercises.every(({ dueAt, version }) => (dueAt === null) === (version === null))).toBe(true);
  });

  test('every exercise can be changed: its draft is taken back as it is', async () => {
    const { memberships } = await comeInAs('instructor');
    const { body: shelf } = await browser.get<Shelf>(`/courses/${memberships[0]!.courseId}/shelf`);
    const refused: unknown[] = [];
    for (const { id, title } of shelf.exercises) {
      const { body: draft } = await browser.get<Draft>(`/exercises/${id}/draft`);
      const { document, revision } = draft;
      const { status, body } = await browser.put(`/exercises/${id}/draft`, { document, revision });
      if (status >= 300) refused.push([title, body]);
    }
    expect(refused).toEqual([]);
  });

  test('every view has something true to show: right and wrong answers, tries, and students without any', async () => {
    const { memberships } = await comeInAs('instructor');
    const { body: shelf } = await browser.get<Shelf>(`/courses/${memberships[0]!.courseId}/shelf`);
    for (const { id } of shelf.exercises.slice(0, 2)) {
      const { body: sheet } = await browser.get<ClassSheet>(`/exercises/${id}/class`);
      const points = sheet.rows.map((row) => row.points);
      expect(points.filter((p) => p === 10).length).toBeGreaterThanOrEqual(6);
      expect(points.filter((p) => p !== null && p < 6).length).toBeGreaterThanOrEqual(2);
      expect(points.filter((p) => p === null).length).toBeGreaterThanOrEqual(1);
      const cells = sheet.rows.flatMap((row) => Object.values(row.cells));
      expect(cells.every((cell) => cell.checked)).toBe(true);
      expect(cells.some((cell) => cell.attempt > 1)).toBe(true);
      expect(sheet.flock.length).toBeGreaterThan(20);
    }
  });

  test('a student finds both exercises with their own state', async () => {
    const { memberships } = await comeInAs('student');
    const { body } = await browser.get<Home>(`/courses/${memberships[0]!.courseId}/home`);
    expect(body.exercises.slice(0, 2).map(({ parts }) => parts.map(({ state }) => state))).toEqual([
      ['missed', 'open', 'open'],
      ['missed', 'open'],
    ]);
  });

  test('is the same on every machine', async () => {
    await comeInAs('student');
    const { body } = await browser.get<Session>('/session');
    const { body: home } = await browser.get<Home>(`/courses/${body.memberships[0]!.courseId}/home`);
    const { body: bench } = await browser.get<Bench>(`/exercises/${home.exercises[1]!.id}/bench`);
    expect(bench.parameters.map(({ value }) => value)).toEqual(['2.8', '0.6', '1.7']);
  });

  test('is made once: a second start changes nothing', async () => {
    const count = async () => {
      const [row] = await server.sql<{ n: string }>(
        "select (select count(*) from submissions) || ' ' || (select count(*) from people) n",
      );
      return row!.n;
    };
    const before = await count();
    await server.end();
    await server.run();
    expect(await count()).toBe(before);
  });

  test('a bench brings the drawings of its diagrams, which are laid out once', async () => {
    const { memberships } = await comeInAs('student');
    const { body: home } = await browser.get<Home>(`/courses/${memberships[0]!.courseId}/home`);
    const benchOf = async (id: string) => (await browser.get<Bench>(`/exercises/${id}/bench`)).body;
    let withDiagrams = 0;
    for (const { id } of home.exercises) {
      let bench = await benchOf(id);
      const wanted =
        bench.diagrams.length + bench.parts.filter(({ kind }) => kind === 'diagram' || kind === 'paths').length;
      // On a busy machine the first one who asks does not wait for them.
      while (!bench.drawings) bench = await benchOf(id);
      expect([bench.title, bench.drawings.length]).toEqual([bench.title, wanted]);
      for (const { of, drawing } of bench.drawings) {
        expect(drawing.shapes.length).toBeGreaterThan(2);
        for (const { signal } of drawing.lines) expect(of).toContain(`"${signal}"`);
      }
      if (wanted > 0) withDiagrams++;
    }
    expect(withDiagrams).toBeGreaterThan(3);
  });
});
