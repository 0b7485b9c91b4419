import { execFileSync, spawn } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import { postgresPrograms } from './install.mjs';
import { run, works } from './run.mjs';
import { Trouble } from './say.mjs';

/** Who owns the tables, and who the server is: it can neither change tables nor what is append-only. */
const owner = 'nailset';
export const serverRole = 'nailset_server';

/**
 * A PostgreSQL of our own: private, on loopback, under a folder of ours. As root it runs as the `postgres` user,
 * otherwise as the caller.
 */
export class PrivatePostgres {
  /** @type {import('node:child_process').ChildProcess | undefined} */
  #child;
  #stopping = false;
  #port = 0;
  #programs = postgresPrograms() ?? '';

  /**
   * @param {string} folder where the cluster lives; made when missing
   * @param {{ settings?: string[], onRestart?: (line: string) => void }} [options] extra server settings `name=value`
   */
  constructor(folder, { settings = [], onRestart = () => undefined } = {}) {
    this.settings = settings;
    this.onRestart = onRestart;
    mkdirSync(folder, { recursive: true });
    this.user = process.getuid?.() === 0 ? postgresUser() : undefined;
    this.folder = this.user && !reachable(folder, this.user) ? elsewhere(folder) : folder;
    this.data = path.join(this.folder, 'postgres');
    this.log = path.join(this.folder, 'postgres.log');
  }

  /** Makes the cluster when there is none. It gets its name when it is whole, so that a half-made one is made anew. */
  async create() {
    if (existsSync(this.data)) return;
    const making = `${this.data}-making`;
    rmSync(making, { recursive: true, force: true });
    mkdirSync(making, { recursive: true, mode: 0o700 });
    const file = this.#passwordFile(owner);
    writeFileSync(file, randomBytes(24).toString('base64url'), { mode: 0o600 });
    if (this.user) for (const each of [making, file]) chownSync(each, this.user.uid, this.user.gid);
    const args = ['-D', making, '-U', owner, '-E', 'UTF8', '--locale=C.UTF-8', '-A', 'scram-sha-256'];
    await run(path.join(this.#programs, 'initdb'), [...args, `--pwfile=${file}`], this.#asUser());
    renameSync(making, this.data);
  }

  /** Whether the cluster is running, started by whomever; its address is known from then on. */
  isRunning() {
    if (!works(path.join(this.#programs, 'pg_ctl'), ['-D', this.data, 'status'], this.#asUser())) return false;
    this.#port = Number(readFileSync(path.join(this.data, 'postmaster.pid'), 'utf8').split('\n')[3]);
    return true;
  }

  /** Starts the cluster on a free port; one that an earlier run left running is stopped first. */
  async start() {
    if (works(path.join(this.#programs, 'pg_ctl'), ['-D', this.data, 'status'], this.#asUser())) {
      await run(path.join(this.#programs, 'pg_ctl'), ['-D', this.data, '-m', 'fast', '-w', 'stop'], this.#asUser());
    }
    this.#port = await freePort(54180);
    this.#launch();
    await this.#ready();
  }

  /**
   * The address of a database for the owner of its tables, or for the server, which may do less.
   * @param {string} database
   * @param {string} [role]
   */
  url(database, role = owner) {
    return `postgres://${role}:${readFileSync(this.#passwordFile(role), 'utf8')}@127.0.0.1:${this.#port}/${database}`;
  }

  /**
   * Makes the database and the server's role, where they are missing.
   * @param {string} name
   */
  async createDatabase(name) {
    const ask = (/** @type {string} */ statement) =>
      execFileSync(path.join(this.#programs, 'psql'), ['-d', this.url('postgres'), '-Atq', '-v', 'ON_ERROR_STOP=1'], {
        input: statement,
      }).toString();
    const file = this.#passwordFile(serverRole);
    if (!existsSync(file)) writeFileSync(file, randomBytes(24).toString('base64url'), { mode: 0o600 });
    const known = ask(`select 1 from pg_roles where rolname = '${serverRole}'`).trim() === '1';
    const verb = known ? 'alter' : 'create';
    ask(`${verb} role ${serverRole} login password '${readFileSync(file, 'utf8')}'`);
    if (ask(`select 1 from pg_database where datname = '${name}'`).trim() !== '1') ask(`create database ${name}`);
  }

  /** @param {string} role */
  #passwordFile(role) {
    return path.join(this.folder, role === owner ? 'database-password' : 'server-password');
  }

  async stop() {
    this.#stopping = true;
    const child = this.#child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    await ended;
  }

  #launch() {
    if (existsSync(this.log) && statSync(this.log).size > 1e7) renameSync(this.log, `${this.log}.1`);
    const output = openSync(this.log, 'a', 0o600);
    const settings = [
      'listen_addresses=127.0.0.1',
      `port=${this.#port}`,
      'unix_socket_directories=',
      'max_connections=200',
      'log_min_messages=warning',
      // Without the values that a query failed for.
      'log_error_verbosity=terse',
      ...this.settings,
    ].flatMap((setting) => ['-c', setting]);
    // A session of its own, so that Ctrl-C reaches the launcher alone and the server is stopped before its database.
    this.#child = spawn(path.join(this.#programs, 'postgres'), ['-D', this.data, ...settings], {
      ...this.#asUser(),
      detached: true,
      stdio: ['ignore', output, output],
    });
    this.#child.once('exit', () => {
      if (this.#stopping) return;
      this.onRestart(
        'The database stopped unexpectedly; it is being started again. Nothing that was handed in is lost.',
      );
      setTimeout(() => this.#stopping || this.#launch(), 500);
    });
  }

  async #ready() {
    for (let tries = 0; tries < 150; tries++) {
      const to = ['-h', '127.0.0.1', '-p', String(this.#port), '-q'];
      if (works(path.join(this.#programs, 'pg_isready'), to)) return;
      if (this.#child?.exitCode) break;
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    this.#stopping = true;
    const last = readFileSync(this.log, 'utf8').trim().split('\n').slice(-5).join('\n');
    throw new Trouble(`The database does not start. The end of ${this.log}:\n${last}`);
  }

  #asUser() {
    return this.user ? { uid: this.user.uid, gid: this.user.gid, cwd: '/' } : {};
  }
}

function postgresUser() {
  const id = (/** @type {string} */ flag) => Number(execFileSync('id', [flag, 'postgres']).toString());
  return { uid: id('-u'), gid: id('-g') };
}

/**
 * @param {string} folder
 * @param {{ uid: number, gid: number }} user
 */
function reachable(folder, user) {
  return works('test', ['-x', folder], { ...user, cwd: '/' });
}

/**
 * A folder that the `postgres` user can reach, for a checkout inside a private home directory.
 * @param {string} folder
 */
function elsewhere(folder) {
  const name = createHash('sha256').update(folder).digest('hex').slice(0, 12);
  const other = path.join('/var/lib/nailset', name);
  mkdirSync(other, { recursive: true });
  for (const each of ['/var/lib/nailset', other]) chmodSync(each, 0o755);
  return other;
}

/**
 * The first port from `from` on that nothing listens on.
 * @param {number} from
 */
export async function freePort(from) {
  for (let port = from; port < from + 400; port++) if (await isFree(port)) return port;
  throw new Trouble(`No port from ${from} to ${from + 399} is free.`);
}

/**
 * @param {number} port
 * @param {string} [host]
 * @returns {Promise<boolean>}
 */
export function isFree(port, host = '127.0.0.1') {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, host, () => probe.close(() => resolve(true)));
  });
}
