import { type AnswerSave, type AnswerSaved, type DrawValues, must, type Verdict } from '@nailset/core';
import { stopsOf } from '@nailset/core/checks';
import { and, asc, eq, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import type { Database, Transaction } from './database.js';
import { documentOf } from './documents.js';
import { newestVersion } from './exercises.js';
import { draws, overrides, people, savedAnswers, submissions, verdicts, versions } from './schema.js';

/**
 * Keeps an answer in the making, whichever version it was begun under, if nothing newer is kept: it must have been made
 * from the revision that is there, or come later from the page that saved that one.
 * @throws Refusal `notFound` for an unknown part, `answerChanged`.
 */
export async function saveAnswer(
  database: Database,
  exerciseId: string,
  personId: string,
  partId: string,
  { answer, trail: sent, base, page, count: saves }: AnswerSave,
): Promise<AnswerSaved> {
  const version = await newestVersion(database, exerciseId);
  const part = version.document.parts.find((p) => p.id === partId);
  if (part?.kind !== answer.kind) throw new Refusal('notFound');
  const state = { answer, trail: stopsOf(part, sent), savedAt: new Date(), page, count: saves };
  const [saved] = await database
    .insert(savedAnswers)
    .values({ exerciseId, personId, partId, ...state })
    .onConflictDoUpdate({
      target: [savedAnswers.exerciseId, savedAnswers.personId, savedAnswers.partId],
      set: { ...state, revision: sql`${savedAnswers.revision} + 1` },
      setWhere: sql`${savedAnswers.revision} = ${base} or (${savedAnswers.page} = ${page} and ${savedAnswers.count} < ${saves})`,
    })
    .returning({ savedAt: savedAnswers.savedAt, revision: savedAnswers.revision });
  if (!saved) throw new Refusal('answerChanged');
  return { savedAt: saved.savedAt.toISOString(), revision: saved.revision };
}

export function savedAnswersOf(database: Database, exerciseId: string, personId: string) {
  return database
    .select()
    .from(savedAnswers)
    .where(and(eq(savedAnswers.exerciseId, exerciseId), eq(savedAnswers.personId, personId)));
}

/**
 * Records a verdict, null when the check ran out of time, and tells whoever waits for it. One that is there since then
 * stays the only one.
 */
export async function addVerdict(
  tx: Transaction,
  submissionId: string,
  since: string,
  result: Verdict | null,
  checkedAgainst: string | null = null,
): Promise<void> {
  const text = result && JSON.stringify(result);
  await tx.execute(sql`
    with added as (
      insert into ${verdicts} (submission_id, result, points, version_id, correction_id)
      select ${submissionId}::uuid, ${text}::jsonb, ${result?.points ?? 0}::float8, ${checkedAgainst}::uuid,
             (select v.correction_id from ${verdicts} v
               where v.submission_id = ${submissionId}::uuid and v.version_id is not null
               order by v.checked_at desc limit 1)
       where not exists (select from ${verdicts}
                          where submission_id = ${submissionId}::uuid and checked_at >= ${since}::timestamptz)
      returning submission_id)
    select pg_notify(${verdictChannel}, submission_id::text) from added`);
}

/** Channel of PostgreSQL on which the id of a submission is heard when its verdict is there. */
export const verdictChannel = 'nailset_verdict';

/** A submission with what is needed to check it. @throws Refusal `notFound`. */
export async function submissionToCheck(database: Database | Transaction, submissionId: string) {
  const [row] = await submissionRow(database).where(eq(submissions.id, submissionId));
  if (!row) throw new Refusal('notFound');
  return withDocument(database, row);
}

/**
 * The same for who is about to check it: nothing when that is done already since then, `busy` while another check of the
 * person runs. Otherwise none of the person’s begins until the transaction ends.
 */
export async function claimToCheck(tx: Transaction, submissionId: string, since: string) {
  const alone = sql<boolean>`pg_try_advisory_xact_lock(hashtextextended('check ' || ${submissions.personId}, 0))`;
  const done = sql<boolean>`exists (select from ${verdicts} where submission_id = ${submissions.id} and checked_at >= ${since}::timestamptz)`;
  const [row] = await tx
    .select({ ...submissionFields, alone, done })
    .from(submissions)
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .leftJoin(draws, ofSubmission)
    .where(eq(submissions.id, submissionId));
  if (!row || (row.done && row.alone)) return undefined;
  if (!row.alone) return { busy: true as const, personId: row.submission.personId };
  return { busy: false as const, ...(await withDocument(tx, row)) };
}

/** The version that the newest verdict is about, where a correction changed that; a check again asks about the same. */
const checkedAgainst = sql<string | null>`(select v.version_id from ${verdicts} v
  where v.submission_id = ${submissions.id} order by v.checked_at desc limit 1)`;
const submissionFields = { submission: submissions, number: versions.number, values: draws.values, checkedAgainst };
const ofSubmission = and(eq(draws.versionId, submissions.versionId), eq(draws.personId, submissions.personId));

const submissionRow = (database: Database | Transaction) =>
  database
    .select(submissionFields)
    .from(submissions)
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .leftJoin(draws, ofSubmission)
    .$dynamic();

async function withDocument(
  database: Database | Transaction,
  {
    submission,
    number,
    values,
    checkedAgainst: corrected,
  }: {
    submission: typeof submissions.$inferSelect;
    number: number;
    values: DrawValues | null;
    checkedAgainst: string | null;
  },
) {
  const document = await documentOf(database, corrected ?? submission.versionId);
  const { systems, series, parameters } = document;
  return {
    submission,
    number,
    document,
    given: { systems, series, parameters },
    part: must(document.parts.find((p) => p.id === submission.partId)),
    checkedAgainst: corrected,
    values: values ?? {},
    answer: submission.answer,
  };
}

/** Every decision on a submission, oldest first, with who made it. */
export async function overridesOf(database: Database, submissionId: string) {
  const rows = await database
    .select({ points: overrides.points, reason: overrides.reason, by: people.name, at: overrides.at })
    .from(overrides)
    .innerJoin(people, eq(people.id, overrides.byPersonId))
    .where(eq(overrides.submissionId, submissionId))
    .orderBy(asc(overrides.at));
  return rows.map((entry) => ({ ...entry, at: entry.at.toISOString() }));
}
