import type { LogRow } from '@nailset/core';
import { desc, eq } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { courseLog } from './courseSchema.js';
import type { Database, Transaction } from './database.js';
import { exercises, people } from './schema.js';

/** Something that staff did to marks, dates or people. */
export interface Deed {
  readonly courseId: string;
  readonly byPersonId: string;
  readonly exerciseId?: string | null;
  /** Whom it is about. */
  readonly personId?: string | null;
  /** What was done, without names. */
  readonly words: string;
  readonly reason?: string;
}

/** Rows in one statement; PostgreSQL takes 65 535 parameters. */
const batch = 1000;

/** Records what was done, in the transaction that does it. */
export async function record(tx: Database | Transaction, ...deeds: readonly Deed[]): Promise<void> {
  for (let from = 0; from < deeds.length; from += batch) {
    await tx.insert(courseLog).values(deeds.slice(from, from + batch));
  }
}

/** What was done in a course, the newest first. */
export async function logOf(database: Database, courseId: string, limit: number): Promise<LogRow[]> {
  const about = alias(people, 'about');
  const rows = await database
    .select({
      at: courseLog.at,
      by: people.name,
      words: courseLog.words,
      reason: courseLog.reason,
      draft: exercises.draft,
      exerciseId: courseLog.exerciseId,
      person: about.name,
    })
    .from(courseLog)
    .innerJoin(people, eq(people.id, courseLog.byPersonId))
    .leftJoin(about, eq(about.id, courseLog.personId))
    .leftJoin(exercises, eq(exercises.id, courseLog.exerciseId))
    .where(eq(courseLog.courseId, courseId))
    .orderBy(desc(courseLog.at), desc(courseLog.id))
    .limit(limit);
  return rows.map(({ at, by, words, reason, draft, exerciseId, person }) => ({
    ...{ at: at.toISOString(), by, words, reason, person },
    exercise: exerciseId === null ? null : (draft?.title ?? null),
  }));
}
