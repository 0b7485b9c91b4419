import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { run, works } from './run.mjs';
import { step, Trouble } from './say.mjs';

export const home = path.resolve(import.meta.dirname, '..');
/** Room for what lives for one request only, so that it is cleared away less often: a third more requests a second. */
export const nodeOptions = ['--max-semi-space-size=64'];

/** Chromium without a window of its own, which takes a fifth less of the processor; with one where that is missing. */
const windowless = '/usr/bin/chromium-headless-shell';
export const chromiumPath = () => (existsSync(windowless) ? windowless : '/usr/bin/chromium');

/** Directory of PostgreSQL's programs, newest version first; undefined when there is none. */
export function postgresPrograms() {
  const root = '/usr/lib/postgresql';
  if (!existsSync(root)) return undefined;
  const versions = readdirSync(root).filter((version) => existsSync(path.join(root, version, 'bin/initdb')));
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  return newest && path.join(root, newest, 'bin');
}

/**
 * Installs what is missing of Debian, one after the other, while packages of npm come and the product is built.
 * @param {(() => Promise<void>)[]} fromDebian
 */
export async function install(...fromDebian) {
  const debian = (async () => {
    for (const each of fromDebian) await each();
  })();
  // Who may not install is told at once, and before anything is begun.
  await Promise.race([debian, new Promise(setImmediate)]);
  // Nothing is left under way behind an error.
  const ends = await Promise.allSettled([debian, installModules().then(build)]);
  for (const end of ends) if (end.status === 'rejected') throw end.reason;
}

/** Installs PostgreSQL's server from Debian when it is missing. */
export async function installPostgres() {
  if (postgresPrograms()) return;
  await step('Installing PostgreSQL', async () => {
    // Debian would start a database of its own; Nailset brings its own and leaves port 5432 alone.
    const settings = '/etc/postgresql-common/createcluster.d';
    if (process.getuid?.() === 0) {
      mkdirSync(settings, { recursive: true });
      writeFileSync(path.join(settings, 'nailset.conf'), 'create_main_cluster = false\n');
    }
    await installPackages(['postgresql']);
  });
}

/** Installs Chromium from Debian when it is missing; only the tests need it. */
export async function installChromium() {
  if (existsSync(windowless)) return;
  try {
    await step('Installing Chromium', () => installPackages(['chromium-headless-shell', 'fonts-dejavu-core']));
  } catch (error) {
    if (!existsSync(chromiumPath())) throw error;
  }
}

/** Installs what reads a printed page back, for the tests. */
export async function installPdfReader() {
  if (existsSync('/usr/bin/pdftotext')) return;
  await step('Installing pdftotext', () => installPackages(['poppler-utils']));
}

/** Installs nginx from Debian when it is missing; the tests put it in front of two servers. */
export async function installNginx() {
  if (existsSync('/usr/sbin/nginx')) return;
  await step('Installing nginx', () => installPackages(['nginx-light']));
}

/** Debian's lists are asked for once. @type {Promise<void> | undefined} */
let listed;

/** @param {string[]} names */
async function installPackages(names) {
  const isRoot = process.getuid?.() === 0;
  if (!isRoot && !works('sudo', ['-n', 'true'])) {
    throw new Trouble(
      `Debian packages are missing. Install them and start again:\n  sudo apt-get install ${names.join(' ')}`,
    );
  }
  const [program, first] = isRoot ? ['apt-get', []] : ['sudo', ['-n', 'apt-get']];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  listed ??= run(program, [...first, 'update', '-qq'], { env });
  await listed;
  await run(program, [...first, 'install', '-y', '-qq', '--no-install-recommends', ...names], { env });
}

/** Installs the npm packages that the lock file names, when it changed. */
async function installModules() {
  const stamp = path.join(home, 'node_modules/.nailset-installed');
  const wanted = createHash('sha256')
    .update(readFileSync(path.join(home, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  await step('Installing packages', async () => {
    await run('npm', ['ci', '--no-audit', '--no-fund'], { cwd: home });
    writeFileSync(stamp, wanted);
  });
}

/** Builds core, server and interface, when their sources changed. */
async function build() {
  const stamp = path.join(home, 'node_modules/.nailset-built');
  const wanted = hashOfSources();
  const built = [
    'core/dist/index.js',
    'server/dist/run/main.js',
    'server/dist/demo/handedIn.json',
    'web/dist/index.html',
  ];
  const complete = built.every((file) => existsSync(path.join(home, 'packages', file)));
  if (complete && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  await step('Building', async () => {
    // Whatever the caller's environment is for: what is built is what people get.
    await run('npm', ['run', 'build', '--silent'], { cwd: home, env: { ...process.env, NODE_ENV: 'production' } });
    writeFileSync(stamp, wanted);
  });
}

function hashOfSources() {
  const hash = createHash('sha256');
  const visit = (/** @type {string} */ file) => {
    if (statSync(file).isDirectory()) {
      const skipped = ['dist', 'node_modules', 'test'];
      for (const name of readdirSync(file).sort()) if (!skipped.includes(name)) visit(path.join(file, name));
    } else {
      hash.update(file).update(readFileSync(file));
    }
  };
  for (const name of ['package-lock.json', 'tsconfig.base.json', 'packages']) visit(path.join(home, name));
  return hash.digest('hex');
}
