import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import path from 'node:path';
import pg from 'pg';
import type { Bench, ExerciseDocument, Session } from '@nailset/core';

const admin = process.env['NAILSET_TEST_DATABASE'];
export const courseKey = 'the-course-key';

/** The built server on a database and port of its own. */
export class TestServer {
  private child: ChildProcess | undefined;
  private port = 0;
  private output = '';

  private constructor(
    readonly databaseUrl: string,
    private readonly environment: Record<string, string>,
  ) {}

  static async start(environment: Record<string, string> = {}): Promise<TestServer> {
    if (!admin) throw new Error('Run the tests by ./nailset test, which brings a database.');
    const name = `test_${randomUUID().replaceAll('-', '')}`;
    await query(admin, `create database ${name}`);
    const server = new TestServer(admin.replace(/\/[^/]*$/, `/${name}`), environment);
    await server.run();
    return server;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** Starts the process and waits until it listens. */
  async run(): Promise<void> {
    const main = path.resolve(__dirname, '../dist/main.js');
    this.output = '';
    const child = spawn(process.execPath, [main], {
      env: {
        ...process.env,
        DATABASE_URL: this.databaseUrl,
        NAILSET_PORT: String(this.port),
        NAILSET_COURSE_KEY: courseKey,
        ...this.environment,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    await new Promise<void>((resolve, reject) => {
      const hear = (data: Buffer) => {
        this.output += data.toString();
        const listening = /Server listening at http:\/\/127\.0\.0\.1:(\d+)/.exec(this.output);
        if (listening) {
          this.port = Number(listening[1]);
          resolve();
        }
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.once('exit', () => reject(new Error(`The server did not start:\n${this.output}`)));
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

  sql<T extends pg.QueryResultRow>(text: string, values: unknown[] = []): Promise<T[]> {
    return query<T>(this.databaseUrl, text, values);
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
        cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
        ...(this.token ? { 'x-csrf-token': this.token } : {}),
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

/** Hands in; the key is new unless given. */
export async function handIn(
  browser: Browser,
  exerciseId: string,
  partId: string,
  answer: unknown,
  extra: Record<string, unknown> = {},
) {
  const { body: bench } = await browser.get<Bench>(`/exercises/${exerciseId}/bench`);
  return browser.post<{ id: string; attempt: number; verdict?: { met: boolean; points: number; words: string } }>(
    `/exercises/${exerciseId}/submissions`,
    { key: randomUUID(), versionId: bench.versionId, partId, answer, trail: [], ...extra },
  );
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
