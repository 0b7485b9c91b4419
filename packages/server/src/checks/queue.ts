import { EventEmitter } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import type { Verdict } from '@nailset/core';
import { sql } from 'drizzle-orm';
import type { FastifyBaseLogger } from 'fastify';
import { type Job, Logger, runTaskList, type Worker, type WorkerEvents, type WorkerPool } from 'graphile-worker';
import type pg from 'pg';
import { recheckSome } from '../store/corrections.js';
import type { Database } from '../store/database.js';
import { seedUnder } from '../store/exercises.js';
import { type CheckJob, checkLater, freeJobsOfTheDead, type RecheckJob, recheckLater } from '../store/jobs.js';
import { checkWorkers } from '../store/schema.js';
import { queueSchema } from '../store/setUp.js';
import { addVerdict, claimToCheck, type submissionToCheck } from '../store/submissions.js';
import { OutOfTime, type Threads } from './threads.js';

/** Checks wait in PostgreSQL and are run by any server or worker, each once, at most one at a time of one person. */

/** A worker not seen for this long is taken for dead, and its job given to another. */
const deadSeconds = 10;
const beatSeconds = 2;
/** How long a correction is worked at before others have their turn. */
const recheckMilliseconds = 250;

/** Runs checks of the queue in this process until it is stopped. */
export class CheckQueue {
  private pool: WorkerPool | undefined;
  private readonly alive = new Set<string>();
  /** Who is being checked here. */
  private readonly people = new Set<string>();
  private stopping = false;
  private beating: Promise<void> | undefined;

  constructor(
    private readonly database: Database,
    private readonly connections: pg.Pool,
    private readonly threads: Threads,
    private readonly concurrency: number,
    private readonly log: FastifyBaseLogger,
  ) {}

  start(): void {
    this.launch();
    this.beating = this.beat();
  }

  /** Lets running checks end; what waits is left to others. */
  async stop(): Promise<void> {
    this.stopping = true;
    await this.pool?.gracefulShutdown('stopping').catch(() => undefined);
    await this.beating;
    await this.connections.end();
  }

  private launch(): void {
    const events: WorkerEvents = new EventEmitter();
    events.on('worker:create', ({ worker }: { worker: Worker }) => this.alive.add(worker.workerId));
    const end = (job: Job | null) => job && this.peopleOf(job).forEach((person) => this.people.delete(person));
    events.on('job:start', ({ job }: { job: Job }) => this.peopleOf(job).forEach((person) => this.people.add(person)));
    events.on('job:complete', ({ job }: { job: Job }) => end(job));
    // The check ended, but the database did not hear of it: its person may be checked here again.
    events.on('worker:fatalError', ({ worker }: { worker: Worker }) => end(worker.getActiveJob()));
    events.on('worker:stop', ({ worker, error }: { worker: Worker; error?: unknown }) => {
      this.alive.delete(worker.workerId);
      // It could not even say that its job was done; a new pool takes its place, and the job is given out again.
      if (error && !this.stopping) void this.relaunch();
    });
    this.pool = runTaskList(
      {
        concurrency: this.concurrency,
        schema: queueSchema,
        events,
        noHandleSignals: true,
        pollInterval: 1000,
        logger: queueLog(this.log),
        // Their next checks wait, while everyone else’s go on; a check that runs elsewhere sends this one back.
        forbiddenFlags: () => [...this.people],
      },
      {
        check: (payload, { job }) => this.check(payload as CheckJob, job),
        recheck: (payload) => this.recheck(payload as RecheckJob),
      },
      this.connections,
    );
  }

  private peopleOf({ flags }: Job): string[] {
    return Object.keys(flags ?? {});
  }

  private relaunching: Promise<void> | undefined;
  private relaunch(): Promise<void> {
    this.relaunching ??= (async () => {
      await this.pool?.gracefulShutdown('a worker was lost').catch(() => undefined);
      await pause(500);
      if (!this.stopping) this.launch();
      this.relaunching = undefined;
    })();
    return this.relaunching;
  }

  /**
   * One check, in one transaction under the person’s lock. Where another check of the person runs, as when two workers
   * were given jobs of one person at the same moment, the job goes back into the queue. One that is given out again
   * after its verdict was written does nothing.
   */
  private async check(job: CheckJob, { attempts, max_attempts: most }: Tries): Promise<void> {
    const { submissionId, since } = job;
    await this.database.transaction(async (tx) => {
      const claimed = await claimToCheck(tx, submissionId, since);
      if (!claimed) return;
      if (claimed.busy) return checkLater(tx, submissionId, since, claimed.personId);
      await addVerdict(
        tx,
        submissionId,
        since,
        await this.verdictOf(claimed, attempts >= most),
        claimed.checkedAgainst,
      );
    });
  }

  /** Works at a correction for a moment and goes back behind the others, so that hand-ins never wait for it. */
  private async recheck(job: RecheckJob): Promise<void> {
    const until = Date.now() + recheckMilliseconds;
    while (!this.stopping && Date.now() < until) {
      if (!(await recheckSome(this.database, this.threads, job.correctionId))) return;
    }
    await recheckLater(this.database, job);
  }

  private async verdictOf(claimed: SubmissionToCheck, isLast: boolean): Promise<Verdict | null> {
    try {
      if (claimed.checkedAgainst) return await this.corrected(claimed, claimed.checkedAgainst);
      return await this.threads.check(claimed);
    } catch (error) {
      const submissionId = claimed.submission.id;
      this.log.error({ err: error, submissionId }, 'a check gave no verdict');
      // Out of time stays out of time; anything else is tried again, and in the end left to a person.
      if (error instanceof OutOfTime || isLast) return null;
      throw error;
    }
  }

  /** The verdict of an answer that a correction has moved to another version. */
  private async corrected(claimed: SubmissionToCheck, versionId: string): Promise<Verdict | null> {
    const { submission, document, values, answer } = claimed;
    const seed = (await seedUnder(this.database, versionId))(submission.personId);
    const { partId } = submission;
    const [done] = await this.threads.recheck(document, [{ partId, values, seed, answer }]);
    return done && 'verdict' in done ? done.verdict : null;
  }

  /** Says who is alive here, and frees the jobs of those who are not seen any more. */
  private async beat(): Promise<void> {
    while (!this.stopping) {
      try {
        await this.sayAlive();
      } catch (error) {
        this.log.warn({ err: error }, 'the queue of checks cannot be reached');
      }
      for (let waited = 0; waited < beatSeconds * 1000 && !this.stopping; waited += 100) await pause(100);
    }
  }

  private async sayAlive(): Promise<void> {
    const ids = [...this.alive];
    if (ids.length > 0) {
      await this.database
        .insert(checkWorkers)
        .values(ids.map((workerId) => ({ workerId })))
        .onConflictDoUpdate({ target: checkWorkers.workerId, set: { seenAt: sql`now()` } });
    }
    await freeJobsOfTheDead(this.database, deadSeconds);
  }
}

type Tries = Pick<Job, 'attempts' | 'max_attempts'>;

type SubmissionToCheck = Awaited<ReturnType<typeof submissionToCheck>>;

/** The queue’s own words in the server’s log; it reports every job, which only debugging wants. */
export const queueLog = (log: FastifyBaseLogger): Logger =>
  new Logger(() => (level, message) => {
    if (String(level) === 'error') log.warn({ queue: message.split('\n')[0] }, 'queue of checks');
    else log.debug({ queue: message }, 'queue of checks');
  });
