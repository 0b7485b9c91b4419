import { buildApp } from './app.js';
import { seedDemo } from './demo/seed.js';
import { settingsFrom } from './settings.js';
import { connect, migrateDatabase } from './store/database.js';

const settings = settingsFrom(process.env);
const { pool, database } = connect(settings.databaseUrl, (error) =>
  app.log.warn({ error }, 'a database connection was lost'),
);
const { app, checker } = await buildApp(settings, database, {
  logger: { level: process.env['NAILSET_LOG_LEVEL'] ?? 'info', redact: ['req.headers.cookie'] },
});

async function stop(signal: string): Promise<void> {
  app.log.info({ signal }, 'stopping');
  await app.close();
  await pool.end();
  process.exit(0);
}
process.once('SIGINT', () => void stop('SIGINT'));
process.once('SIGTERM', () => void stop('SIGTERM'));

try {
  await migrateDatabase(database);
  if (settings.demo) await seedDemo(database);
  await app.listen({ host: settings.host, port: settings.port });
  await checker.catchUp();
} catch (error) {
  app.log.fatal(error);
  process.exit(1);
}
