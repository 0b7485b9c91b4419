import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import {
  chromiumPath,
  home,
  install,
  installChromium,
  installNginx,
  installPdfReader,
  installPostgres,
} from './install.mjs';
import { PrivatePostgres } from './postgres.mjs';
import { runKeeping } from './run.mjs';
import { step } from './say.mjs';

/** So many files may fail by chance; more have a reason. */
const fewFiles = 3;

/**
 * Every check and test; ends with one line of counts.
 * @param {string[]} args passed on to Jest, for example a file name
 * @returns {Promise<number>}
 */
export async function test(args) {
  await install(installPostgres, installChromium, installNginx, installPdfReader);

  let passed = 0;
  let failed = 0;
  const count = (/** @type {{ passed: number, failed: number }} */ result) => {
    passed += result.passed;
    failed += result.failed;
  };
  const scratch = mkdtempSync('/tmp/nailset-test-');
  chmodSync(scratch, 0o755);
  const postgres = new PrivatePostgres(scratch, { settings: ['fsync=off', 'max_connections=200'] });
  try {
    await step('Starting a database for the tests', async () => {
      await postgres.create();
      await postgres.start();
    });
    const env = {
      ...process.env,
      NAILSET_TEST_DATABASE: postgres.url('postgres'),
      NAILSET_CHROMIUM: chromiumPath(),
      // Most servers of the tests answer few kinds of requests.
      NAILSET_WARM_UP: '0',
    };
    // Lint and compiler beside the unit tests; those in the browser alone, as people wait in them for what is worked out.
    const units = ['core', 'web', 'server'];
    const results = await Promise.all([
      args.length > 0 ? [] : checks(),
      jest('Unit and server tests', units, ['--maxWorkers=100%', ...args], scratch, env),
    ]);
    // A browser test waits as often as it works.
    const inBrowser = await jest('Tests in the browser', ['e2e'], ['--maxWorkers=3', ...args], scratch, env);
    // A machine under load may miss a click. Tests of a file follow on each other, so the whole file is tried again.
    const missed = inBrowser.filter(({ failed }) => failed > 0);
    if (missed.length > 0 && missed.length <= fewFiles) {
      const files = missed.map(({ file }) => file);
      results.push(await jest('Once more, one after the other', ['e2e'], ['--runInBand', ...files], scratch, env));
      results.push(inBrowser.filter((each) => !missed.includes(each)));
    } else results.push(inBrowser);
    for (const result of results.flat()) count(result);
  } finally {
    await postgres.stop();
    rmSync(scratch, { recursive: true, force: true });
    if (postgres.folder !== scratch) rmSync(postgres.folder, { recursive: true, force: true });
  }
  console.log(`\n${passed} passed, ${failed} failed`);
  return failed > 0 || passed === 0 ? 1 : 0;
}

/** @typedef {{ file: string, passed: number, failed: number }} Counts */

/** One after the other. */
async function checks() {
  const types = await check('Types', ['run', '--silent', 'types']);
  return [types, await check('Style and boundaries', ['run', '--silent', 'lint'])];
}

/**
 * @param {string} what
 * @param {string[]} args of npm
 * @returns {Promise<Counts>}
 */
async function check(what, args) {
  const { status, output } = await runKeeping('npm', args, { cwd: home });
  console.log(`  ${status === 0 ? '✓' : '✗'} ${what}`);
  if (status !== 0) console.log(output);
  return status === 0 ? { file: '', passed: 1, failed: 0 } : { file: '', passed: 0, failed: 1 };
}

/**
 * @param {string} what
 * @param {string[]} projects
 * @param {string[]} args
 * @param {string} scratch
 * @param {NodeJS.ProcessEnv} env
 * @returns {Promise<Counts[]>} one for each file
 */
async function jest(what, projects, args, scratch, env) {
  const report = path.join(scratch, `${projects.join('-')}.json`);
  const own = [
    'jest',
    '--selectProjects',
    ...projects,
    '--json',
    `--outputFile=${report}`,
    '--passWithNoTests',
    '--forceExit',
  ];
  const { status, output } = await runKeeping('npx', [...own, ...args], { cwd: home, env, echo: false });
  // Jest prints its report as JSON among the lines for people; those are kept.
  console.log(
    `\n${what}\n${output}`
      .split('\n')
      .filter((line) => !line.startsWith('{"numFailedTestSuites"') && !line.startsWith('npm warn'))
      .join('\n'),
  );
  try {
    const { testResults } = JSON.parse(readFileSync(report, 'utf8'));
    return testResults.map(countsOf);
  } catch {
    return [{ file: '', passed: 0, failed: status === 0 ? 0 : 1 }];
  }
}

/**
 * @param {{ name: string, status: string, assertionResults: { status: string }[] }} file as Jest reports it
 * @returns {Counts}
 */
function countsOf({ name, status, assertionResults }) {
  const all = (/** @type {string} */ wanted) => assertionResults.filter((each) => each.status === wanted).length;
  // One that could not even begin has no tests that failed.
  return { file: name, passed: all('passed'), failed: Math.max(all('failed'), status === 'failed' ? 1 : 0) };
}
