import type { Bench, CoursePeople, EnteredPlan, Home, Links, Marks, RosterPlan, Session } from '@nailset/core';
import { Browser, exercise, handIn, right, type SmallCourse, smallCourse, TestServer, tuned, wrong } from './harness';

let server: TestServer;
let course: SmallCourse;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.end());
beforeEach(async () => {
  await server.sql(`delete from rate_limits`);
  await server.sql(`update people set email = id || '@past.example'`);
  course = await smallCourse(server);
});

const soon = (hours: number) => new Date(Date.now() + hours * 3_600_000).toISOString();
const list = (text: string, apply = true) =>
  course.instructor.post<RosterPlan>(`/courses/${course.courseId}/people/lists`, {
    files: [{ name: 'list.csv', text }],
    apply,
  });
const peopleNow = async () =>
  (await course.instructor.get<CoursePeople>(`/courses/${course.courseId}/people`)).body.people;
const marksNow = async () => (await course.instructor.get<Marks>(`/courses/${course.courseId}/marks`)).body;
const homeOf = async (browser: Browser) => (await browser.get<Home>(`/courses/${course.courseId}/home`)).body.exercises;

describe('a list of names', () => {
  const text = `E-mail;Name;Student number;Group
ilse.okafor@harbour.example;Ilse Okafor;4411;Mon
new.sailor@harbour.example;Sailor, New;4412;Tue
broken;Somebody;4413;Tue`;

  test('is a preview first; taken in, new people get a link that works once; the same again changes nothing', async () => {
    const preview = (await list(text, false)).body;
    expect(preview.rows.map(({ change, words }) => [change, words])).toEqual([
      ['changed', 'number none → 4411, group none → Mon'],
      ['new', 'gets an account'],
    ]);
    expect(preview.unread).toMatchObject([{ line: 4, problem: '“broken” is no e-mail address.' }]);
    expect((await peopleNow()).some(({ name }) => name === 'New Sailor')).toBe(false);
    const { links } = (await list(text)).body;
    expect(links).toMatchObject([{ name: 'New Sailor', studentNumber: '4412', group: 'Tue' }]);
    expect((await list(text)).body).toMatchObject({ rows: [{ change: 'known' }, { change: 'known' }], links: [] });
    expect(await peopleNow()).toContainEqual(
      expect.objectContaining({ name: 'New Sailor', waiting: true, group: 'Tue', role: 'student' }),
    );
    const sailor = await new Browser(server).open();
    const token = links[0]!.path.split('#')[1];
    // No password opens the account until its owner has chosen one.
    const guess = await sailor.post('/session', { email: 'new.sailor@harbour.example', password: '' });
    expect(guess.status).toBe(401);
    expect((await sailor.put('/password', { token, password: 'ferry at dawn' })).status).toBe(200);
    expect((await sailor.put('/password', { token, password: 'ferry at dusk' })).status).toBe(404);
    await sailor.open();
    expect(await homeOf(sailor)).toHaveLength(1);
  });

  test('new links for who has not come in yet leave earlier ones working', async () => {
    const { links } = (await list(text)).body;
    const again = await course.instructor.post<Links>(`/courses/${course.courseId}/people/links`, { mail: false });
    expect(again.body.links.map(({ email }) => email)).toEqual(['new.sailor@harbour.example']);
    const sailor = await new Browser(server).open();
    const token = links[0]!.path.split('#')[1];
    expect((await sailor.put('/password', { token, password: 'ferry at dawn' })).status).toBe(200);
    const none = await course.instructor.post<Links>(`/courses/${course.courseId}/people/links`, { mail: false });
    expect(none.body.links).toEqual([]);
    expect((await course.instructor.post(`/courses/${course.courseId}/people/links`, { mail: true })).status).toBe(404);
  });

  test('three hundred people come in within one request, once, whoever asks twice', async () => {
    const rows = Array.from({ length: 300 }, (_, k) => `sailor${k}@harbour.example,Sailor ${k},${k},G${k % 5}`);
    const text = ['email,name,number,group', ...rows].join('\n');
    const both = await Promise.all([list(text), list(text)]);
    expect(both.map(({ body }) => body.links.length).sort()).toEqual([0, 300]);
    expect((await peopleNow()).filter(({ role }) => role === 'student')).toHaveLength(302);
  });
});

describe('people', () => {
  test('who is taken out sees nothing, cannot come back by the code, and is restored with all work', async () => {
    await handIn(course.student, course.exerciseId, 'model', right);
    const set = (removed: boolean) =>
      course.instructor.send('PATCH', `/api/courses/${course.courseId}/people/${course.student.id}`, { removed });
    await set(true);
    expect((await course.student.get(`/exercises/${course.exerciseId}/bench`)).status).toBe(404);
    expect((await course.student.post('/memberships', { joinCode: course.joinCode })).status).toBe(403);
    expect((await course.student.get<Session>('/session')).body.memberships).toEqual([]);
    expect((await marksNow()).rows.map(({ person }) => person.name)).toEqual(['Tomasz Berg']);
    await set(false);
    const { body } = await course.student.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    expect(body.handedIn).toMatchObject([{ points: 2 }]);
  });

  test('the only instructor is neither taken out nor made something else; a second one makes it possible', async () => {
    const { instructor, assistant, courseId } = course;
    const out = () => instructor.send('PATCH', `/api/courses/${courseId}/people/${instructor.id}`, { removed: true });
    expect((await out()).status).toBe(409);
    await instructor.put(`/courses/${courseId}/people/${assistant.id}/role`, { role: 'instructor' });
    expect((await out()).status).toBe(200);
    expect((await instructor.get(`/courses/${courseId}/people`)).status).toBe(404);
  });
});

describe('dates', () => {
  const extend = (body: object) =>
    course.instructor.post(`/exercises/${course.exerciseId}/extensions`, {
      ...{ personIds: [], groups: [], visibleFrom: null, dueAt: null, late: null, reason: 'Ferry strike.' },
      ...body,
    });
  const change = (body: object) => course.instructor.send('PATCH', `/api/exercises/${course.exerciseId}`, body);

  test('one person’s extension lets them hand in, and tells them why; nobody else', async () => {
    await change({ dueAt: soon(-1) });
    await extend({ personIds: [course.student.id], dueAt: soon(24) });
    expect((await handIn(course.other, course.exerciseId, 'model', right)).status).toBe(409);
    expect((await handIn(course.student, course.exerciseId, 'model', right)).status).toBe(200);
    expect(await homeOf(course.student)).toMatchObject([{ extended: 'Ferry strike.' }]);
    expect(await homeOf(course.other)).toMatchObject([{ extended: null }]);
    const { body } = await course.student.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    expect([body.extended, body.closesAt! > soon(23)]).toEqual(['Ferry strike.', true]);
    // The expected answer is kept from who can still hand in.
    expect(body.solutions).toEqual([]);
  });

  test('a group’s late rule counts for it alone; taken away, everyone’s counts again', async () => {
    await list('email,name,group\nilse.okafor@harbour.example,Ilse Okafor,Mon');
    await change({ dueAt: soon(-1) });
    await extend({ groups: ['Mon'], late: { hours: 5, keepPercent: 50 } });
    expect((await handIn(course.student, course.exerciseId, 'model', right)).status).toBe(200);
    expect((await marksNow()).rows.map(({ cells }) => cells[0]!.points)).toEqual([1, null]);
    const dates = await course.instructor.get<{ extensions: { id: string }[] }>(
      `/exercises/${course.exerciseId}/dates`,
    );
    const { id } = dates.body.extensions[0]!;
    await course.instructor.send('DELETE', `/api/exercises/${course.exerciseId}/extensions/${id}`);
    expect((await handIn(course.student, course.exerciseId, 'model', wrong)).status).toBe(409);
  });

  test('what is not visible yet is on no home page, opens for no student and takes no answer', async () => {
    const { body: bench } = await course.student.get<Bench>(`/exercises/${course.exerciseId}/bench`);
    await change({ visibleFrom: soon(1) });
    expect(await homeOf(course.student)).toEqual([]);
    expect((await course.student.get(`/exercises/${course.exerciseId}/bench`)).status).toBe(404);
    expect((await course.instructor.get(`/exercises/${course.exerciseId}/bench`)).status).toBe(200);
    const handed = await course.student.post(`/exercises/${course.exerciseId}/submissions`, {
      ...{ key: 'k'.repeat(20), versionId: bench.versionId, partId: 'model', answer: right, trail: [] },
    });
    expect(handed.status).toBe(404);
    await extend({ personIds: [course.student.id], visibleFrom: soon(-1) });
    expect(await homeOf(course.student)).toHaveLength(1);
  });

  test('for nobody, without a date or for a stranger they are refused', async () => {
    const refused = [
      { dueAt: soon(1) },
      { personIds: [course.student.id] },
      { personIds: [course.outsider.id], dueAt: soon(1) },
    ];
    for (const body of refused) expect((await extend(body)).status).toBe(400);
  });
});

describe('marks', () => {
  test('follow the scheme, with excused ones left out, and a student sees their own row alone', async () => {
    const { instructor, courseId, exerciseId, student, other } = course;
    const { body: second } = await instructor.post<{ id: string }>(`/courses/${courseId}/exercises`, exercise);
    await instructor.post(`/exercises/${second.id}/versions`, { revision: 1 });
    await handIn(student, exerciseId, 'model', right);
    await handIn(student, exerciseId, 'tune', tuned);
    expect((await marksNow()).rows.map(({ total }) => total)).toEqual([0.5, 0]);
    await instructor.put(`/exercises/${second.id}/excused/${student.id}`, { excused: true, reason: 'Was at sea.' });
    expect((await marksNow()).rows[0]).toMatchObject({ total: 1, cells: [{ points: 5 }, { excused: 'Was at sea.' }] });
    await instructor.put(`/courses/${courseId}/marking`, {
      sets: [{ id: 'a', name: 'All', weight: 1, best: 1 }],
      exercises: {},
    });
    const own = await student.get<Marks>(`/courses/${courseId}/marks/mine`);
    expect(own.body.rows.map(({ person }) => person.name)).toEqual(['Ilse Okafor']);
    expect((await other.get<Marks>(`/courses/${courseId}/marks/mine`)).body.rows[0]!.total).toBe(0);
    const bad = await instructor.put(`/courses/${courseId}/marking`, {
      sets: [{ id: 'a', name: 'All', weight: 0, best: null }],
      exercises: {},
    });
    expect(bad.status).toBe(400);
  });

  test('a student’s own row keeps back what verdicts keep back', async () => {
    const { instructor, courseId, student } = course;
    const { body: kept } = await instructor.post<{ id: string }>(`/courses/${courseId}/exercises`, {
      ...exercise,
      verdict: 'afterDue',
    });
    await instructor.post(`/exercises/${kept.id}/versions`, { revision: 1 });
    await instructor.send('PATCH', `/api/exercises/${kept.id}`, { dueAt: soon(1) });
    await handIn(student, kept.id, 'model', right);
    await new Promise((resolve) => setTimeout(resolve, 500));
    const own = async () => (await student.get<Marks>(`/courses/${courseId}/marks/mine`)).body.rows[0]!.cells[1];
    expect(await own()).toMatchObject({ points: null, counting: 'open' });
    expect((await marksNow()).rows[0]!.cells[1]).toMatchObject({ points: 2 });
    await instructor.send('PATCH', `/api/exercises/${kept.id}`, { dueAt: soon(-1) });
    expect(await own()).toMatchObject({ points: 2 });
  });

  test('exports are kept as they were, and safe to open in a spreadsheet', async () => {
    const { instructor, courseId, exerciseId, student } = course;
    await list('email,name,number,group\nilse.okafor@harbour.example,Ilse Okafor,"=1+1",@Mon');
    await handIn(student, exerciseId, 'model', right);
    const made = await instructor.post<{ id: string; content: string }>(`/courses/${courseId}/exports`, {
      kind: 'exercises',
    });
    expect(made.body.content.split('\r\n').slice(0, 2)).toEqual([
      'E-mail,Name,Student number,Group,Lamp (of 5),Points,Total %',
      "ilse.okafor@harbour.example,Ilse Okafor,'=1+1,'@Mon,2,2,40",
    ]);
    await handIn(student, exerciseId, 'tune', tuned);
    const kept = await instructor.get<{ content: string }>(`/courses/${courseId}/exports/${made.body.id}`);
    expect(kept.body.content).toBe(made.body.content);
    const results = await instructor.post<{ content: string }>(`/courses/${courseId}/exports`, {
      kind: 'oneRosterResults',
    });
    const [head, first] = results.body.content.split('\r\n').map((line) => line.split(','));
    const of = (name: string) => first![head!.indexOf(name)];
    expect([of('lineItemSourcedId'), of('scoreStatus'), of('score')]).toEqual([exerciseId, 'fully graded', '5']);
  });
});

describe('answers from elsewhere', () => {
  const enter = (text: string, apply: boolean) =>
    course.assistant.post<EnteredPlan>(`/exercises/${course.exerciseId}/entered`, { text, apply });

  test('are matched, previewed, checked as hand-ins in time, and entered once', async () => {
    await course.instructor.send('PATCH', `/api/exercises/${course.exerciseId}`, { dueAt: soon(-1) });
    const text = `student,Model,b
ilse.okafor@harbour.example,${right.text},"Kp = 4, Kd = 3"
tomasz berg,7/(s+,
Nobody Known,1/s,`;
    const { rows } = (await enter(text, false)).body;
    expect(rows.map(({ name, partId, problem }) => [name, partId, problem !== null])).toEqual([
      ['Ilse Okafor', 'model', false],
      ['Ilse Okafor', 'tune', false],
      ['Tomasz Berg', 'model', true],
      ['Nobody Known', 'model', true],
    ]);
    expect((await enter(text, true)).body.entered).toBe(2);
    expect((await enter(text, true)).body.entered).toBe(0);
    for (let tries = 0; tries < 100; tries++) {
      if ((await marksNow()).rows[0]!.cells[0]!.points === 5) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect((await marksNow()).rows[0]!.cells[0]).toMatchObject({ points: 5 });
  });

  test('a table that says nobody or no part is refused with what it lacks', async () => {
    expect((await enter('colour,part,answer\nred,model,1/s', false)).status).toBe(400);
    expect((await enter('student,colour\nIlse Okafor,red', false)).status).toBe(400);
  });
});

describe('next year', () => {
  test('a copy has exercises, sets and moved dates, and nobody else in it', async () => {
    const { instructor, courseId, exerciseId } = course;
    await instructor.send('PATCH', `/api/exercises/${exerciseId}`, { dueAt: '2026-10-20T16:00:00.000Z' });
    await instructor.put(`/courses/${courseId}/marking`, {
      sets: [{ id: 'w', name: 'Weekly', weight: 1, best: 3 }],
      exercises: { [exerciseId]: { set: 'w', weight: 2, bonus: true } },
    });
    const copy = await instructor.post<{ id: string }>(`/courses/${courseId}/copies`, {
      ...{ name: 'Next year', weeks: 53, zone: 'Europe/Berlin' },
    });
    const { body } = await instructor.get<Marks>(`/courses/${copy.body.id}/marks`);
    expect(body).toMatchObject({ exercises: [{ title: 'Lamp', dueAt: '2027-10-26T16:00:00.000Z' }], rows: [] });
    expect(Object.values(body.marking.exercises)).toEqual([{ set: 'w', weight: 2, bonus: true }]);
    const zone = { name: 'X', weeks: 1, zone: 'Harbour/Quay' };
    expect((await instructor.post(`/courses/${courseId}/copies`, zone)).status).toBe(400);
  });

  test('an archived course is looked at and not changed, until it is brought back', async () => {
    const { instructor, courseId, exerciseId, student } = course;
    await instructor.send('PATCH', `/api/courses/${courseId}`, { archived: true });
    expect((await student.get(`/exercises/${exerciseId}/bench`)).status).toBe(200);
    expect((await handIn(student, exerciseId, 'model', right)).status).toBe(409);
    expect(
      await new Browser(server).register('Late Comer', course.joinCode).catch((error: Error) => error.message),
    ).toMatch(/archived/);
    await instructor.send('PATCH', `/api/courses/${courseId}`, { archived: false });
    expect((await handIn(student, exerciseId, 'model', right)).status).toBe(200);
  });

  test('who deletes their account is without a name, their answers count on, and their own file had it all', async () => {
    const { student, exerciseId, instructor, courseId } = course;
    await handIn(student, exerciseId, 'model', right);
    const file = await student.get<{ answers: unknown[]; person: { name: string } }>('/me/data');
    expect(file.body).toMatchObject({
      person: { name: 'Ilse Okafor' },
      answers: [{ part: 'model', exercise: 'Lamp' }],
    });
    expect((await student.send('DELETE', '/api/me', { password: 'not this one' })).status).toBe(401);
    expect((await student.send('DELETE', '/api/me', { password: 'a long password' })).status).toBe(200);
    expect((await student.get('/me/data')).status).toBe(401);
    const left = await server.sql<{ n: number }>('select count(*)::int as n from submissions where person_id = $1', [
      student.id,
    ]);
    expect(left[0]!.n).toBe(1);
    expect(JSON.stringify(await peopleNow())).not.toMatch(/Ilse|ilse|Deleted/);
    const [kept] = await server.sql<{ id: string }>('select id from submissions where person_id = $1', [student.id]);
    const seen = await instructor.get<{ person: { name: string } }>(`/submissions/${kept!.id}`);
    expect([seen.status, seen.body.person.name]).toEqual([200, 'Deleted person']);
    // The only instructor cannot leave a course without one.
    expect((await instructor.send('DELETE', '/api/me', { password: 'a long password' })).status).toBe(409);
    expect((await instructor.get(`/courses/${courseId}/people`)).status).toBe(200);
  });
});

test('what is to review says why, and is looked at once', async () => {
  const { student, assistant, exerciseId } = course;
  const { body } = await handIn(student, exerciseId, 'model', wrong);
  await server.sql(`alter table verdicts disable trigger all`);
  await server.sql(
    `update verdicts set result = jsonb_set(result, '{items,0,close}', 'true') where submission_id = $1`,
    [body.id],
  );
  await server.sql(`alter table verdicts enable trigger all`);
  const handed = async () =>
    (await assistant.get<{ review: string[]; looked: boolean; comments: unknown[] }>(`/submissions/${body.id}`)).body;
  expect(await handed()).toMatchObject({ review: [expect.stringContaining('within 1 %')], looked: false });
  const wanting = async () => {
    const shelf = await assistant.get<{ exercises: { wantingLook: number }[] }>(`/courses/${course.courseId}/shelf`);
    return shelf.body.exercises[0]!.wantingLook;
  };
  expect(await wanting()).toBe(1);
  await assistant.post(`/submissions/${body.id}/looks`);
  expect([await wanting(), (await handed()).looked]).toEqual([0, true]);
  await assistant.post(`/submissions/${body.id}/comments`, { text: 'Look at the units.' });
  const bench = await student.get<Bench>(`/exercises/${exerciseId}/bench`);
  expect(bench.body.handedIn[0]!.comments).toMatchObject([{ text: 'Look at the units.', by: 'Bram Ozturk' }]);
  const other = await course.other.get<Bench>(`/exercises/${exerciseId}/bench`);
  expect(JSON.stringify(other.body)).not.toContain('units');
});

test('points of many answers are set at once, none where one of them is not of this exercise', async () => {
  const { assistant, exerciseId, student, other } = course;
  const ids = [];
  for (const browser of [student, other]) ids.push((await handIn(browser, exerciseId, 'model', wrong)).body.id);
  const set = (submissionIds: string[], points: number) =>
    assistant.post(`/exercises/${exerciseId}/points`, { submissionIds, points, reason: 'The text misled.' });
  expect((await set([...ids, course.courseId], 1)).status).toBe(404);
  expect((await set(ids, 3)).status).toBe(400);
  expect((await marksNow()).rows.map(({ cells }) => cells[0]!.points)).toEqual([0, 0]);
  expect((await set(ids, 1)).status).toBe(200);
  expect((await marksNow()).rows.map(({ cells }) => cells[0]!.points)).toEqual([1, 1]);
});
