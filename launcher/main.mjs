import { Trouble } from './say.mjs';

const help = `Nailset: exercises for feedback-control courses, checked exactly, for a whole class.

  ./nailset start     install what is missing, build, start database and server   (--help for options)
  ./nailset serve     one more server on a shared database          (--help for more)
  ./nailset work      runs checks for the servers of a shared database
  ./nailset backup    everything into one file, while it is running
  ./nailset restore   a backup into an empty installation
  ./nailset compute   answer questions about systems: JSON Lines in, JSON Lines out (--help for more)
  ./nailset check     check a table of answers without a server               (--help for more)
  ./nailset test      install what is missing, run every check and test
  ./nailset help      this list
`;

/**
 * Each command is loaded when it is asked for.
 * @type {Record<string, (args: string[]) => Promise<number>>}
 */
const commands = {
  start: async (args) => (await import('./start.mjs')).start(args),
  serve: async (args) => (await import('./serve.mjs')).serve('main', args),
  work: async (args) => (await import('./serve.mjs')).serve('worker', args),
  backup: async (args) => (await import('./keep.mjs')).backup(args),
  restore: async (args) => (await import('./keep.mjs')).restore(args),
  compute: async (args) => (await import('./compute.mjs')).compute(args),
  check: async (args) => (await import('./check.mjs')).check(args),
  test: async (args) => (await import('./test.mjs')).test(args),
};

const [name = 'help', ...args] = process.argv.slice(2);
const command = commands[name];
const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`Nailset needs Node 20.19 or newer; this machine has ${process.versions.node}.`);
  process.exitCode = 1;
} else if (command) {
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
