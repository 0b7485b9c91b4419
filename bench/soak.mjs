// npm run soak: hands in and saves without pause while a server, the worker and the database are killed in turn, and then
// counts. Nothing that was acknowledged may be missing, and nothing may be there twice.
//   npm run soak -- --minutes 10 --every 20
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import pg from 'pg';
import { home, install } from '../launcher/install.mjs';
import { freePort, PrivatePostgres, serverRole } from '../launcher/postgres.mjs';

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '10' },
    every: { type: 'string', default: '20' },
    students: { type: 'string', default: '20' },
  },
});
const every = 1000 * Number(values.every);

const folder = mkdtempSync('/tmp/nailset-soak-');
chmodSync(folder, 0o755);
await install();
const postgres = new PrivatePostgres(folder);
await postgres.create();
await postgres.start();
await postgres.createDatabase('nailset');

/** A process that is started again whenever it ends, as a service manager does. */
class Kept {
  /** @type {import('node:child_process').ChildProcess | undefined} */
  child;
  stopping = false;

  /** @param {'main' | 'worker'} program @param {number} port */
  constructor(program, port) {
    this.program = program;
    this.url = `http://127.0.0.1:${port}`;
    this.env = {
      ...process.env,
      DATABASE_URL: postgres.url('nailset', serverRole),
      NAILSET_OWNER_URL: postgres.url('nailset'),
      NAILSET_PORT: String(port),
      NAILSET_COURSE_KEY: 'soak',
      NAILSET_CHECKS: '1',
      NAILSET_LOG_LEVEL: 'error',
    };
    this.launch();
  }

  launch() {
    this.child = spawn(process.execPath, [path.join(home, 'packages/server/dist/run', `${this.program}.js`)], {
      env: this.env,
      stdio: 'ignore',
    });
    this.child.once('exit', () => this.stopping || setTimeout(() => this.launch(), 500));
  }

  kill() {
    this.child?.kill('SIGKILL');
  }

  async stop() {
    this.stopping = true;
    const ended = new Promise((resolve) => this.child?.once('exit', resolve));
    if (this.child?.kill('SIGTERM')) await ended;
  }
}

const servers = [new Kept('main', await freePort(4600))];
servers.push(new Kept('main', await freePort(4610)));
const worker = new Kept('worker', 0);

let turn = 0;
let again = 0;
/** Sends to the servers in turn until one answers, as a page behind a proxy does. */
async function send(
  /** @type {string} */ method,
  /** @type {string} */ address,
  /** @type {any} */ who,
  /** @type {unknown} */ body = undefined,
) {
  for (;;) {
    const { url } = /** @type {Kept} */ (servers[turn++ % servers.length]);
    try {
      const answer = await fetch(`${url}/api${address}`, {
        method,
        headers: { 'content-type': 'application/json', ...who.headers },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        signal: AbortSignal.timeout(20_000),
      });
      for (const cookie of answer.headers.getSetCookie()) {
        const [name = '', value = ''] = (cookie.split(';')[0] ?? '').split('=');
        who.cookies.set(name, value);
      }
      who.headers.cookie = [...who.cookies].map((pair) => pair.join('=')).join('; ');
      const said = /** @type {any} */ (await answer.json());
      if (answer.status < 500) return { status: answer.status, body: said };
    } catch {
      // Killed just now, or not up again.
    }
    again += 1;
    await pause(200);
  }
}

async function person(/** @type {string} */ name, /** @type {string | undefined} */ joinCode = undefined) {
  const who = { id: '', name, cookies: new Map(), headers: /** @type {Record<string, string>} */ ({}) };
  who.headers['x-csrf-token'] = (await send('GET', '/session', who)).body.csrfToken;
  const account = { name, email: `${randomUUID()}@harbour.example`, password: 'a long password' };
  who.id = (await send('POST', '/people', who, joinCode ? { ...account, joinCode } : account)).body.id;
  return who;
}

const teacher = await person('Soak Teacher');
const { id: course } = (await send('POST', '/courses', teacher, { name: 'Soak', courseKey: 'soak' })).body;
const { joinCode } = (await send('GET', `/courses/${course}/people`, teacher)).body;
const document = JSON.parse(readFileSync(path.join(home, 'docs/examples/crane-trolley.json'), 'utf8'));
document.attempts = 20;
const { id: exercise } = (await send('POST', `/courses/${course}/exercises`, teacher, document)).body;
const published = await send('POST', `/exercises/${exercise}/versions`, teacher, { revision: 1 });
if (published.status !== 200) throw new Error(JSON.stringify(published.body));
const students = [];
for (let k = 0; k < Number(values.students); k++) students.push(await person(`Soak ${k}`, joinCode));
const bench = (await send('GET', `/exercises/${exercise}/bench`, /** @type {any} */ (students[0]))).body;
const part = document.parts.find((/** @type {any} */ each) => each.kind === 'gains');
const most = document.attempts;

/** @type {Map<string, string>} */
const acknowledged = new Map();
/** @type {Map<string, string>} */
const saved = new Map();

/** One student: saves, hands in, waits a moment; each hand-in repeats its key until it is acknowledged. */
async function study(/** @type {any} */ who) {
  for (let attempt = 0, count = 0, base = 0; Date.now() < until; attempt++) {
    const gains = Object.fromEntries(
      part.controller.gains.map((/** @type {any} */ gain) => [gain.name, (1 + attempt / 10).toFixed(1)]),
    );
    const answer = { kind: 'gains', gains };
    const save = { answer, trail: [], base, page: `page-of-${who.id.slice(0, 8)}`, count: ++count };
    const kept = await send('PUT', `/exercises/${exercise}/answers/${part.id}`, who, save);
    // A save whose acknowledgement was lost is repeated as the page's next one.
    if (kept.status === 200) base = kept.body.revision;
    else {
      const again = await send('PUT', `/exercises/${exercise}/answers/${part.id}`, who, { ...save, count: ++count });
      if (again.status !== 200) throw new Error(`A save was refused: ${JSON.stringify(again.body)}`);
      base = again.body.revision;
    }
    saved.set(who.id, JSON.stringify(gains));
    if (attempt < most) {
      const key = randomUUID();
      const body = { key, versionId: bench.versionId, partId: part.id, answer, trail: [] };
      const handed = await send('POST', `/exercises/${exercise}/submissions`, who, body);
      if (handed.status !== 200) throw new Error(`A hand-in was refused: ${JSON.stringify(handed.body)}`);
      acknowledged.set(key, handed.body.id);
    }
    await pause((60_000 * Number(values.minutes)) / (most + 5) / 2 + 300 * Math.random());
  }
}

const victims = [() => servers[0]?.kill(), () => worker.kill(), () => killDatabase(), () => servers[1]?.kill()];
function killDatabase() {
  const [pid] = readFileSync(path.join(postgres.data, 'postmaster.pid'), 'utf8').split('\n');
  process.kill(Number(pid), 'SIGKILL');
}
let kills = 0;
// Counted from when all is ready, however busy the machine is.
const until = Date.now() + 60_000 * Number(values.minutes);
const killing = (async () => {
  while (Date.now() + every < until) {
    await pause(every);
    victims[kills++ % victims.length]?.();
  }
})();
await Promise.all([...students.map(study), killing]);

// Everything that waits is checked in the end.
for (let waiting = 1, tries = 0; waiting > 0 && tries < 600; tries++) {
  waiting = (await send('GET', '/health', { cookies: new Map(), headers: {} })).body.checks.waiting;
  if (waiting > 0) await pause(100);
}
const client = new pg.Client({ connectionString: postgres.url('nailset') });
await client.connect();
const { rows } = await client.query(
  `select s.id, s.key, s.person_id, s.attempt, count(v.id)::int as verdicts from submissions s
     left join verdicts v on v.submission_id = s.id group by s.id`,
);
const { rows: drafts } = await client.query('select person_id, answer from saved_answers');
await client.end();
const there = new Map(rows.map(({ key, id }) => [key, id]));
const missing = [...acknowledged].filter(([key, id]) => there.get(key) !== id).length;
const unknown = rows.filter(({ key }) => !acknowledged.has(key)).length;
const verdicts = rows.filter((row) => row.verdicts !== 1).length;
const drafted = [...saved].filter(([id, gains]) => {
  const draft = drafts.find((each) => each.person_id === id)?.answer.gains ?? {};
  return Object.entries(JSON.parse(gains)).some(([name, value]) => draft[name] !== value);
}).length;
console.log(
  `${kills} kills in ${values.minutes} min; ${acknowledged.size} hand-ins acknowledged, ${again} requests sent again.\n` +
    `Missing ${missing}, not acknowledged but there ${unknown}, without exactly one verdict ${verdicts}, drafts that are not the last ${drafted}.`,
);
await Promise.all([...servers, worker].map((each) => each.stop()));
await postgres.stop();
rmSync(folder, { recursive: true, force: true });
if (postgres.folder !== folder) rmSync(postgres.folder, { recursive: true, force: true });
process.exit(missing + unknown + verdicts + drafted === 0 && acknowledged.size > 0 ? 0 : 1);
