import { readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { parseArgs } from 'node:util';
import { home, install } from './install.mjs';
import { Trouble } from './say.mjs';

const help = `./nailset compute    answers questions about systems, one a line, for scripts and notebooks

Reads JSON Lines on standard input and writes one JSON line for each, in order, as each is done:
  {"id": 1, "ask": "measures", "system": "12.25/(s^2 + 2.1s + 12.25)"}
  {"id": 1, "result": {"stable": true, "finalValue": 1, …}}
A question that cannot be answered gives {"id": …, "error": {"code", "message", "at"}} and stops nothing.
Every ask with an example: docs/compute.md
`;

/** Longest line that is read, in characters. */
const longestLine = 4_000_000;

/** Answers JSON Lines from standard input on standard output. @param {string[]} args */
export async function compute(args) {
  if (wantsHelp(args)) {
    console.log(help);
    return 0;
  }
  const door = path.join(home, 'packages/core/dist/batch/answer.js');
  if (isOlderThanSources(door)) await prepare();
  const { answerLine } = await import(door);
  process.stdout.on('error', (error) => {
    // Whoever reads may stop reading, as head does.
    if ('code' in error && error.code === 'EPIPE') process.exit(0);
    throw error;
  });
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
    if (!line.trim()) continue;
    const answered =
      line.length > longestLine
        ? { id: null, error: { code: 'tooLong', message: `A line has at most ${longestLine} characters.`, at: 0 } }
        : answerLine(line);
    if (!process.stdout.write(`${JSON.stringify(answered)}\n`)) {
      await new Promise((resolve) => process.stdout.once('drain', resolve));
    }
  }
  return 0;
}

/** @param {string[]} args */
function wantsHelp(args) {
  try {
    return parseArgs({ args, options: { help: { type: 'boolean', short: 'h' } } }).values.help ?? false;
  } catch (error) {
    throw error instanceof Error ? new Trouble(`${error.message}\n\n${help}`) : error;
  }
}

/** Whether the built core is missing or any of its sources is newer. @param {string} door */
function isOlderThanSources(door) {
  const built = statSync(door, { throwIfNoEntry: false })?.mtimeMs ?? 0;
  const sources = path.join(home, 'packages/core/src');
  return readdirSync(sources, { recursive: true, encoding: 'utf8' }).some(
    (file) => statSync(path.join(sources, file)).mtimeMs > built,
  );
}

/** Installs and builds what is not there yet, telling so on standard error, because standard output is for answers. */
export async function prepare() {
  const write = process.stdout.write.bind(process.stdout);
  process.stdout.write = /** @type {typeof process.stdout.write} */ (process.stderr.write.bind(process.stderr));
  try {
    await install();
  } catch (error) {
    throw error instanceof Error ? new Trouble(`Nailset could not be built: ${error.message}`) : error;
  } finally {
    process.stdout.write = write;
  }
}
