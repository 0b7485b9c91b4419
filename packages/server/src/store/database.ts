import { drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './schema.js';

export type Database = ReturnType<typeof connect>['database'];
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/**
 * Opens a pool of connections; `onLost` hears of connections that break, idle or in the middle of a request. The pool
 * replaces them by itself; a query that was under way fails, and with it its request alone.
 */
export function connect(url: string, onLost: (error: Error) => void = () => undefined, max = 16) {
  const pool = new pg.Pool({
    connectionString: url,
    max,
    // Compiling a query takes longer than running one of ours.
    // Disks of today read anywhere as fast as in a row: one course’s rows are looked up, not the whole table read.
    // A transaction whose server has gone silent is ended, and its locks with it.
    options: '-c jit=off -c random_page_cost=1.1 -c idle_in_transaction_session_timeout=60000',
  });
  pool.on('error', onLost);
  // A client that is checked out has no listener of its own, and an error that nobody hears ends the process.
  pool.on('connect', (client) => client.on('error', onLost));
  return { pool, database: drizzle(pool, { schema, casing: 'snake_case' }) };
}

/**
 * A statement that is built once for each database and planned once on each of its connections; for those that every
 * request needs.
 */
export function prepared<T>(build: (database: Database) => T): (database: Database) => T {
  const known = new WeakMap<Database, T>();
  return (database) => {
    const query = known.get(database) ?? build(database);
    known.set(database, query);
    return query;
  };
}

const lostCodes = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ENOENT',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08003',
]);

/** Whether an error means that the database is away, for the moment at least. */
export function isDatabaseAway(error: unknown): boolean {
  for (let at: unknown = error; at instanceof Error; at = at.cause) {
    const code = (at as Error & { code?: unknown }).code;
    if (typeof code === 'string' && lostCodes.has(code)) return true;
    if (at.message.startsWith('Connection terminated')) return true;
  }
  return false;
}
