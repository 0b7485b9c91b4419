// Measures a running Nailset under the load of a lecture:
//   DATABASE_URL=… npm run load -- --url http://127.0.0.1:4180
// DATABASE_URL is the owner's: a course called “Load” is added with its students and their sessions, so that nobody has to
// sign in. Fill the database first (npm run fill) to see how it does at the size of a university.
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { cpus } from 'node:os';
import { parseArgs } from 'node:util';
import autocannon from 'autocannon';
import pg from 'pg';
import { Agent, request } from 'undici';
import { median, row, threeTimes } from './figures.mjs';

const { values } = parseArgs({
  options: {
    url: { type: 'string', default: 'http://127.0.0.1:4180' },
    students: { type: 'string', default: '300' },
    rate: { type: 'string', default: '100' },
    seconds: { type: 'string', default: '60' },
  },
});
const { url } = values;
const students = Number(values.students);
const rate = Number(values.rate);
const seconds = Number(values.seconds);
const connectionString = process.env['DATABASE_URL'];
if (!connectionString) throw new Error('DATABASE_URL says which database the server uses.');
const client = new pg.Client({ connectionString });
await client.connect();
/** @param {string} text @param {unknown[]} [given] @returns {Promise<any[]>} */
const sql = async (text, given = []) => (await client.query(text, given)).rows;

// Lighter than fetch: on the machine that is measured, what asks must not be what is slow.
const dispatcher = new Agent({ connections: null });

/** Milliseconds of one request. @param {string} path @param {{ method?: 'GET' | 'POST', headers: Record<string, string>, body?: string }} options */
async function timed(path, options) {
  const from = performance.now();
  const answer = await request(url + path, { ...options, dispatcher });
  const body = await answer.body.text();
  if (answer.statusCode !== 200) throw new Error(`${path} was answered ${answer.statusCode}: ${body}`);
  return { ms: performance.now() - from, body };
}

/** A session of a person, made without a password. @param {string} personId */
async function sessionOf(personId) {
  const token = randomBytes(32).toString('base64url');
  await sql(`insert into sessions (token_hash, person_id, expires_at) values ($1, $2, now() + interval '1 hour')`, [
    createHash('sha256').update(token).digest('hex'),
    personId,
  ]);
  return token;
}

/** A browser of someone: cookies and the token. @param {string} personId */
async function browserOf(personId) {
  const session = `nailset_session=${await sessionOf(personId)}`;
  const answer = await fetch(`${url}/api/session`, { headers: { cookie: session } });
  const secret = answer.headers.getSetCookie().map((cookie) => cookie.split(';')[0]);
  const { csrfToken } = await answer.json();
  return { cookie: [session, ...secret].join('; '), 'x-csrf-token': csrfToken, 'content-type': 'application/json' };
}

const [submissions] = await sql('select count(*)::int as count from submissions');
console.log(`${cpus()[0]?.model.trim()}, ${cpus().length} cores; ${submissions.count} submissions in the database\n`);

// A course of its own, from the demo's first exercise, whose parts take many tries.
const [{ id: demo }] = await sql('select id from courses where demo limit 1');
const [{ person_id: instructor }] = await sql(
  `select person_id from memberships where course_id = $1 and role = 'instructor' limit 1`,
  [demo],
);
const [template] = await sql(
  `select v.id, v.document from versions v join exercises e on e.id = v.exercise_id
    where e.course_id = $1 order by e.created_at limit 1`,
  [demo],
);
const document = { ...template.document, attempts: 50, title: 'Load' };
const [{ id: course }] = await sql(`insert into courses (name, join_code) values ('Load', $1) returning id`, [
  randomUUID().slice(0, 8),
]);
const [{ id: exercise }] = await sql(`insert into exercises (course_id, draft) values ($1, $2) returning id`, [
  course,
  JSON.stringify(document),
]);
const [{ id: version }] = await sql(
  `insert into versions (exercise_id, number, document, published_by) values ($1, 1, $2, $3) returning id`,
  [exercise, JSON.stringify(document), instructor],
);
const people = await sql(
  `insert into people (email, name, password_hash)
   select 'load-' || gen_random_uuid() || '@harbour.example', 'Load ' || n, 'nobody signs in with this'
     from generate_series(1, $1::int) n returning id`,
  [students],
);
await sql(`insert into memberships (course_id, person_id, role) select $1, unnest($2::uuid[]), 'student'`, [
  course,
  people.map(({ id }) => id),
]);
await sql(`insert into memberships (course_id, person_id, role) values ($1, $2, 'instructor')`, [course, instructor]);
const answers = await sql('select part_id, answer from submissions where version_id = $1', [template.id]);
/** @type {Record<string, string>[]} */
const browsers = [];
for (const { id } of people) browsers.push(await browserOf(id));
// Who hands in has opened the bench before.
for (const headers of browsers) await timed(`/api/exercises/${exercise}/bench`, { headers });
await sql('analyze');

/** @param {number} k */
const handIn = (k) => {
  const { part_id: partId, answer } = answers[k % answers.length];
  return JSON.stringify({ key: randomUUID(), versionId: version, partId, answer, trail: [] });
};

/** @param {string} name @param {number} wanted @param {() => Promise<number>} measure @param {number} [times] */
async function measured(name, wanted, measure, times = 15) {
  await measure();
  const all = [];
  for (let k = 0; k < times; k++) all.push(await measure());
  const middle = median(all);
  row(
    name,
    `${middle.toFixed(0)} ms`,
    `${Math.max(...all).toFixed(0)} ms`,
    `${middle <= wanted ? 'within' : 'BEYOND'} ${wanted} ms`,
  );
}

row('alone', 'median', 'longest', '');
const teacher = await browserOf(instructor);
const [filled] = await sql(
  `select c.id as course, e.id as exercise,
          (select person_id from memberships where course_id = c.id and role = 'student' limit 1) as student
     from courses c join exercises e on e.course_id = c.id
    where c.id in (select course_id from memberships where person_id = $1)
    order by c.name like 'Filled%' desc, e.created_at limit 1`,
  [instructor],
);
const student = await browserOf(filled.student);
const get = (/** @type {string} */ path, /** @type {Record<string, string>} */ headers) => async () =>
  (await timed(path, { headers })).ms;
await measured('a bench is opened', 50, get(`/api/exercises/${filled.exercise}/bench`, student));
await measured('the home of a student', 80, get(`/api/courses/${filled.course}/home`, student));
await measured('the shelf', 100, get(`/api/courses/${filled.course}/shelf`, teacher));
await measured('the sheet of a class', 300, get(`/api/exercises/${filled.exercise}/class`, teacher));
let one = 0;
/** Hands in and waits for the verdict. @param {number} who */
async function withVerdict(who) {
  const headers = browsers[who % browsers.length] ?? {};
  const path = `/api/exercises/${exercise}/submissions`;
  const handed = await timed(path, { method: 'POST', headers, body: handIn(one++) });
  const { id, checked } = JSON.parse(handed.body);
  const verdict = checked ? 0 : (await timed(`/api/exercises/${exercise}/attempts/${id}`, { headers })).ms;
  return { acknowledged: handed.ms, verdict: handed.ms + verdict };
}
await measured('a hand-in with its verdict', 60, async () => (await withVerdict(0)).verdict, 30);

console.log('');
/** Everyone hands in at the same moment. */
async function rush() {
  const from = performance.now();
  let acknowledged = 0;
  await Promise.all(
    browsers.map(async (headers) => {
      const handed = await timed(`/api/exercises/${exercise}/submissions`, {
        method: 'POST',
        headers,
        body: handIn(one++),
      });
      acknowledged = Math.max(acknowledged, performance.now() - from);
      const { id, checked } = JSON.parse(handed.body);
      if (!checked) await timed(`/api/exercises/${exercise}/attempts/${id}`, { headers });
    }),
  );
  return { perSecond: (1000 * students) / acknowledged, all: performance.now() - from };
}
// A server that has just started is still being compiled.
await rush();
// Few connections, so that hand-ins come one by one; each request is of the next student.
let next = 0;
const result = await autocannon({
  url,
  connections: 20,
  amount: rate * seconds,
  overallRate: rate,
  setupClient: (/** @type {any} */ own) => {
    const ask = () => own.setHeadersAndBody({ ...browsers[next++ % browsers.length] }, handIn(one++));
    ask();
    own.on('response', ask);
  },
  requests: [{ method: 'POST', path: `/api/exercises/${exercise}/submissions` }],
});
const { p99, p50, max } = result.latency;
row(`${rate} hand-ins a second for ${seconds} s: acknowledged after`, `${p50} ms`, `${max} ms`, '');
row('  99 of 100 after', `${p99} ms`, '', `${p99 <= 250 ? 'within' : 'BEYOND'} 250 ms`);
row('  answered well', `${result['2xx']} of ${rate * seconds}`, `${result.non2xx + result.errors} not`, '');
const waited = performance.now();
for (let waiting = 1; waiting > 0;) {
  ({
    checks: { waiting },
  } = await (await fetch(`${url}/api/health`)).json());
  if (waiting > 0) await new Promise((resolve) => setTimeout(resolve, 50));
}
row('  after the last one, until every verdict is there', `${(performance.now() - waited).toFixed(0)} ms`);

console.log('');
const rushes = await threeTimes(rush);
const perSecond = median(rushes.map((each) => each.perSecond));
const all = median(rushes.map((each) => each.all));
row(
  `${students} hand-ins at once: acknowledged`,
  `${perSecond.toFixed(0)}/s`,
  '',
  `${perSecond >= 200 ? 'within' : 'BEYOND'} 200/s`,
);
row(
  `${students} hand-ins at once: the last verdict after`,
  `${all.toFixed(0)} ms`,
  '',
  `${all <= 3000 ? 'within' : 'BEYOND'} 3000 ms`,
);
const [counted] = await sql(
  `select count(*)::int as submissions, count(distinct v.submission_id)::int as checked, count(v.id)::int as verdicts
     from submissions s left join verdicts v on v.submission_id = s.id where s.exercise_id = $1`,
  [exercise],
);
row(
  '  submissions, of these checked, verdicts',
  String(counted.submissions),
  String(counted.checked),
  String(counted.verdicts),
);
await client.end();
