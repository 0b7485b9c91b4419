import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { home, installPostgres, postgresPrograms } from './install.mjs';
import { PrivatePostgres } from './postgres.mjs';
import { run, runKeeping } from './run.mjs';
import { step, Trouble } from './say.mjs';

const help = `./nailset backup FILE    writes everything into one file, also while Nailset is running
./nailset restore FILE   puts it into an installation that is still empty

  --data FOLDER  where the installation lives (.nailset)
  --help         this text

  DATABASE_URL   in the environment: that database instead of the private one (NAILSET_OWNER_URL where that differs)
`;

/** What a backup is: a tar of the database in pg_dump's custom format and the settings. */
const dumpName = 'database.dump';
const settingsName = 'settings.json';
const format = 1;

/**
 * @param {string[]} args
 * @returns {Promise<number>}
 */
export async function backup(args) {
  const { file, data } = readOptions(args);
  if (!file) return 0;
  if (existsSync(file)) throw new Trouble(`${file} is there already; a backup overwrites nothing.`);
  await inDatabase(data, async (url) => {
    const folder = mkdtempSync(path.join(tmpdir(), 'nailset-backup-'));
    try {
      await step('Writing the database', () =>
        run(program('pg_dump'), [
          '-d',
          url,
          '-Fc',
          '--no-owner',
          '--no-acl',
          '--no-unlogged-table-data',
          '-f',
          path.join(folder, dumpName),
        ]),
      );
      const keyFile = path.join(data, 'course-key');
      const settings = {
        format,
        madeAt: new Date().toISOString(),
        courseKey: existsSync(keyFile) ? readFileSync(keyFile, 'utf8') : null,
      };
      writeFileSync(path.join(folder, settingsName), JSON.stringify(settings, null, 2));
      await run('sh', ['-c', 'umask 077 && tar -C "$0" -cf "$1" "$2" "$3"', folder, file, settingsName, dumpName]);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });
  console.log(`Everything is in ${file}. Keep it where only you can read it: it holds people's names and answers.`);
  return 0;
}

/**
 * @param {string[]} args
 * @returns {Promise<number>}
 */
export async function restore(args) {
  const { file, data } = readOptions(args);
  if (!file) return 0;
  if (!existsSync(file)) throw new Trouble(`There is no file ${file}.`);
  if (existsSync(path.join(data, 'running.json'))) {
    throw new Trouble('Nailset is running here. Stop it first; a backup is put into an empty installation only.');
  }
  const folder = mkdtempSync(path.join(tmpdir(), 'nailset-restore-'));
  try {
    const { status } = await runKeeping('tar', ['-C', folder, '-xf', file, settingsName, dumpName]);
    if (status !== 0) throw new Trouble(`${file} is no backup of Nailset.`);
    const settings = JSON.parse(readFileSync(path.join(folder, settingsName), 'utf8'));
    if (settings.format !== format) throw new Trouble(`${file} was made by another version of Nailset. Take that one.`);
    await inDatabase(data, async (url) => {
      if (await hasTables(url)) throw new Trouble('This installation is not empty. Nothing was changed.');
      await step('Reading the database', () =>
        run(program('pg_restore'), [
          '-d',
          url,
          '--no-owner',
          '--no-acl',
          '--exit-on-error',
          '--single-transaction',
          path.join(folder, dumpName),
        ]),
      );
    });
    if (settings.courseKey) writeFileSync(path.join(data, 'course-key'), settings.courseKey, { mode: 0o600 });
    console.log(`Restored as it was on ${settings.madeAt}. Start it: ./nailset start`);
    return 0;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/**
 * Calls `use` with the address of the database, for its owner. A private one that does not run is started meanwhile.
 * @param {string} data
 * @param {(url: string) => Promise<void>} use
 */
async function inDatabase(data, use) {
  const given = process.env['NAILSET_OWNER_URL'] ?? process.env['DATABASE_URL'];
  if (given) return use(given);
  await installPostgres();
  mkdirSync(data, { recursive: true });
  const postgres = new PrivatePostgres(data);
  await postgres.create();
  const running = postgres.isRunning();
  if (!running) await postgres.start();
  try {
    await postgres.createDatabase('nailset');
    await use(postgres.url('nailset'));
  } finally {
    if (!running) await postgres.stop();
  }
}

/** @param {string} url */
async function hasTables(url) {
  const ask =
    "select count(*) from information_schema.tables where table_schema not in ('pg_catalog', 'information_schema')";
  const { status, output } = await runKeeping(program('psql'), ['-d', url, '-Atqc', ask]);
  if (status !== 0) throw new Trouble(`The database does not answer:\n${output.trim()}`);
  return output.trim() !== '0';
}

/** @param {string} name */
const program = (name) => path.join(postgresPrograms() ?? '', name);

/** @param {string[]} args */
function readOptions(args) {
  const options = /** @type {const} */ ({
    data: { type: 'string', default: path.join(home, '.nailset') },
    help: { type: 'boolean', short: 'h', default: false },
  });
  try {
    const { values, positionals } = parseArgs({ args, allowPositionals: true, options });
    if (values.help || positionals.length !== 1) throw new Error(values.help ? '' : 'Name one file.');
    return { file: path.resolve(/** @type {string} */ (positionals[0])), data: path.resolve(values.data) };
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    if (message) throw new Trouble(`${message}\n\n${help}`);
    console.log(help);
    return { file: undefined, data: '' };
  }
}
