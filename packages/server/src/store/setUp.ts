import path from 'node:path';
import { must } from '@nailset/core';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { type Logger as QueueLogger, runMigrations } from 'graphile-worker';
import pg from 'pg';

/** Where jobs live. */
export const queueSchema = 'graphile_worker';

/** Tables that nobody may change a row of; triggers see to it, and the server’s role has no right to try. */
const appendOnly = [
  'versions',
  'draws',
  'submissions',
  'verdicts',
  'overrides',
  'returned_tries',
  'comments',
  'looks',
  'course_log',
  'hints_taken',
];

/** Any number that means “setting up” to every server of Nailset. */
const setUpLock = 4180;

/**
 * Brings the database to the newest state as the role that owns it, and lets the server’s role in. Servers that start
 * at the same time wait for each other; running it again changes nothing.
 * @throws Error of PostgreSQL, for example where the owner may not create a schema.
 */
export async function setUpDatabase(ownerUrl: string, serverUrl: string, log: QueueLogger): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [setUpLock]);
    await migrate(drizzle(client), { migrationsFolder: path.resolve(import.meta.dirname, '../../migrations') });
    const { rows: row } = await client.query<{ missing: boolean }>(
      `select to_regnamespace('${queueSchema}') is null as missing`,
    );
    const pool = new pg.Pool({ connectionString: ownerUrl, max: 1 });
    try {
      await runMigrations({ pgPool: pool, schema: queueSchema, logger: log });
    } finally {
      await pool.end();
    }
    if (must(row[0]).missing) await client.query(enqueueUnchecked);
    const role = decodeURIComponent(new URL(serverUrl).username);
    const { rows } = await client.query<{ current_user: string }>('select current_user');
    if (role && role !== must(rows[0]).current_user) await letIn(client, role);
  } finally {
    await client.end();
  }
}

/** What was acknowledged before there was a queue, and never checked. */
const enqueueUnchecked = `
  select count(${queueSchema}.add_job('check', json_build_object('submissionId', id, 'since', handed_in_at),
                                      job_key => 'check ' || id, flags => array[person_id::text]))
    from submissions s
   where not exists (select from verdicts where submission_id = s.id)`;

/** Gives the server’s role what it needs: rows, but no table, and no change of what is append-only. */
async function letIn(client: pg.Client, role: string): Promise<void> {
  const name = pg.escapeIdentifier(role);
  const { rows } = await client.query<{ current_database: string }>('select current_database()');
  const database = pg.escapeIdentifier(must(rows[0]).current_database);
  const secured = await client.query<{ relname: string }>(
    `select relname from pg_class
      where relnamespace = '${queueSchema}'::regnamespace and relkind = 'r' and relrowsecurity
        and not exists (select from pg_policy where polrelid = pg_class.oid and polname = 'nailset')`,
  );
  await client.query(
    [
      `grant connect on database ${database} to ${name}`,
      `grant usage on schema public, ${queueSchema} to ${name}`,
      `grant select, insert, update, delete on all tables in schema public, ${queueSchema} to ${name}`,
      `grant usage on all sequences in schema public, ${queueSchema} to ${name}`,
      `grant execute on all functions in schema ${queueSchema} to ${name}`,
      `revoke update, delete, truncate on ${appendOnly.join(', ')} from ${name}`,
      ...secured.rows.map(
        ({ relname }) => `create policy nailset on ${queueSchema}.${relname} to public using (true) with check (true)`,
      ),
    ].join(';\n'),
  );
}
