import { isDeepStrictEqual } from 'node:util';
import { and, count, eq, sql } from 'drizzle-orm';
import { type ExerciseDocument, type HandIn, attemptsOf } from '@nailset/core';
import type { Threads } from '../checks/threads.js';
import { Refusal } from '../errors.js';
import type { Database } from './database.js';
import { drawFor, newestVersion } from './exercises.js';
import { enqueued } from './jobs.js';
import { exercises, submissions } from './schema.js';

/** How long after the due date a hand-in that was already on its way still counts. */
export const graceMilliseconds = 5_000;

/** What was recorded of a hand-in. */
export interface HandedIn {
  readonly id: string;
  readonly attempt: number;
  readonly handedInAt: Date;
}

/**
 * Records what a student hands in and enqueues its check, in one statement. A key names one answer of one person to one
 * part: sent again it returns the first submission, so a retry is one attempt and one check.
 * @throws Refusal `keyUsed` for a key that came with another answer, `putAway`, `oldVersion`, `pastDue`,
 * `attemptsUsed`, `notFound` for an unknown part, `refused` with the position for an answer that cannot be read (it
 * then costs no attempt).
 */
export async function handIn(
  database: Database,
  threads: Pick<Threads, 'draw' | 'read'>,
  exerciseId: string,
  personId: string,
  sent: HandIn,
): Promise<HandedIn & { version: number; isNew: boolean }> {
  const known = await handedInWith(database, exerciseId, personId, sent);
  if (known) return { ...known, version: 0, isNew: false };
  const version = await newestVersion(database, exerciseId);
  if (version.id !== sent.versionId) throw new Refusal('oldVersion');
  const { document } = version;
  const part = document.parts.find((p) => p.id === sent.partId);
  if (!part) throw new Refusal('notFound');
  await refuseClosed(database, exerciseId, document);
  const most = attemptsOf(document, part);
  const values = await drawFor(database, threads, version, personId);
  const { systems, series, parameters } = document;
  await threads.read({ given: { systems, series, parameters }, part, values, answer: sent.answer, trail: sent.trail });
  for (let tries = 0; tries < 20; tries++) {
    const added = await addSubmission(database, exerciseId, personId, sent, most);
    if (added) return { ...added, version: version.number, isNew: true };
    const other = await handedInWith(database, exerciseId, personId, sent);
    if (other) return { ...other, version: version.number, isNew: false };
    if ((await attemptsUsed(database, exerciseId, personId, part.id)) >= most) break;
    // Another hand-in took this number at the same moment; the next one may be free.
  }
  throw new Refusal('attemptsUsed');
}

async function refuseClosed(database: Database, exerciseId: string, { late }: ExerciseDocument): Promise<void> {
  const [exercise] = await database
    .select({ dueAt: exercises.dueAt, archived: exercises.archived })
    .from(exercises)
    .where(eq(exercises.id, exerciseId));
  if (exercise!.archived) throw new Refusal('putAway');
  const closes = closesAt(exercise!.dueAt, late);
  if (closes && Date.now() > closes.getTime() + graceMilliseconds) throw new Refusal('pastDue');
}

/** When an exercise stops taking answers, late ones included; null for never. */
export function closesAt(dueAt: Date | null, late: ExerciseDocument['late']): Date | null {
  return dueAt && new Date(dueAt.getTime() + (late?.hours ?? 0) * 3_600_000);
}

const ownTo = (exerciseId: string, personId: string, partId: string) =>
  and(eq(submissions.personId, personId), eq(submissions.exerciseId, exerciseId), eq(submissions.partId, partId));

/** What was handed in with this key. @throws Refusal `keyUsed` for another answer. */
async function handedInWith(
  database: Database,
  exerciseId: string,
  personId: string,
  { partId, key, answer: sent }: HandIn,
): Promise<HandedIn | undefined> {
  const [found] = await database
    .select()
    .from(submissions)
    .where(and(ownTo(exerciseId, personId, partId), eq(submissions.key, key)));
  if (!found) return undefined;
  const { id, attempt, handedInAt, answer } = found;
  if (!isDeepStrictEqual(answer, sent)) throw new Refusal('keyUsed');
  return { id, attempt, handedInAt };
}

async function attemptsUsed(database: Database, exerciseId: string, personId: string, partId: string): Promise<number> {
  const [used] = await database
    .select({ count: count() })
    .from(submissions)
    .where(ownTo(exerciseId, personId, partId));
  return used!.count;
}

/** Adds the next attempt and its job; undefined when there is none left, or another hand-in was quicker. */
async function addSubmission(
  database: Database,
  exerciseId: string,
  personId: string,
  { versionId, partId, key, answer, trail }: HandIn,
  most: number,
): Promise<HandedIn | undefined> {
  const { rows } = await database.execute<{ id: string; attempt: number; at: string }>(sql`
    with added as (
      insert into ${submissions} (exercise_id, version_id, person_id, part_id, attempt, key, answer, trail)
      select ${exerciseId}::uuid, ${versionId}::uuid, ${personId}::uuid, ${partId}, used.count + 1, ${key},
             ${JSON.stringify(answer)}::jsonb, ${JSON.stringify(trail)}::jsonb
        from (select count(*)::int as count from ${submissions}
               where exercise_id = ${exerciseId}::uuid and person_id = ${personId}::uuid and part_id = ${partId}) used
       where used.count < ${most}::int
      on conflict do nothing
      returning id, attempt, handed_in_at)
    select added.id, added.attempt, added.handed_in_at as at, enqueued.id as job
      from added, ${enqueued(sql`added.id`, sql`added.handed_in_at`, sql`${personId}`)} as enqueued`);
  const [added] = rows;
  return added && { id: added.id, attempt: added.attempt, handedInAt: new Date(added.at) };
}
