import { spawn } from 'node:child_process';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { home, install, nodeOptions } from './install.mjs';
import { Trouble } from './say.mjs';

const help = `./nailset serve   one more server on a database that several share; ./nailset work   runs checks only.

  --port N       port of the web server (4180; serve only)
  --host NAME    address to listen on (127.0.0.1; serve only)
  --checks N     how many checks run here at a time (2); a server with 0 leaves them to workers
  --help         this text

Both need DATABASE_URL in the environment; docs/operations.md lists every variable.
`;

/**
 * One process in the foreground, on a database that is there already.
 * @param {'main' | 'worker'} program
 * @param {string[]} args
 * @returns {Promise<number>}
 */
export async function serve(program, args) {
  const { port, host, checks, help: wanted } = readOptions(args);
  if (wanted) {
    console.log(help);
    return 0;
  }
  if (!process.env['DATABASE_URL']) {
    throw new Trouble('DATABASE_URL is not set; it says which PostgreSQL database the servers share.');
  }
  await install();
  const child = spawn(
    process.execPath,
    [...nodeOptions, path.join(home, 'packages/server/dist/run', `${program}.js`)],
    {
      cwd: home,
      stdio: 'inherit',
      env: {
        ...process.env,
        ...(port ? { NAILSET_PORT: port } : {}),
        ...(host ? { NAILSET_HOST: host } : {}),
        ...(checks ? { NAILSET_CHECKS: checks } : {}),
      },
    },
  );
  for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP'])) {
    process.on(signal, () => child.kill(signal === 'SIGHUP' ? 'SIGTERM' : signal));
  }
  return new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
}

/** @param {string[]} args */
function readOptions(args) {
  try {
    const { values } = parseArgs({
      args,
      options: {
        port: { type: 'string' },
        host: { type: 'string' },
        checks: { type: 'string' },
        help: { type: 'boolean', short: 'h', default: false },
      },
    });
    return values;
  } catch (error) {
    throw new Trouble(`${error instanceof Error ? error.message : error}\n\n${help}`);
  }
}
