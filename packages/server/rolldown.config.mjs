// What is run, in few files with the core and most packages: Node reads one large file much sooner than a thousand
// small ones, so servers start in half the time. Names and lines stay as they are, for traces.
import path from 'node:path';

const dist = path.join(import.meta.dirname, 'dist');

export default {
  input: {
    main: path.join(dist, 'main.js'),
    worker: path.join(dist, 'worker.js'),
    work: path.join(dist, 'checks/work.js'),
    checkFile: path.join(dist, 'file/checkFile.js'),
    report: path.join(dist, 'file/report.js'),
  },
  // As deep as the folders it takes the place of: some modules look for files from where they are.
  output: { dir: path.join(dist, 'run'), format: 'esm', cleanDir: true },
  platform: 'node',
  // Those that bring files, threads or machine code of their own.
  external: [/^pino/, /^piscina$/, /^@node-rs\//, /^graphile-worker$/, /^pg$/],
  logLevel: 'warn',
};
