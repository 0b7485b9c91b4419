import { openQueue } from './checks/open.js';
import { queueLog } from './checks/queue.js';
import { Threads } from './checks/threads.js';
import { errorForLog, openLog } from './log.js';
import { settingsFrom } from './settings.js';
import { stopOnSignal } from './stopping.js';
import { setUpDatabase } from './store/setUp.js';

/** Runs checks and nothing else: as many of these as there are machines to spare. */

const settings = settingsFrom(process.env);
const log = openLog(settings.logLevel, settings.logFolder, 'worker');

try {
  await setUpDatabase(settings.ownerUrl, settings.databaseUrl, queueLog(log));
  const threads = new Threads(settings.checks, settings.checkSeconds, log);
  const queue = openQueue(settings, threads, log);
  stopOnSignal(log, async () => {
    await queue.stop();
    await threads.close();
  });
  queue.start();
  log.info({ checks: settings.checks }, 'checking');
} catch (error) {
  log.fatal({ err: error }, 'the worker cannot start');
  console.error(errorForLog(error));
  process.exit(1);
}
