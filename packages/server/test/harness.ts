import { type ChildProcess, spawn } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Bench, ExerciseDocument, Session, Sheet } from '@nailset/core';
import pg from 'pg';

const admin = process.env['NAILSET_TEST_DATABASE'];
export const courseKey = 'the-course-key';

const role = 'nailset_server';
const rolePassword = 'only-for-tests';

/** The address of a database with another name, and for the server’s role where it is for the server. */
function addressOf(name: string, forServer: boolean): string {
  const url = new URL(admin!);
  url.pathname = `/${name}`;
  if (forServer) [url.username, url.password] = [role, rolePassword];
  return url.href;
}

/** Names what a database is made from: another build never uses it. */
function templateName(kind: string): string {
  const hash = createHash('sha256').update(kind);
  const folder = path.resolve(__dirname, '../migrations');
  for (const file of readdirSync(folder).filter((name) => name.endsWith('.sql')))
    hash.update(readFileSync(path.join(folder, file)));
  for (const file of ['store/setUp.js', 'demo/handedIn.json', 'demo/seed.js']) {
    hash.update(readFileSync(path.resolve(__dirname, '../dist', file)));
  }
  return `template_${hash.digest('hex').slice(0, 16)}`;
}

/** A database with tables, and the demo if wanted, made once and then copied; files that run at once wait for it. */
async function template(kind: 'bare' | 'demo'): Promise<string> {
  const name = templateName(kind);
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  try {
    await client.query('select pg_advisory_lock(1)');
    const known = await client.query('select from pg_database where datname = $1', [name]);
    if (known.rowCount) return name;
    const roles = await client.query('select from pg_roles where rolname = $1', [role]);
    if (!roles.rowCount) await client.query(`create role ${role} login password '${rolePassword}'`);
    // One that was begun and not finished is begun again.
    await client.query(`drop database if exists ${name}_making with (force)`);
    await client.query(`create database ${name}_making`);
    const maker = new TestServer(`${name}_making`, { NAILSET_DEMO: kind === 'demo' ? '1' : '0', NAILSET_CHECKS: '0' });
    await maker.run();
    await maker.end();
    await client.query(`alter database ${name}_making rename to ${name}`);
    return name;
  } finally {
    await client.end();
  }
}

/** Processes and connections that this test file opened; none outlives it, whatever happens. */
const children = new Set<ChildProcess>();
const connections = new Set<pg.Client>();
const killAll = () => children.forEach((child) => child.kill('SIGKILL'));
process.once('exit', killAll);
afterAll(async () => {
  killAll();
  await Promise.all([...connections].map((client) => client.end().catch(() => undefined)));
});

/** The built server, or a worker, on a database of its own. */
export class TestServer {
  private child: ChildProcess | undefined;
  private port = 0;
  output = '';

  constructor(
    readonly database: string,
    private readonly environment: Record<string, string> = {},
    private readonly program: 'main' | 'worker' = 'main',
  ) {}

  /** A server on a new database. */
  static async start(environment: Record<string, string> = {}): Promise<TestServer> {
    if (!admin) throw new Error('Run the tests by ./nailset test, which brings a database.');
    const name = `test_${randomUUID().replaceAll('-', '')}`;
    await copyOf(await template(environment['NAILSET_DEMO'] === '1' ? 'demo' : 'bare'), name);
    const server = new TestServer(name, environment);
    await server.run();
    return server;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  get pid(): number {
    return this.child!.pid!;
  }

  get environmentOfIts(): Record<string, string> {
    return {
      DATABASE_URL: addressOf(this.database, true),
      NAILSET_OWNER_URL: addressOf(this.database, false),
      NAILSET_PORT: String(this.port),
      NAILSET_COURSE_KEY: courseKey,
      NAILSET_WARM_UP: '0',
      NAILSET_CHECKS: '1',
      ...this.environment,
    };
  }

  /** Starts the process and waits until it is ready. */
  async run(): Promise<void> {
    const main = path.resolve(__dirname, `../dist/run/${this.program}.js`);
    this.output = '';
    const child = spawn(process.execPath, [main], {
      env: { ...process.env, ...this.environmentOfIts },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    children.add(child);
    await new Promise<void>((resolve, reject) => {
      const hear = (data: Buffer) => {
        this.output += data.toString();
        const listening = /Server listening at http:\/\/127\.0\.0\.1:(\d+)|"msg":"checking"/.exec(this.output);
        if (listening) {
          this.port = Number(listening[1] ?? 0);
          resolve();
        }
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.once('exit', () => {
        children.delete(child);
        reject(new Error(`The server did not start:\n${this.output}`));
      });
    });
  }

  /** Ends the process and waits for it. */
  async end(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (child?.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await ended;
  }

  /** A connection to be ended by who asked. */
  async connection(role: 'owner' | 'server' = 'owner'): Promise<pg.Client> {
    const client = new pg.Client({ connectionString: addressOf(this.database, role === 'server') });
    await client.connect();
    connections.add(client);
    return client;
  }

  sql<T extends pg.QueryResultRow>(text: string, values: unknown[] = []): Promise<T[]> {
    return query<T>(addressOf(this.database, false), text, values);
  }
}

/** A copy of a template; PostgreSQL copies only what nobody is connected to, so a moment may have to pass. */
async function copyOf(from: string, name: string): Promise<void> {
  for (let tries = 0; ; tries++) {
    try {
      await query(admin!, `create database ${name} template ${from}`);
      return;
    } catch (error) {
      if (tries >= 100 || (error as { code?: string }).code !== '55006') throw error;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
}

async function query<T extends pg.QueryResultRow>(url: string, text: string, values: unknown[] = []): Promise<T[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<T>(text, values)).rows;
  } finally {
    await client.end();
  }
}

export interface Answered<T> {
  readonly status: number;
  readonly body: T;
  readonly headers: Headers;
}

/** A browser as far as the server can tell: it keeps cookies and sends the token. */
export class Browser {
  private readonly cookies = new Map<string, string>();
  private token = '';
  id = '';

  constructor(readonly server: TestServer) {}

  async send<T = { error: { code: string; message: string; at?: number } }>(
    method: string,
    address: string,
    body?: unknown,
    extra: { headers?: Record<string, string>; raw?: string } = {},
  ): Promise<Answered<T>> {
    const payload = extra.raw ?? (body === undefined ? undefined : JSON.stringify(body));
    const response = await fetch(this.server.url + address, {
      method,
      headers: {
        ...this.headers(),
        ...(payload === undefined ? {} : { 'content-type': 'application/json' }),
        ...extra.headers,
      },
      ...(payload === undefined ? {} : { body: payload }),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(cookie)!;
      if (/max-age=0|expires=thu, 01 jan 1970/i.test(cookie)) this.cookies.delete(name!);
      else this.cookies.set(name!, value!);
    }
    const text = await response.text();
    let parsed: unknown = text;
    try {
      parsed = JSON.parse(text);
    } catch {
      // Not every answer is JSON.
    }
    return { status: response.status, body: parsed as T, headers: response.headers };
  }

  /** What says who this is. */
  headers(): Record<string, string> {
    return {
      cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      ...(this.token ? { 'x-csrf-token': this.token } : {}),
    };
  }

  get = <T>(address: string) => this.send<T>('GET', `/api${address}`);
  post = <T>(address: string, body: unknown = {}) => this.send<T>('POST', `/api${address}`, body);
  put = <T>(address: string, body: unknown) => this.send<T>('PUT', `/api${address}`, body);

  async open(): Promise<this> {
    const { body } = await this.get<Session>('/session');
    this.token = body.csrfToken;
    return this;
  }

  /** A new account, signed in. */
  async register(name: string, joinCode?: string): Promise<this> {
    await this.open();
    const email = `${name.toLowerCase().replaceAll(' ', '.')}@harbour.example`;
    const { status, body } = await this.post<{ id: string }>('/people', {
      name,
      email,
      password: 'a long password',
      ...(joinCode ? { joinCode } : {}),
    });
    if (status !== 200) throw new Error(`No account for ${name}: ${JSON.stringify(body)}`);
    this.id = body.id;
    return this;
  }
}

/** A course with its staff, two students and one published exercise. */
export async function smallCourse(server: TestServer, document: ExerciseDocument = exercise) {
  const instructor = await new Browser(server).register('Marit Solano');
  const { body: course } = await instructor.post<{ id: string }>('/courses', { name: 'Harbour machinery', courseKey });
  const { body: people } = await instructor.get<{ joinCode: string }>(`/courses/${course.id}/people`);
  const { joinCode } = people;
  const assistant = await new Browser(server).register('Bram Ozturk', joinCode);
  await instructor.put(`/courses/${course.id}/people/${assistant.id}/role`, { role: 'assistant' });
  const student = await new Browser(server).register('Ilse Okafor', joinCode);
  const other = await new Browser(server).register('Tomasz Berg', joinCode);
  const outsider = await new Browser(server).register('Wanda Elsewhere');
  const nobody = await new Browser(server).open();
  const { body: added } = await instructor.post<{ id: string }>(`/courses/${course.id}/exercises`, document);
  const exerciseId = added.id;
  await instructor.post(`/exercises/${exerciseId}/versions`, { revision: 1 });
  return { courseId: course.id, joinCode, exerciseId, instructor, assistant, student, other, outsider, nobody };
}

export type SmallCourse = Awaited<ReturnType<typeof smallCourse>>;

interface HandedInAnswer {
  id: string;
  attempt: number;
  checked: boolean;
  verdict?: { met: boolean; points: number; words: string };
}

/** Hands in and does not wait for the verdict; the key is new unless given. */
export async function post(
  browser: Browser,
  exerciseId: string,
  partId: string,
  answer: unknown,
  extra: Record<string, unknown> = {},
) {
  const { body: bench } = await browser.get<Bench>(`/exercises/${exerciseId}/bench`);
  return browser.post<HandedInAnswer>(`/exercises/${exerciseId}/submissions`, {
    ...{ key: randomUUID(), versionId: bench.versionId, partId, answer, trail: [] },
    ...extra,
  });
}

/** Hands in and waits for the verdict, as a bench does. */
export async function handIn(...handing: Parameters<typeof post>) {
  const [browser, exerciseId] = handing;
  const handed = await post(...handing);
  if (handed.status !== 200 || handed.body.checked) return handed;
  return browser.get<HandedInAnswer>(`/exercises/${exerciseId}/attempts/${handed.body.id}`);
}

/** Saves an answer in the making as a page does; `saved` says from what and as which save of which page. */
export const save = (
  browser: Browser,
  exerciseId: string,
  partId: string,
  answer: unknown,
  saved: { trail?: unknown; base?: number; page?: string; count?: number } = {},
) =>
  browser.put<{ revision: number; error: { code: string } }>(`/exercises/${exerciseId}/answers/${partId}`, {
    answer,
    ...{ trail: [], base: 0, page: 'the-only-page', count: 1 },
    ...saved,
  });

export const exercise: ExerciseDocument = {
  format: 2,
  title: 'Lamp',
  statement: 'K = {{K}}',
  parameters: [
    { symbol: 'K', meaning: 'gain', unit: '', draw: { kind: 'range', from: 123400001, to: 123490001, step: 1 } },
  ],
  systems: [],
  guards: [],
  series: [],
  pictures: [],
  shows: { measured: true, slip: true },
  late: null,
  parts: [
    {
      id: 'model',
      kind: 'transferFunction',
      title: 'Model',
      prompt: '',
      points: 2,
      expected: '7770777*K/(s^2 + 31*s + 7770777)',
      tolerancePercent: 1,
    },
    {
      id: 'tune',
      kind: 'gains',
      title: 'Tune',
      prompt: '',
      plant: '1/(s^2 + 0.8*s)',
      output: 'Position',
      controller: {
        terms: 'PD',
        form: 'parallel',
        gains: [
          { name: 'Kp', start: 1, fine: 1, coarse: 5 },
          { name: 'Kd', start: 0, fine: 1, coarse: 5 },
        ],
      },
      views: [],
      horizon: 5,
      nails: [{ id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 3 }],
    },
  ],
  attempts: 2,
  verdict: 'atOnce',
  solution: 'afterDue',
};

export const right = { kind: 'transferFunction', text: 'K*7770777/(s^2+31s+7770777)' };
export const wrong = { kind: 'transferFunction', text: '1/(s+1)' };
export const tuned = { kind: 'gains', gains: { Kp: '4', Kd: '3' } };

/** A sheet of the open bench as a browser sends it. */
export const benchSheet: Sheet = {
  ...{ format: 1, title: '', drives: [{ kind: 'step', from: 0, to: 1, at: 0 }], initial: [], unit: 's', time: null },
  ...{ nails: [], data: [], panes: ['response', 'plane'] },
  lines: [{ name: 'G', text: '1/s', drawn: true, panes: 'all' }],
};
