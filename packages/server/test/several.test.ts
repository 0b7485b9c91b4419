import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { Bench } from '@nailset/core';
import { Browser, right, save, type SmallCourse, smallCourse, TestServer, tuned, wrong } from './harness';

/** Two servers and a worker on one database, nginx in front, which sends each request to the next server. */

const address = { NAILSET_TRUSTED_PROXIES: 'loopback', NAILSET_CHECKS: '1' };
let first: TestServer;
let second: TestServer;
let worker: TestServer;
let front: { url: string };
let nginx: ChildProcess;
let course: SmallCourse;
const folder = mkdtempSync('/tmp/nailset-nginx-');

beforeAll(async () => {
  first = await TestServer.start(address);
  second = new TestServer(first.database, address);
  worker = new TestServer(first.database, {}, 'worker');
  await Promise.all([second.run(), worker.run()]);
  const port = 20_000 + Math.floor(Math.random() * 20_000);
  front = { url: `http://127.0.0.1:${port}` };
  writeFileSync(path.join(folder, 'nginx.conf'), configuration(port));
  nginx = spawn('/usr/sbin/nginx', ['-c', path.join(folder, 'nginx.conf'), '-p', folder], { stdio: 'ignore' });
  for (let tries = 0; tries < 100; tries++) {
    if (
      await fetch(`${front.url}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      )
    )
      break;
    await pause(100);
  }
  course = await smallCourse(front as TestServer);
});
afterAll(async () => {
  const ended = new Promise((resolve) => nginx.once('exit', resolve));
  nginx.kill('SIGTERM');
  await ended;
  await Promise.all([first, second, worker].map((each) => each.end()));
  rmSync(folder, { recursive: true });
});

const configuration = (port: number) => `
  daemon off; master_process off; pid ${folder}/pid; error_log ${folder}/error.log; worker_rlimit_nofile 4096;
  events { worker_connections 1024; }
  http {
    access_log off; client_body_temp_path ${folder}/body; proxy_temp_path ${folder}/proxy;
    fastcgi_temp_path ${folder}/f; uwsgi_temp_path ${folder}/u; scgi_temp_path ${folder}/s;
    upstream servers {
      server ${new URL(first.url).host} max_fails=1 fail_timeout=1s;
      server ${new URL(second.url).host} max_fails=1 fail_timeout=1s;
    }
    server {
      listen 127.0.0.1:${port};
      location / {
        proxy_pass http://servers;
        proxy_set_header X-Forwarded-For $remote_addr;
        proxy_set_header X-Forwarded-Proto $scheme;
      }
    }
  }`;

const through = () => new Browser(front as TestServer);

test('whoever signs in at one is signed in at both, and signing out ends it at both', async () => {
  const guest = await through().register('Both Sides', course.joinCode);
  const asked = () => Promise.all(Array.from({ length: 6 }, async () => (await guest.get('/me/sessions')).status));
  expect(await asked()).toEqual(Array(6).fill(200));
  await guest.send('DELETE', '/api/session');
  expect(await asked()).toEqual(Array(6).fill(401));
});

test('saves of one page stay in order, whichever server they reach', async () => {
  const { exerciseId, student } = course;
  for (let count = 1; count <= 10; count++) {
    const answer = { kind: 'transferFunction', text: `${count}/(s+1)` };
    expect((await save(student, exerciseId, 'model', answer, { base: count - 1, count })).status).toBe(200);
  }
  const late = await save(student, exerciseId, 'model', wrong, { base: 3, page: 'another-page', count: 1 });
  expect(late.body.error.code).toBe('answerChanged');
  const { body } = await student.get<Bench>(`/exercises/${exerciseId}/bench`);
  expect(body.saved.find(({ partId }) => partId === 'model')!.answer).toMatchObject({ text: '10/(s+1)' });
});

test('wrong passwords count together', async () => {
  await through().register('Guessed At');
  const guesser = await through().open();
  const statuses: number[] = [];
  for (let k = 0; k < 8; k++) {
    statuses.push((await guesser.post('/session', { email: 'guessed.at@harbour.example', password: 'wrong' })).status);
  }
  expect(statuses).toEqual([401, 401, 401, 401, 401, 401, 429, 429]);
});

test('a server and the worker killed under load: every answer is there once, with one verdict', async () => {
  const { exerciseId, joinCode } = course;
  const crowd = await Promise.all(Array.from({ length: 30 }, (_, k) => through().register(`Under Load${k}`, joinCode)));
  const { body: bench } = await crowd[0]!.get<Bench>(`/exercises/${exerciseId}/bench`);
  const intents = crowd.flatMap((browser) =>
    [
      ['model', right],
      ['tune', tuned],
    ].map(([partId, answer]) => ({
      browser,
      body: { key: randomUUID(), versionId: bench.versionId, partId, answer, trail: [] },
    })),
  );
  /** Sends as a page does: the same key again until it is acknowledged. */
  const acknowledged = async ({ browser, body }: (typeof intents)[number]): Promise<string> => {
    for (;;) {
      const answer = await browser.post<{ id: string }>(`/exercises/${exerciseId}/submissions`, body).catch(() => null);
      if (answer?.status === 200) return answer.body.id;
      if (answer && answer.status < 500) throw new Error(JSON.stringify(answer.body));
      await pause(100);
    }
  };
  const sending = Promise.all(
    intents.map(async (intent, k) => {
      await pause(25 * k);
      return acknowledged(intent);
    }),
  );
  await pause(300);
  await Promise.all([second.end('SIGKILL'), worker.end('SIGKILL')]);
  await pause(500);
  await Promise.all([second.run(), worker.run()]);
  const ids = await sending;
  expect(new Set(ids).size).toBe(intents.length);
  for (;;) {
    const { body } = await course.nobody.get<{ checks: { waiting: number } }>('/health');
    if (body.checks.waiting === 0) break;
    await pause(100);
  }
  const rows = await first.sql<{ verdicts: number; met: boolean }>(
    `select count(v.id)::int as verdicts, bool_and((v.result ->> 'met')::boolean) as met
       from submissions s left join verdicts v on v.submission_id = s.id
      where s.person_id = any($1::uuid[]) group by s.id`,
    [crowd.map(({ id }) => id)],
  );
  expect(rows).toHaveLength(intents.length);
  expect(rows.every(({ verdicts }) => verdicts === 1)).toBe(true);
});
