import { start } from './start.mjs';
import { test } from './test.mjs';
import { Trouble } from './say.mjs';

const help = `Nailset: exercises for feedback-control courses, checked exactly, for a whole class.

  ./nailset start    install what is missing, build, start database and server   (--help for options)
  ./nailset test     install what is missing, run every check and test
  ./nailset help     this list
`;

/** @type {Record<string, (args: string[]) => Promise<number>>} */
const commands = { start, test };

const [name = 'help', ...args] = process.argv.slice(2);
const command = commands[name];
if (command) {
  command(args).then(
    (status) => process.exit(status),
    (error) => {
      console.error(error instanceof Trouble ? `\n${error.message}` : error);
      process.exit(1);
    },
  );
} else {
  const known = ['help', '--help', '-h'].includes(name);
  if (!known) console.error(`There is no command “${name}”.\n`);
  console.log(help);
  process.exitCode = known ? 0 : 2;
}
