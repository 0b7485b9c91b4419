import type { FastifyBaseLogger } from 'fastify';
import type { Settings } from '../settings.js';
import { connect } from '../store/database.js';
import { CheckQueue } from './queue.js';
import type { Threads } from './threads.js';

/** The queue with connections of its own, so that a rush of requests does not keep checks waiting, nor the reverse. */
export function openQueue(settings: Settings, threads: Threads, log: FastifyBaseLogger): CheckQueue {
  const { pool, database } = connect(
    settings.databaseUrl,
    (error) => log.warn({ err: error }, 'a database connection of the queue was lost'),
    // For each check its transaction and its job; one that listens, one that says who is alive.
    2 * settings.checks + 2,
  );
  return new CheckQueue(database, pool, threads, settings.checks, log);
}
