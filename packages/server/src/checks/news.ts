import { EventEmitter, once } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import type { FastifyBaseLogger } from 'fastify';
import pg from 'pg';
import { verdictChannel } from '../store/submissions.js';

/** Hears of verdicts from every server and worker, on a connection of its own that is opened again when it is lost. */
export class VerdictNews {
  private readonly heard = new EventEmitter().setMaxListeners(0);
  private client: pg.Client | undefined;
  private readonly stopping = new AbortController();

  constructor(
    private readonly url: string,
    private readonly log: FastifyBaseLogger,
  ) {}

  start(): void {
    void this.listen();
  }

  /** Answers everybody who waits, and hears no more. */
  async stop(): Promise<void> {
    this.stopping.abort();
    await this.client?.end().catch(() => undefined);
  }

  /**
   * Calls `look` until it finds something: at once, when there is news of the submission, and every two seconds in
   * case news was lost. Undefined when the time is over or `signal` is given.
   */
  async until<T>(
    submissionId: string,
    milliseconds: number,
    look: () => Promise<T | undefined>,
    signal: AbortSignal,
  ): Promise<T | undefined> {
    const over = AbortSignal.any([signal, this.stopping.signal, AbortSignal.timeout(milliseconds)]);
    for (;;) {
      const next = AbortSignal.any([over, AbortSignal.timeout(2000)]);
      // Listening begins before looking, so that nothing falls in between.
      const news = once(this.heard, submissionId, { signal: next }).catch(() => undefined);
      const seen = await look();
      if (seen !== undefined || over.aborted) return seen;
      await news;
      if (over.aborted) return look();
    }
  }

  private async listen(): Promise<void> {
    while (!this.stopping.signal.aborted) {
      const client = new pg.Client({ connectionString: this.url });
      this.client = client;
      client.on('notification', ({ payload }) => payload && this.heard.emit(payload));
      const lost = new Promise<void>((resolve) => {
        client.on('end', resolve);
        client.on('error', () => resolve());
      });
      try {
        await client.connect();
        await client.query(`listen ${verdictChannel}`);
        await lost;
      } catch (error) {
        this.log.warn({ err: error }, 'news of verdicts cannot be heard for now');
      }
      await client.end().catch(() => undefined);
      if (!this.stopping.signal.aborted) await pause(500);
    }
  }
}
