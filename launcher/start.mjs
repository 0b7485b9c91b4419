import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { home, install, installPostgres, nodeOptions } from './install.mjs';
import { isFree, PrivatePostgres, serverRole } from './postgres.mjs';
import { step, Trouble } from './say.mjs';

const help = `./nailset start: brings Nailset up and stays in the foreground; Ctrl-C stops it.

  --port N       port of the web server (4180)
  --host NAME    address to listen on (127.0.0.1, this machine only)
  --data FOLDER  where database, logs and keys live (.nailset)
  --no-demo      without the demo course
  --help         this text

  DATABASE_URL   in the environment: use this PostgreSQL database instead of a private one
`;

/**
 * @param {string[]} args
 * @returns {Promise<number>}
 */
export async function start(args) {
  const options = readOptions(args);
  if (options.help) {
    console.log(help);
    return 0;
  }
  const { port, data } = options;
  mkdirSync(data, { recursive: true });
  if (unsafePorts.has(port)) {
    throw new Trouble(`Browsers refuse to open port ${port}. Take another one: ./nailset start --port 4180`);
  }
  const note = path.join(data, 'running.json');
  const running = await claimed(note);
  if (running) {
    console.log(`Nailset is running already: ${running}`);
    return 0;
  }
  try {
    return await run(options, note);
  } finally {
    rmSync(note, { force: true });
  }
}

/**
 * @param {Options} options
 * @param {string} note
 * @returns {Promise<number>}
 */
async function run({ port, host, data, demo }, note) {
  if (!(await isFree(port, host))) {
    throw new Trouble(`Port ${port} is used by another program. Take another one: ./nailset start --port ${port + 1}`);
  }

  console.log('Nailset');
  const given = process.env['DATABASE_URL'];
  await install(...(given ? [] : [installPostgres]));
  const postgres = given ? undefined : new PrivatePostgres(data, { onRestart: (line) => console.log(`\n${line}`) });
  const stopping = new AbortController();
  const interrupted = new Promise((resolve) => {
    for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP'])) {
      process.on(signal, () => {
        stopping.abort();
        resolve('interrupted');
      });
    }
  });
  if (postgres) {
    await step('Starting the database', async () => {
      await postgres.create();
      await postgres.start();
      await postgres.createDatabase('nailset');
    });
    if (postgres.folder !== data)
      console.log(`    The database lives in ${postgres.folder}: its user cannot reach ${data}.`);
  }
  const url = `http://${host === '0.0.0.0' ? '127.0.0.1' : host}:${port}`;
  const logs = path.join(data, 'logs');
  // What the server itself cannot log: why it did not start, or how it fell.
  const log = path.join(data, 'server-output.log');
  const launch = () =>
    spawn(process.execPath, [...nodeOptions, path.join(home, serverFolder, 'run/main.js')], {
      cwd: home,
      detached: true,
      stdio: ['ignore', openSync(log, 'w', 0o600), openSync(log, 'a')],
      env: {
        ...process.env,
        DATABASE_URL: given ?? postgres?.url('nailset', serverRole),
        NAILSET_OWNER_URL: process.env['NAILSET_OWNER_URL'] ?? given ?? postgres?.url('nailset'),
        NAILSET_LOGS: process.env['NAILSET_LOGS'] ?? logs,
        NAILSET_PORT: String(port),
        NAILSET_HOST: host,
        NAILSET_DEMO: demo ? '1' : '0',
        NAILSET_COURSE_KEY: courseKey(data),
      },
    });
  let server = launch();
  let ended = endOf(server);
  const noted = () => writeFileSync(note, JSON.stringify({ pid: process.pid, url, server: server.pid }));
  try {
    noted();
    await step(demo ? 'Preparing tables and demo, starting the server' : 'Preparing tables, starting the server', () =>
      healthy(url, server, stopping.signal),
    );
    if (server.exitCode !== null || server.signalCode !== null) {
      throw new Trouble(`The server stopped unexpectedly. The end of ${log}:\n${tail(log)}`);
    }
    if (!stopping.signal.aborted) greet(url, demo, courseKey(data));
    // A server that dies is started again, after a pause that grows while it keeps dying.
    for (let pause = 1; ; pause = Math.min(60, 2 * pause)) {
      const since = Date.now();
      if ((await Promise.race([ended, interrupted])) === 'interrupted') break;
      if (Date.now() - since > 60_000) pause = 1;
      console.log(`The server stopped unexpectedly; it is started again in ${pause} s. Its logs: ${log}, ${logs}`);
      const waited = new Promise((resolve) => setTimeout(() => resolve('waited'), pause * 1000));
      if ((await Promise.race([waited, interrupted])) === 'interrupted') break;
      server = launch();
      ended = endOf(server);
      noted();
    }
    console.log('\nStopping …');
    return 0;
  } finally {
    if (server.exitCode === null && server.signalCode === null) {
      server.kill('SIGTERM');
      const patience = setTimeout(() => server.kill('SIGKILL'), 11_000);
      await ended;
      clearTimeout(patience);
    }
    await postgres?.stop();
    console.log('Stopped: server and database.');
  }
}

/** Where the server's program lies; in which file differs between releases. */
const serverFolder = 'packages/server/dist/';

/** @param {import('node:child_process').ChildProcess} child */
const endOf = (child) => new Promise((resolve) => child.once('exit', () => resolve('ended')));

/** Ports above 1023 that browsers do not open. Source: the list of bad ports in the Fetch standard. */
const unsafePorts = new Set([
  ...[1719, 1720, 1723, 2049, 3659, 4045, 4190, 5060, 5061, 6000, 6566, 6665, 6666, 6667, 6668, 6669, 6679, 6697],
  10080,
]);

/** @typedef {{ port: number, host: string, data: string, demo: boolean, help: boolean }} Options */

/**
 * @param {string[]} args
 * @returns {Options}
 */
function readOptions(args) {
  try {
    const { values } = parseArgs({
      args,
      options: {
        port: { type: 'string', default: '4180' },
        host: { type: 'string', default: '127.0.0.1' },
        data: { type: 'string', default: path.join(home, '.nailset') },
        'no-demo': { type: 'boolean', default: false },
        help: { type: 'boolean', short: 'h', default: false },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      throw new Trouble(`“${values.port}” is not a port number.`);
    const { host, help: wanted } = values;
    return { port, host, data: path.resolve(values.data), demo: !values['no-demo'], help: wanted };
  } catch (error) {
    throw new Trouble(`${error instanceof Error ? error.message : error}\n\n${help}`);
  }
}

/**
 * Claims the data folder for this run, or gives back the address of the one that has it. Of two that begin at the same
 * moment one waits for the other; the note of one that is gone is removed.
 * @param {string} note
 * @returns {Promise<string | undefined>}
 */
async function claimed(note) {
  for (let said = false; ; said = true) {
    try {
      writeFileSync(note, JSON.stringify({ pid: process.pid }), { flag: 'wx', mode: 0o600 });
      return undefined;
    } catch {
      // Somebody has it, or had it.
    }
    /** @type {{ pid?: number, url?: string, server?: number }} */
    let found = {};
    try {
      found = JSON.parse(readFileSync(note, 'utf8'));
    } catch {
      // Damaged, or just being written.
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
    if (found.pid && runsProgram(found.pid, 'launcher/main.mjs')) {
      if (found.url && (await isHealthy(found.url))) return found.url;
      if (!said) console.log('Nailset is being started by another command; waiting for it.');
      await new Promise((resolve) => setTimeout(resolve, 500));
      continue;
    }
    if (found.server) await endLeftOver(found.server);
    console.log('An earlier run did not end properly; its note is removed.');
    rmSync(note, { force: true });
  }
}

/**
 * Whether a process runs this program; a process of another one that has its number by now does not.
 * @param {number} pid
 * @param {string} program
 */
function runsProgram(pid, program) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(program);
  } catch {
    return false;
  }
}

/**
 * Ends a server whose launcher was killed.
 * @param {number} pid
 */
async function endLeftOver(pid) {
  for (let tries = 0; runsProgram(pid, serverFolder) && tries < 150; tries++) {
    process.kill(pid, tries < 100 ? 'SIGTERM' : 'SIGKILL');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/** @param {string} url */
async function isHealthy(url) {
  return fetch(`${url}/api/health`, { signal: AbortSignal.timeout(2000) }).then(
    (answer) => answer.ok,
    () => false,
  );
}

/**
 * @param {string} url
 * @param {import('node:child_process').ChildProcess} server
 * @param {AbortSignal} stopping
 */
async function healthy(url, server, stopping) {
  while (!(await isHealthy(url))) {
    if (stopping.aborted) return;
    if (server.exitCode !== null || server.signalCode !== null) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/**
 * The key that lets someone start a first course; made once per data folder.
 * @param {string} data
 */
function courseKey(data) {
  const file = path.join(data, 'course-key');
  if (!existsSync(file)) writeFileSync(file, randomBytes(9).toString('base64url'), { mode: 0o600 });
  return readFileSync(file, 'utf8');
}

/** @param {string} log */
function tail(log) {
  return readFileSync(log, 'utf8').trim().split('\n').slice(-4).join('\n');
}

/**
 * @param {string} url
 * @param {boolean} demo
 * @param {string} key
 */
function greet(url, demo, key) {
  const people = demo
    ? `
  Demo sign-ins, password harbour-lights
    instructor   marit.solano@harbour.example
    assistant    bram.ozturk@harbour.example
    student      ilse.okafor@harbour.example
`
    : '';
  console.log(`
  Open ${url}
${people}
  To start a course of your own, make an account and use the course key ${key}

  Ctrl-C stops server and database.
`);
}
