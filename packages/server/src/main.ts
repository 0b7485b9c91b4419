import { buildApp } from './app.js';
import { openQueue } from './checks/open.js';
import { queueLog } from './checks/queue.js';
import { seedDemo } from './demo/seed.js';
import { errorForLog, openLog } from './log.js';
import { settingsFrom } from './settings.js';
import { stopOnSignal } from './stopping.js';
import { connect } from './store/database.js';
import { setUpDatabase } from './store/setUp.js';

const settings = settingsFrom(process.env);
const log = openLog(settings.logLevel, settings.logFolder, 'server');
const { pool, database } = connect(settings.databaseUrl, (error) =>
  log.warn({ err: error }, 'a database connection was lost'),
);

try {
  await setUpDatabase(settings.ownerUrl, settings.databaseUrl, queueLog(log));
  if (settings.demo) await seedDemo(database);
  const { app, threads } = await buildApp(settings, database, log);
  const queue = settings.checks > 0 ? openQueue(settings, threads, log) : undefined;
  stopOnSignal(log, async () => {
    await Promise.all([app.close(), queue?.stop()]);
    await threads.close();
    await pool.end();
  });
  queue?.start();
  await app.listen({ host: settings.host, port: settings.port });
} catch (error) {
  log.fatal({ err: error }, 'the server cannot start');
  console.error(errorForLog(error));
  process.exit(1);
}
