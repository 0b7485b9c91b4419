import { isDeepStrictEqual } from 'node:util';
import { type DrawValues, type ExerciseDocument, type HandIn, must, type Part } from '@nailset/core';
import { attemptsOf, isVisible } from '@nailset/core/checks';
import { and, count, desc, eq, isNull, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { type Database, prepared } from './database.js';
import { closesFor, datesOf } from './dates.js';
import { documentOf } from './documents.js';
import { drawFor, type Drawing } from './exercises.js';
import { enqueued } from './jobs.js';
import { hintCostNow } from './learning.js';
import { draws, exercises, returnedTries, submissions, versions } from './schema.js';

/** How long after the due date a hand-in that was already on its way still counts. */
export const graceMilliseconds = 5_000;

/** Reads answers on a thread. */
export interface Reading {
  /** @throws Refusal `refused` with the position, for an answer that cannot be read. */
  read(answered: {
    given: Pick<ExerciseDocument, 'systems' | 'series' | 'parameters'>;
    part: Part;
    values: DrawValues;
    answer: HandIn['answer'];
    trail: HandIn['trail'];
  }): Promise<void>;
}

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
  threads: Drawing & Reading,
  exerciseId: string,
  personId: string,
  sent: HandIn,
): Promise<HandedIn & { version: number; isNew: boolean }> {
  const before = await lookBefore(database, exerciseId, personId, sent);
  if (before.known) return { ...before.known, version: before.version, isNew: false };
  if (before.versionId !== sent.versionId) throw new Refusal('oldVersion');
  const document = await documentOf(database, before.versionId);
  const part = document.parts.find((p) => p.id === sent.partId);
  if (!part) throw new Refusal('notFound');
  if (before.archived) throw new Refusal('putAway');
  const dates = await datesOf(database, exerciseId, personId);
  if (!isVisible(dates, new Date())) throw new Refusal('notYet');
  const closes = closesFor(document, dates);
  if (closes && Date.now() > closes.getTime() + graceMilliseconds) throw new Refusal('pastDue');
  const most = attemptsOf(document, part);
  const version = { id: before.versionId, exerciseId, number: before.version, document };
  const values = before.values ?? (await drawFor(database, threads, version, personId));
  const { systems, series, parameters } = document;
  await threads.read({ given: { systems, series, parameters }, part, values, answer: sent.answer, trail: sent.trail });
  for (let tries = 0; tries < 20; tries++) {
    const added = await addSubmission(database, exerciseId, personId, sent, most);
    if (added) return { ...added, version: before.version, isNew: true };
    const { known: other } = await lookBefore(database, exerciseId, personId, sent);
    if (other) return { ...other, version: before.version, isNew: false };
    if ((await attemptsUsed(database, exerciseId, personId, part.id)) >= most) break;
    // Another hand-in took this number at the same moment; the next one may be free.
  }
  throw new Refusal('attemptsUsed');
}

const before = prepared((database) => {
  const newest = database
    .select({ id: versions.id, number: versions.number })
    .from(versions)
    .where(eq(versions.exerciseId, exercises.id))
    .orderBy(desc(versions.number))
    .limit(1)
    .as('newest');
  return database
    .select({
      archived: exercises.archived,
      versionId: newest.id,
      version: newest.number,
      values: draws.values,
      known: submissions,
    })
    .from(exercises)
    .leftJoinLateral(newest, sql`true`)
    .leftJoin(draws, and(eq(draws.versionId, newest.id), eq(draws.personId, sql.placeholder('personId'))))
    .leftJoin(
      submissions,
      and(
        eq(submissions.exerciseId, exercises.id),
        eq(submissions.personId, sql.placeholder('personId')),
        eq(submissions.partId, sql.placeholder('partId')),
        eq(submissions.key, sql.placeholder('key')),
      ),
    )
    .where(eq(exercises.id, sql.placeholder('exerciseId')))
    .prepare('before_handing_in');
});

/** All that deciding about a hand-in needs, at one look. @throws Refusal `notPublished`, `keyUsed`. */
async function lookBefore(database: Database, exerciseId: string, personId: string, sent: HandIn) {
  const [row] = await before(database).execute({ exerciseId, personId, partId: sent.partId, key: sent.key });
  if (!row?.versionId) throw new Refusal('notPublished');
  const { known, versionId, version, ...rest } = row;
  return { ...rest, versionId, version: must(version), known: known && sameAnswer(known, sent) };
}

/** @throws Refusal `keyUsed` for a key that came with another answer. */
function sameAnswer({ id, attempt, handedInAt, answer }: typeof submissions.$inferSelect, sent: HandIn): HandedIn {
  if (!isDeepStrictEqual(answer, sent.answer)) throw new Refusal('keyUsed');
  return { id, attempt, handedInAt };
}

const ownTo = (exerciseId: string, personId: string, partId: string) =>
  and(eq(submissions.personId, personId), eq(submissions.exerciseId, exerciseId), eq(submissions.partId, partId));

async function attemptsUsed(database: Database, exerciseId: string, personId: string, partId: string): Promise<number> {
  const [used] = await database
    .select({ count: count() })
    .from(submissions)
    .leftJoin(returnedTries, eq(returnedTries.submissionId, submissions.id))
    .where(and(ownTo(exerciseId, personId, partId), isNull(returnedTries.submissionId)));
  return must(used).count;
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
      insert into ${submissions} (exercise_id, version_id, person_id, part_id, attempt, key, answer, trail, hint_cost)
      select ${exerciseId}::uuid, ${versionId}::uuid, ${personId}::uuid, ${partId}, used.last + 1, ${key},
             ${JSON.stringify(answer)}::jsonb, ${JSON.stringify(trail)}::jsonb,
             ${hintCostNow(exerciseId, personId, partId)}
        from (select count(*) filter (where r.submission_id is null)::int as count,
                     coalesce(max(attempt), 0) as last
                from ${submissions} s left join ${returnedTries} r on r.submission_id = s.id
               where exercise_id = ${exerciseId}::uuid and person_id = ${personId}::uuid and part_id = ${partId}) used
       where used.count < ${most}::int
      on conflict do nothing
      returning id, attempt, handed_in_at)
    select added.id, added.attempt, added.handed_in_at as at, enqueued.id as job
      from added, ${enqueued(sql`added.id`, sql`added.handed_in_at`, sql`${personId}`)} as enqueued`);
  const [added] = rows;
  return added && { id: added.id, attempt: added.attempt, handedInAt: new Date(added.at) };
}
