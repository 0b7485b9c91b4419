import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { prepare } from './compute.mjs';
import { home } from './install.mjs';
import { Trouble } from './say.mjs';

const help = `./nailset check EXERCISE.json ANSWERS.csv    checks a table of answers, without a server

  --format csv|jsonl   a table for a spreadsheet (csv), or JSON Lines with every figure
  --output FILE        where results go (standard output)
  --help               this text

ANSWERS.csv has the columns student, part and answer. A part is named by its id, its title or its letter. An answer is
what a student would type; gains are written “Kp = 14, Ki = 5”. A column named like a parameter gives a student's
number; without one it is drawn by the student's name. Rows that cannot be checked are reported and the rest goes on.
`;

/** @param {string[]} args */
function readOptions(args) {
  try {
    const { values, positionals } = parseArgs({
      args,
      allowPositionals: true,
      options: {
        format: { type: 'string', default: 'csv' },
        output: { type: 'string' },
        help: { type: 'boolean', short: 'h', default: false },
      },
    });
    const [exercise, answers, ...more] = positionals;
    if (values.help) return { help: true, exercise: '', answers: '', format: '', output: undefined };
    if (!exercise || !answers || more.length > 0) throw new Trouble(`Two files are needed.\n\n${help}`);
    if (values.format !== 'csv' && values.format !== 'jsonl') {
      throw new Trouble(`“${values.format}” is not a format; csv and jsonl are.`);
    }
    return { help: false, exercise, answers, format: values.format, output: values.output };
  } catch (error) {
    throw error instanceof Error && !(error instanceof Trouble) ? new Trouble(`${error.message}\n\n${help}`) : error;
  }
}

/** Checks a file of answers. @param {string[]} args */
export async function check(args) {
  const options = readOptions(args);
  if (options.help) {
    console.log(help);
    return 0;
  }
  await prepare();
  const folder = path.join(home, 'packages/server/dist/run');
  const { FileProblem, checkRows, readExercise } = await import(path.join(folder, 'checkFile.js'));
  const { reports } = await import(path.join(folder, 'report.js'));
  const report = reports[options.format];
  const target = options.output ? createWriteStream(options.output) : process.stdout;
  const progress = startProgress();
  let [checked, refused] = [0, 0];
  try {
    const exercise = await readExercise(options.exercise);
    target.write(report.heading);
    for await (const row of checkRows(exercise, options.answers)) {
      checked += 1;
      if (row.problem) {
        refused += 1;
        progress.say(`Row ${row.row} (${row.student || 'no student'}): ${row.problem}`);
      }
      if (!target.write(report.line(row))) await once(target, 'drain');
      progress.show(checked, refused);
    }
  } catch (error) {
    throw error instanceof Error && error instanceof FileProblem ? new Trouble(error.message) : error;
  } finally {
    progress.end();
    if (options.output) await new Promise((resolve) => target.end(() => resolve(undefined)));
  }
  console.error(`${checked} rows, ${refused} of them not checked.`);
  return 0;
}

/** Progress on standard error, twice a second, on a terminal only. */
function startProgress() {
  const live = process.stderr.isTTY;
  let shown = 0;
  const clear = () => live && shown > 0 && process.stderr.write('\r\u001b[K');
  return {
    /** @param {string} text */
    say(text) {
      clear();
      console.error(text);
    },
    /** @param {number} checked @param {number} refused */
    show(checked, refused) {
      if (!live || Date.now() - shown < 500) return;
      clear();
      shown = Date.now();
      process.stderr.write(`${checked.toLocaleString('en')} rows, ${refused} not checked`);
    },
    end: clear,
  };
}
