import path from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema.js';

export type Database = ReturnType<typeof connect>['database'];
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/** Opens a pool of connections; `onLost` hears of idle connections that break, which the pool replaces by itself. */
export function connect(url: string, onLost: (error: Error) => void = () => undefined) {
  const pool = new pg.Pool({ connectionString: url, max: 16 });
  pool.on('error', onLost);
  return { pool, database: drizzle(pool, { schema, casing: 'snake_case' }) };
}

/** Brings the database to the newest migration; running it again changes nothing. */
export async function migrateDatabase(database: Database): Promise<void> {
  await migrate(database, { migrationsFolder: path.resolve(import.meta.dirname, '../../migrations') });
}
