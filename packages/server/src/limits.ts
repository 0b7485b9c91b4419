import { createHash } from 'node:crypto';
import type pg from 'pg';
import { RateLimiterMemory, RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { Refusal } from './errors.js';

/** Counts of tries in the database, so that they hold for all servers together. */
export class Limits {
  private readonly limiters = new Map<string, RateLimiterPostgres>();
  private readonly memories = new Map<string, RateLimiterMemory>();

  constructor(private readonly pool: pg.Pool) {}

  /**
   * The same for what everybody does all the time: the first twentieth is counted here alone, so that who stays below it
   * costs the database nothing.
   */
  async takeOften(name: string, key: string, points: number, seconds: number): Promise<void> {
    const few = Math.floor(points / 20);
    const here = this.nearby(name, few, seconds);
    try {
      await here.consume(key);
    } catch (refused) {
      if (!(refused instanceof RateLimiterRes)) throw refused;
      const isFirst = refused.consumedPoints === few + 1;
      await refusing(this.limiter(name, points, seconds).consume(hidden(key), isFirst ? few + 1 : 1));
    }
  }

  private nearby(name: string, points: number, duration: number): RateLimiterMemory {
    const known = this.memories.get(name) ?? new RateLimiterMemory({ keyPrefix: name, points, duration });
    this.memories.set(name, known);
    return known;
  }

  /** Counts one of `points` in `seconds` for this key. @throws Refusal `tooMany` with the time to wait. */
  async take(name: string, key: string, points: number, seconds: number): Promise<void> {
    await refusing(this.limiter(name, points, seconds).consume(hidden(key)));
  }

  /**
   * Runs a try at signing in. Wrong passwords are counted for account and address together, for the account alone and
   * for the address alone; past the free ones, tries must wait, longer with each. Where an account has signed in from
   * an address before, others who guess at it from elsewhere do not keep its owner waiting.
   * @throws Refusal `tooMany` with the time to wait, or what `sign` throws.
   */
  async signingIn<T>(email: string, address: string, sign: () => Promise<T>): Promise<T> {
    const account = email.trim().toLowerCase();
    await this.take('sign-in', address, 1200, 120);
    const here = { key: `${account} ${address}`, free: 5, longest: 900 };
    const anywhere = { key: account, free: 50, longest: 60 };
    const fromThere = { key: address, free: 300, longest: 30 };
    const isKnown = (await this.known.get(hidden(here.key))) !== null;
    const counted = isKnown ? [here] : [here, anywhere, fromThere];
    await this.countTries(counted);
    try {
      const result = await sign();
      await this.known.set(hidden(here.key), 1, 90 * 86_400);
      await this.forget(here.key);
      await this.uncount(counted.filter((count) => count !== here));
      return result;
    } catch (error) {
      if (error instanceof Refusal && error.code === 'wrongPassword') throw error;
      await this.uncount(counted);
      throw error;
    }
  }

  private get known() {
    return this.limiter('known', 1, 90 * 86_400);
  }
  private get wrong() {
    return this.limiter('wrong', 1e6, 86_400);
  }
  private get waits() {
    return this.limiter('waits', 1, 900);
  }

  /** Counts a try everywhere, or nowhere: one that was not made makes no one wait longer. */
  private async countTries(counts: readonly Count[]): Promise<void> {
    for (const [k, count] of counts.entries()) {
      try {
        await this.countTry(count);
      } catch (error) {
        await this.uncount(counts.slice(0, k + 1));
        throw error;
      }
    }
  }

  private async countTry({ key, free, longest }: Count): Promise<void> {
    const { consumedPoints: tries } = await this.wrong.penalty(hidden(key));
    if (tries <= free) return;
    const customDuration = Math.min(longest, 2 ** (tries - free));
    await refusing(this.waits.consume(hidden(key), 1, { customDuration }));
  }

  private async uncount(counted: readonly Count[]): Promise<void> {
    await Promise.all(counted.map(({ key }) => this.wrong.reward(hidden(key))));
  }

  private async forget(key: string): Promise<void> {
    await Promise.all([this.wrong.delete(hidden(key)), this.waits.delete(hidden(key))]);
  }

  private limiter(name: string, points: number, duration: number): RateLimiterPostgres {
    const known = this.limiters.get(name);
    if (known) return known;
    const added = new RateLimiterPostgres({
      storeClient: this.pool,
      storeType: 'pool',
      tableName: 'rate_limits',
      tableCreated: true,
      keyPrefix: name,
      points,
      duration,
      // While the database is away, each server counts for itself.
      insuranceLimiter: new RateLimiterMemory({ keyPrefix: name, points, duration }),
    });
    this.limiters.set(name, added);
    return added;
  }
}

interface Count {
  readonly key: string;
  /** Tries before the first wait. */
  readonly free: number;
  /** Longest wait in seconds. */
  readonly longest: number;
}

/** Keys are e-mails and addresses; the table needs to know neither. */
const hidden = (key: string): string => createHash('sha256').update(key).digest('base64url');

async function refusing(counted: Promise<RateLimiterRes>): Promise<void> {
  try {
    await counted;
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused;
    throw new Refusal('tooMany', undefined, { wait: Math.ceil(refused.msBeforeNext / 1000) });
  }
}
