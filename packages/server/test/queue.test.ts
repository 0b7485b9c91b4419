import { randomUUID } from 'node:crypto';
import type { Bench, ClassSheet, Handed } from '@nailset/core';
import { Browser, handIn, post, right, type SmallCourse, smallCourse, TestServer, wrong } from './harness';

/** Checks are jobs in the database: whoever stores an answer need not be the one who checks it. */

let front: TestServer;
let course: SmallCourse;

beforeAll(async () => {
  front = await TestServer.start({ NAILSET_CHECKS: '0' });
  course = await smallCourse(front);
});
afterAll(() => front.end());

const worker = (environment: Record<string, string> = {}) => new TestServer(front.database, environment, 'worker');

const verdictsOf = async (id: string): Promise<number> =>
  Number(
    (await front.sql<{ count: string }>('select count(*) from verdicts where submission_id = $1', [id]))[0]!.count,
  );

/** Waits for a condition, not for the clock. */
async function until(what: string, holds: () => Promise<boolean>): Promise<void> {
  for (const end = Date.now() + 40_000; !(await holds()); await new Promise((go) => setTimeout(go, 50))) {
    if (Date.now() > end) throw new Error(`Waited in vain until ${what}.`);
  }
}

const waiting = async (): Promise<{ waiting: number; oldestSeconds: number }> =>
  (await course.nobody.get<{ checks: { waiting: number; oldestSeconds: number } }>('/health')).body.checks;

test('an answer is acknowledged at once, stands as being checked, and a worker that comes later checks it', async () => {
  const { status, body } = await post(course.student, course.exerciseId, 'model', right);
  expect([status, body.checked, body.verdict]).toEqual([200, false, undefined]);
  const { body: bench } = await course.student.get<Bench>(`/exercises/${course.exerciseId}/bench`);
  expect(bench.handedIn).toMatchObject([{ id: body.id, checked: false, outOfTime: false }]);
  const { body: sheet } = await course.instructor.get<ClassSheet>(`/exercises/${course.exerciseId}/class`);
  expect(sheet.rows.find(({ person }) => person.id === course.student.id)!.cells['model']).toMatchObject({
    ...{ checked: false, outOfTime: false, look: false },
  });
  expect(await waiting()).toMatchObject({ waiting: 1 });

  // The page asks before there is anyone to check, and is answered when it is done.
  const asked = course.student.get<Bench['handedIn'][number]>(`/exercises/${course.exerciseId}/attempts/${body.id}`);
  const late = worker();
  await late.run();
  expect((await asked).body).toMatchObject({ checked: true, verdict: { met: true } });
  await until('the queue is empty', async () => (await waiting()).waiting === 0);
  await late.end();
});

test('a key that is sent again while the check waits is one try, one job and one verdict', async () => {
  const key = randomUUID();
  const sent = await Promise.all(
    Array.from({ length: 6 }, () => post(course.other, course.exerciseId, 'model', wrong, { key })),
  );
  expect(sent.map(({ status }) => status)).toEqual(Array(6).fill(200));
  expect(new Set(sent.map(({ body }) => body.id)).size).toBe(1);
  expect((await waiting()).waiting).toBe(1);
  const two = [worker(), worker()];
  await Promise.all(two.map((each) => each.run()));
  await until('it is checked', async () => (await verdictsOf(sent[0]!.body.id)) > 0);
  await post(course.other, course.exerciseId, 'model', wrong, { key });
  await until('the queue is empty', async () => (await waiting()).waiting === 0);
  expect(await verdictsOf(sent[0]!.body.id)).toBe(1);
  await Promise.all(two.map((each) => each.end()));
});

test('a worker that is killed in the middle of a check gives it up to another, and there is one verdict', async () => {
  const fresh = await new Browser(front).register('Half Way', course.joinCode);
  const { body } = await post(fresh, course.exerciseId, 'model', right);
  const free = await holdingVerdicts();
  const first = worker();
  await first.run();
  await until('the job is taken', async () => (await front.sql(lockedJobs)).length === 1);
  await first.end('SIGKILL');
  await free();
  const second = worker();
  await second.run();
  await until('it is checked', async () => (await verdictsOf(body.id)) > 0);
  await until('the queue is empty', async () => (await waiting()).waiting === 0);
  expect(await verdictsOf(body.id)).toBe(1);
  await second.end();
});

test('one person’s checks run one at a time; others’ go on meanwhile', async () => {
  const busy = await new Browser(front).register('Many Answers', course.joinCode);
  const calm = await new Browser(front).register('One Answer', course.joinCode);
  const own = [
    await post(busy, course.exerciseId, 'model', wrong),
    await post(busy, course.exerciseId, 'model', right),
  ].map(({ body }) => body.id);
  const last = await post(calm, course.exerciseId, 'model', right);
  const free = await holdingVerdicts();
  const all = worker({ NAILSET_CHECKS: '3' });
  await all.run();
  const running = async () =>
    (await front.sql<{ flags: object }>(lockedJobs)).map(({ flags }) => Object.keys(flags)[0]);
  const each = [busy.id, calm.id].sort().join();
  // There is a third thread, and a third answer waits, if need be sent back: it is of someone who is being checked.
  await until('both people are being checked, each once', async () => (await running()).sort().join() === each);
  await free();
  const counts = () => Promise.all([...own, last.body.id].map(verdictsOf));
  await until('all are checked', async () => (await counts()).every((count) => count === 1));
  await all.end();
});

test('staff have an answer checked again: a second verdict, which counts', async () => {
  const all = worker();
  await all.run();
  const fresh = await new Browser(front).register('Once More', course.joinCode);
  const { body } = await handIn(fresh, course.exerciseId, 'model', right);
  await front.sql(`insert into verdicts (submission_id, result, points) values ($1, null, 0)`, [body.id]);
  const seen = async () => (await course.assistant.get<Handed>(`/submissions/${body.id}`)).body;
  expect(await seen()).toMatchObject({ checked: true, verdict: null, points: 0 });
  await course.assistant.post(`/submissions/${body.id}/checks`);
  await until('it is checked again', async () => (await verdictsOf(body.id)) === 3);
  expect(await seen()).toMatchObject({ verdict: { met: true }, points: 2 });
  await all.end();
});

test('a checker that fails is tried again, and in the end the answer is left to a person', async () => {
  const fresh = await new Browser(front).register('Bad Luck', course.joinCode);
  const { body } = await post(fresh, course.exerciseId, 'model', right);
  // What is stored no longer fits its part, so that the checker itself fails.
  await front.sql(`update graphile_worker._private_jobs set attempts = max_attempts - 2, run_at = now()`);
  await front.sql(`alter table submissions disable trigger append_only`);
  await front.sql(`update submissions set answer = '{"kind":"transferFunction"}' where id = $1`, [body.id]);
  await front.sql(`alter table submissions enable trigger append_only`);
  const all = worker();
  await all.run();
  await until('it was tried', async () => (await front.sql(failedJobs)).length === 1);
  expect(await verdictsOf(body.id)).toBe(0);
  await front.sql(`update graphile_worker._private_jobs set run_at = now()`);
  await until('it is left to a person', async () => (await verdictsOf(body.id)) === 1);
  const [row] = await front.sql<{ result: unknown; close: boolean }>(
    'select result, close from verdicts where submission_id = $1',
    [body.id],
  );
  expect(row).toEqual({ result: null, close: true });
  await all.end();
});

test('a connection that is lost just as a check ends keeps its person from no later check', async () => {
  const fresh = await new Browser(front).register('Cut Off', course.joinCode);
  const { body: first } = await post(fresh, course.exerciseId, 'model', wrong);
  const free = await holdingVerdicts();
  const all = worker();
  await all.run();
  await until('the job is taken', async () => (await front.sql(lockedJobs)).length === 1);
  const held = await front.connection();
  await held.query('begin; select from graphile_worker._private_jobs for update');
  await free();
  const ending = `from pg_stat_activity
     where datname = current_database() and wait_event_type = 'Lock' and query ~ '^delete from .*_private_jobs'`;
  await until('the job is about to go', async () => (await front.sql(`select ${ending}`)).length === 1);
  await front.sql(`select pg_terminate_backend(pid) ${ending}`);
  await held.end();
  const { body: second } = await post(fresh, course.exerciseId, 'model', right);
  await until('both are checked', async () => (await verdictsOf(first.id)) + (await verdictsOf(second.id)) === 2);
  await until('the queue is empty', async () => (await waiting()).waiting === 0);
  await all.end();
});

const lockedJobs = 'select flags from graphile_worker._private_jobs where locked_at is not null';
const failedJobs = 'select 1 from graphile_worker._private_jobs where last_error is not null and locked_at is null';

/** Keeps every check in its middle, where its verdict is to be written, until the answer is called. */
async function holdingVerdicts(): Promise<() => Promise<void>> {
  const client = await front.connection();
  await client.query('begin; lock table verdicts in share row exclusive mode');
  return () => client.end();
}
