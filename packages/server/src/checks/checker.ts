import { Piscina } from 'piscina';
import type { Verdict } from '@nailset/core';
import type { FastifyBaseLogger } from 'fastify';
import type { Database } from '../store/database.js';
import { addVerdict, submissionToCheck, uncheckedSubmissions } from '../store/submissions.js';
import type { CheckRequest } from './worker.js';

/** Runs checks on worker threads with a time limit and records their verdicts. */
export class Checker {
  private readonly pool = new Piscina<CheckRequest, Verdict>({
    filename: new URL('./worker.js', import.meta.url).href,
    maxThreads: 2,
    idleTimeout: 30_000,
  });

  constructor(
    private readonly database: Database,
    private readonly seconds: number,
    private readonly log: FastifyBaseLogger,
  ) {}

  /** Checks one submission; a check that takes too long is stopped and recorded as such, for a person to look at. */
  async check(submissionId: string): Promise<void> {
    const { part, values, submission } = await submissionToCheck(this.database, submissionId);
    const limit = AbortSignal.timeout(this.seconds * 1000);
    let verdict: Verdict | null = null;
    try {
      verdict = await this.pool.run({ part, values, answer: submission.answer }, { signal: limit });
    } catch (error) {
      this.log.error({ error, submissionId, timedOut: limit.aborted }, 'a check gave no verdict');
    }
    await addVerdict(this.database, submissionId, verdict);
  }

  /** Checks what an earlier run acknowledged but did not get to. */
  async catchUp(): Promise<void> {
    for (const id of await uncheckedSubmissions(this.database)) await this.check(id);
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
