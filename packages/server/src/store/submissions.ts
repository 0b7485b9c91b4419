import {
  type Answer,
  type AnswerSave,
  type AnswerSaved,
  type DrawValues,
  type ExerciseDocument,
  must,
  type Verdict,
} from '@nailset/core';
import { stopsOf } from '@nailset/core/checks';
import { and, asc, desc, eq, inArray, type SQL, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { type Database, prepared, type Transaction } from './database.js';
import { documentOf, documentsOf } from './documents.js';
import { newestVersion } from './exercises.js';
import { graceMilliseconds } from './handIn.js';
import { draws, exercises, overrides, people, savedAnswers, submissions, verdicts, versions } from './schema.js';

type Late = ExerciseDocument['late'];

/** The share of its points that an answer keeps for when it was handed in. */
function shareKept(handedInAt: Date, dueAt: Date | null, late: Late): number {
  const isLate = dueAt !== null && handedInAt.getTime() > dueAt.getTime() + graceMilliseconds;
  return isLate && late ? late.keepPercent / 100 : 1;
}

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
): Promise<void> {
  const text = result && JSON.stringify(result);
  await tx.execute(sql`
    with added as (
      insert into ${verdicts} (submission_id, result, points)
      select ${submissionId}::uuid, ${text}::jsonb, ${result?.points ?? 0}::float8
       where not exists (select from ${verdicts}
                          where submission_id = ${submissionId}::uuid and checked_at >= ${since}::timestamptz)
      returning submission_id)
    select pg_notify(${verdictChannel}, submission_id::text) from added`);
}

/** Channel of PostgreSQL on which the id of a submission is heard when its verdict is there. */
export const verdictChannel = 'nailset_verdict';

/** A submission with what is needed to check it. @throws Refusal `notFound`. */
export async function submissionToCheck(database: Database | Transaction, submissionId: string) {
  const [found] = await submissionRow(database).where(eq(submissions.id, submissionId));
  if (!found) throw new Refusal('notFound');
  return withDocument(database, found);
}

/**
 * The same for who is about to check it: nothing when that is done already since then, `busy` while another check of the
 * person runs. Otherwise none of the person’s begins until the transaction ends.
 */
export async function claimToCheck(tx: Transaction, submissionId: string, since: string) {
  const alone = sql<boolean>`pg_try_advisory_xact_lock(hashtextextended('check ' || ${submissions.personId}, 0))`;
  const done = sql<boolean>`exists (select from ${verdicts} where submission_id = ${submissions.id} and checked_at >= ${since}::timestamptz)`;
  const [found] = await tx
    .select({ ...submissionFields, alone, done })
    .from(submissions)
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .leftJoin(draws, ofSubmission)
    .where(eq(submissions.id, submissionId));
  if (!found || (found.done && found.alone)) return undefined;
  if (!found.alone) return { busy: true as const, personId: found.submission.personId };
  return { busy: false as const, ...(await withDocument(tx, found)) };
}

const submissionFields = { submission: submissions, number: versions.number, values: draws.values };
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
  }: { submission: typeof submissions.$inferSelect; number: number; values: DrawValues | null },
) {
  const document = await documentOf(database, submission.versionId);
  const { systems, series, parameters } = document;
  return {
    submission,
    number,
    document,
    given: { systems, series, parameters },
    part: must(document.parts.find((p) => p.id === submission.partId)),
    values: values ?? {},
    answer: submission.answer,
  };
}

/** One submission as it stands now: its newest verdict and override, and the points that follow from them. */
export interface Standing {
  readonly id: string;
  readonly exerciseId: string;
  readonly personId: string;
  readonly partId: string;
  readonly attempt: number;
  readonly versionId: string;
  readonly version: number;
  readonly handedInAt: Date;
  readonly dueAt: Date | null;
  readonly answer: Answer;
  /** Null where the check ran out of time, or is not done. */
  readonly verdict: Verdict | null;
  readonly checked: boolean;
  readonly override: { points: number; reason: string } | null;
  readonly points: number;
  /** Wants a person: close to a limit, or out of time, and nobody has decided yet. What still waits does not. */
  readonly look: boolean;
}

/** All submissions of an exercise (of one student, if given) as they stand now, oldest first. */
export const standingOf = (database: Database, exerciseId: string, personId?: string): Promise<Standing[]> =>
  standingWhere(
    database,
    and(
      eq(submissions.exerciseId, exerciseId),
      personId === undefined ? undefined : eq(submissions.personId, personId),
    ),
  );

/** The same for all of one student's submissions to a course. */
export function standingIn(database: Database, courseId: string, personId: string): Promise<Standing[]> {
  const own = database.select({ id: exercises.id }).from(exercises).where(eq(exercises.courseId, courseId));
  return standingWhere(database, and(eq(submissions.personId, personId), inArray(submissions.exerciseId, own)));
}

/** One submission of a student as it stands now; undefined for anyone else's. */
export async function standingOfOne(
  database: Database,
  submissionId: string,
  personId: string,
): Promise<Standing | undefined> {
  const rows = await oneStanding(database).execute({ submissionId, personId });
  return (await standingsFrom(database, rows))[0];
}

const oneStanding = prepared((database) =>
  standingRows(
    database,
    and(eq(submissions.id, sql.placeholder('submissionId')), eq(submissions.personId, sql.placeholder('personId'))),
  ).prepare('one_standing'),
);

const standingWhere = async (database: Database, which: SQL | undefined): Promise<Standing[]> =>
  standingsFrom(database, await standingRows(database, which));

/** The newest verdict and decision of each submission are looked up by its index, one by one. */
function standingRows(database: Database, which: SQL | undefined) {
  const verdict = database
    .select({ result: verdicts.result, checkedAt: verdicts.checkedAt })
    .from(verdicts)
    .where(eq(verdicts.submissionId, submissions.id))
    .orderBy(desc(verdicts.checkedAt))
    .limit(1)
    .as('verdict');
  const override = database
    .select({ points: overrides.points, reason: overrides.reason })
    .from(overrides)
    .where(eq(overrides.submissionId, submissions.id))
    .orderBy(desc(overrides.at))
    .limit(1)
    .as('override');
  return database
    .select({
      submission: submissions,
      version: versions.number,
      dueAt: exercises.dueAt,
      result: verdict.result,
      checkedAt: verdict.checkedAt,
      overridePoints: override.points,
      overrideReason: override.reason,
    })
    .from(submissions)
    .innerJoin(exercises, eq(exercises.id, submissions.exerciseId))
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .leftJoinLateral(verdict, sql`true`)
    .leftJoinLateral(override, sql`true`)
    .where(which)
    .orderBy(asc(submissions.handedInAt));
}

type StandingRow = Awaited<ReturnType<typeof standingRows>>[number];

/** What a version says about late answers stands in its document, which is remembered. */
async function standingsFrom(database: Database, rows: readonly StandingRow[]): Promise<Standing[]> {
  const documents = await documentsOf(database, [...new Set(rows.map(({ submission }) => submission.versionId))]);
  return rows.map(({ submission, version, dueAt, result, checkedAt, overridePoints, overrideReason }) => {
    const { late } = must(documents.get(submission.versionId));
    const decided = overridePoints !== null ? { points: overridePoints, reason: must(overrideReason) } : null;
    return {
      id: submission.id,
      exerciseId: submission.exerciseId,
      personId: submission.personId,
      partId: submission.partId,
      attempt: submission.attempt,
      versionId: submission.versionId,
      version,
      handedInAt: submission.handedInAt,
      dueAt,
      answer: submission.answer,
      verdict: result,
      checked: checkedAt !== null,
      override: decided,
      points: decided?.points ?? (result?.points ?? 0) * shareKept(submission.handedInAt, dueAt, late),
      look: decided === null && checkedAt !== null && (result === null || result.items.some((item) => item.close)),
    };
  });
}

/** How much was handed in to each exercise of a course: students, and answers that want a look. */
export async function countsIn(database: Database, courseId: string): Promise<Map<string, HandedCounts>> {
  const { rows } = await database.execute<{ exerciseId: string; students: number; wantingLook: number }>(sql`
    with own as materialized (
      select s.exercise_id, s.person_id, s.id
        from ${submissions} s join ${exercises} e on e.id = s.exercise_id
       where e.course_id = ${courseId}),
    wanting as (
      select own.exercise_id, count(distinct own.id)::int as count
        from own join ${verdicts} v on v.submission_id = own.id and v.close
       where not exists (select from ${verdicts} newer
                          where newer.submission_id = own.id and newer.checked_at > v.checked_at)
         and not exists (select from ${overrides} o where o.submission_id = own.id)
       group by own.exercise_id),
    students as (select exercise_id, count(distinct person_id)::int as count from own group by exercise_id)
    select exercise_id as "exerciseId", students.count as students, coalesce(wanting.count, 0) as "wantingLook"
      from students left join wanting using (exercise_id)`);
  return new Map(rows.map(({ exerciseId, ...counts }) => [exerciseId, counts]));
}

export interface HandedCounts {
  readonly students: number;
  readonly wantingLook: number;
}

/** The submission that counts: most points, the earliest of equals. */
export function bestOf<T extends { points: number }>(standing: readonly T[]): T | undefined {
  return standing.reduce<T | undefined>((best, next) => (best && best.points >= next.points ? best : next), undefined);
}

/** Sets points by a person’s decision; the newest counts. */
export async function addOverride(
  database: Database,
  submissionId: string,
  byPersonId: string,
  { points, reason }: { points: number; reason: string },
): Promise<void> {
  await database.insert(overrides).values({ submissionId, points, reason: reason.trim(), byPersonId });
}

/** Every decision on a submission, oldest first, with who made it. */
export async function overridesOf(database: Database, submissionId: string) {
  const found = await database
    .select({ points: overrides.points, reason: overrides.reason, by: people.name, at: overrides.at })
    .from(overrides)
    .innerJoin(people, eq(people.id, overrides.byPersonId))
    .where(eq(overrides.submissionId, submissionId))
    .orderBy(asc(overrides.at));
  return found.map((entry) => ({ ...entry, at: entry.at.toISOString() }));
}
