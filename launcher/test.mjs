import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import {
  build,
  chromiumPath,
  home,
  installChromium,
  installModules,
  installNginx,
  installPdfReader,
  installPostgres,
} from './install.mjs';
import { PrivatePostgres } from './postgres.mjs';
import { runKeeping } from './run.mjs';
import { step } from './say.mjs';

/**
 * Every check and test; ends with one line of counts.
 * @param {string[]} args passed on to Jest, for example a file name
 * @returns {Promise<number>}
 */
export async function test(args) {
  await installPostgres();
  await installChromium();
  await installNginx();
  await installPdfReader();
  await installModules();
  await build();

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
    for (const result of results.flat()) count(result);
    // A browser test waits as often as it works.
    count(await jest('Tests in the browser', ['e2e'], ['--maxWorkers=3', ...args], scratch, env));
  } finally {
    await postgres.stop();
    rmSync(scratch, { recursive: true, force: true });
    if (postgres.folder !== scratch) rmSync(postgres.folder, { recursive: true, force: true });
  }
  console.log(`\n${passed} passed, ${failed} failed`);
  return failed > 0 || passed === 0 ? 1 : 0;
}

/** One after the other. */
async function checks() {
  const types = await check('Types', ['run', '--silent', 'types']);
  return [types, await check('Style and boundaries', ['run', '--silent', 'lint'])];
}

/**
 * @param {string} what
 * @param {string[]} args of npm
 */
async function check(what, args) {
  const { status, output } = await runKeeping('npm', args, { cwd: home });
  console.log(`  ${status === 0 ? '✓' : '✗'} ${what}`);
  if (status !== 0) console.log(output);
  return status === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };
}

/**
 * @param {string} what
 * @param {string[]} projects
 * @param {string[]} args
 * @param {string} scratch
 * @param {NodeJS.ProcessEnv} env
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
    const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
    return { passed: numPassedTests, failed: numFailedTests + numRuntimeErrorTestSuites };
  } catch {
    return { passed: 0, failed: status === 0 ? 0 : 1 };
  }
}
