import { Piscina } from 'piscina';
import type { DrawValues, ExerciseDocument, Verdict } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';
import type { FastifyBaseLogger } from 'fastify';
import type { Database } from '../store/database.js';
import { addVerdict, submissionToCheck, uncheckedSubmissions } from '../store/submissions.js';
import { Refusal } from '../errors.js';
import type { CheckRequest, KeepRequest } from './worker.js';

/** Longest time for examining an exercise, which tries many draws of every part. */
const examineSeconds = 20;

/** Runs checks on worker threads with a time limit, so that no computation holds up anyone’s request. */
export class Checker {
  private readonly pool = new Piscina<CheckRequest | KeepRequest | ExerciseDocument, Verdict | Finding[] | number>({
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
    const { part, values, submission, version } = await submissionToCheck(this.database, submissionId);
    const limit = AbortSignal.timeout(this.seconds * 1000);
    let verdict: Verdict | null = null;
    try {
      const { systems, series, parameters } = version.document;
      const request: CheckRequest = { given: { systems, series, parameters }, part, values, answer: submission.answer };
      verdict = (await this.pool.run(request, { signal: limit, name: 'check' })) as Verdict;
    } catch (error) {
      this.log.error({ error, submissionId, timedOut: limit.aborted }, 'a check gave no verdict');
    }
    await addVerdict(this.database, submissionId, verdict);
  }

  /**
   * Everything that keeps a document from being published.
   * @throws Refusal `notReady` when that cannot be found out in time; checking its answers could not be either.
   */
  async examine(document: ExerciseDocument): Promise<Finding[]> {
    const limit = AbortSignal.timeout(examineSeconds * 1000);
    try {
      return (await this.pool.run(document, { signal: limit, name: 'examineDocument' })) as Finding[];
    } catch (error) {
      this.log.error({ error, timedOut: limit.aborted }, 'an exercise could not be examined');
      throw new Refusal('notReady', 'Its systems take too long to work out, so answers could not be checked either.');
    }
  }

  /** How many of these sets of numbers a document does not allow. @throws Refusal `notReady` when it takes too long. */
  async countRuledOut(document: ExerciseDocument, seen: DrawValues[]): Promise<number> {
    const limit = AbortSignal.timeout(examineSeconds * 1000);
    try {
      return (await this.pool.run({ document, seen }, { signal: limit, name: 'countRuledOut' })) as number;
    } catch (error) {
      this.log.error({ error, timedOut: limit.aborted }, 'the numbers of a class could not be looked at');
      throw new Refusal('notReady', 'Its guards take too long to work out for the numbers that students have.');
    }
  }

  /** Checks what an earlier run acknowledged but did not get to. */
  async catchUp(): Promise<void> {
    for (const id of await uncheckedSubmissions(this.database)) await this.check(id);
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
