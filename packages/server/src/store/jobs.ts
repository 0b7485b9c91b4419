import { must } from '@nailset/core';
import { type SQL, sql } from 'drizzle-orm';
import type { Database, Transaction } from './database.js';
import { queueSchema } from './setUp.js';

/** How often a check that failed for no fault of the answer is begun, in all. */
const tries = 6;

/** What a job of the queue says: which submission, and from when on a verdict makes the job needless. */
export interface CheckJob {
  readonly submissionId: string;
  readonly since: string;
}

/** The call that enqueues the check of a submission, for use inside another statement. */
export const enqueued = (submissionId: SQL, since: SQL, personId: SQL, runAt: SQL = sql`null`): SQL =>
  sql`${sql.raw(queueSchema)}.add_job('check', json_build_object('submissionId', ${submissionId}, 'since', ${since}),
        job_key => 'check ' || ${submissionId}, max_attempts => ${sql.raw(String(tries))}, flags => array[${personId}::text],
        run_at => ${runAt})`;

/** Puts a job back behind those that wait. */
export async function checkLater(
  tx: Transaction,
  submissionId: string,
  since: string,
  personId: string,
): Promise<void> {
  await tx.execute(sql`
    select ${enqueued(sql`${submissionId}::text`, sql`${since}::timestamptz`, sql`${personId}`, sql`now() + interval '200 ms'`)}`);
}

/** Has a submission checked again, by the checker as it is now. */
export async function checkAgain(database: Database, submissionId: string, personId: string): Promise<void> {
  await database.execute(sql`select ${enqueued(sql`${submissionId}::text`, sql`now()`, sql`${personId}`)}`);
}

/** A share of the work at a correction. */
export interface RecheckJob {
  readonly correctionId: string;
  readonly lane: number;
}

/** How many jobs work at one correction side by side. */
const lanes = 2;
/** Behind every hand-in, whose priority is 0. */
const behind = 10;

/** Begins the work at a correction. */
export async function recheckSoon(tx: Transaction, correctionId: string): Promise<void> {
  for (let lane = 0; lane < lanes; lane++) await recheckLater(tx, { correctionId, lane });
}

/** Enqueues a share of the work at a correction, behind whatever waits. */
export async function recheckLater(tx: Database | Transaction, { correctionId, lane }: RecheckJob): Promise<void> {
  await tx.execute(sql`
    select ${sql.raw(queueSchema)}.add_job('recheck',
             json_build_object('correctionId', ${correctionId}::text, 'lane', ${lane}::int),
             job_key => ${`recheck ${correctionId} ${lane}`}, max_attempts => ${sql.raw(String(tries))},
             priority => ${sql.raw(String(behind))})`);
}

/** How many checks wait or run, and for how long the oldest has. */
export async function waitingChecks(database: Database): Promise<{ waiting: number; oldestSeconds: number }> {
  const { rows } = await database.execute<{ waiting: number; oldest: number }>(sql`
    select count(*)::int as waiting, coalesce(extract(epoch from now() - min(created_at)), 0)::float8 as oldest
      from ${sql.raw(queueSchema)}._private_jobs where attempts < max_attempts or locked_at is not null`);
  return { waiting: must(rows[0]).waiting, oldestSeconds: must(rows[0]).oldest };
}

/** Frees the jobs of workers that no one has seen for this long. */
export async function freeJobsOfTheDead(database: Database, seconds: number): Promise<void> {
  const horizon = sql.raw(`now() - interval '${seconds} seconds'`);
  await database.execute(sql`
    select ${sql.raw(queueSchema)}.force_unlock_workers(array(
      select distinct locked_by from ${sql.raw(queueSchema)}._private_jobs
       where locked_at < ${horizon}
         and locked_by not in (select worker_id from check_workers where seen_at > ${horizon})))`);
  await database.execute(sql`delete from check_workers where seen_at < now() - interval '1 hour'`);
}
