import { isDeepStrictEqual } from 'node:util';
import { type SQL, and, asc, count, desc, eq, inArray, notExists, sql } from 'drizzle-orm';
import {
  type Answer,
  type AnswerSave,
  type AnswerSaved,
  type ExerciseDocument,
  type HandIn,
  Problem,
  type Verdict,
  attemptsOf,
  modelOf,
} from '@nailset/core';
import { readAnswer, readTrail, stopsOf } from '@nailset/core/checks';
import { Refusal, refusalOf } from '../errors.js';
import type { Database } from './database.js';
import { drawFor, newestVersion } from './exercises.js';
import { exercises, overrides, people, savedAnswers, submissions, verdicts, versions } from './schema.js';

/** How long after the due date a hand-in that was already on its way still counts. */
const graceMilliseconds = 5_000;

/**
 * Records what a student hands in. A key names one answer of one person to one part: sent again it returns the first
 * submission, so a retry is one attempt.
 * @throws Refusal `keyUsed` for a key that came with another answer, `putAway`, `oldVersion`, `pastDue`, `attemptsUsed`, `notFound` for an unknown part, `refused` with the position
 * for an answer that cannot be read (it then costs no attempt).
 */
export async function handIn(database: Database, exerciseId: string, personId: string, sent: HandIn): Promise<string> {
  return database.transaction(async (tx) => {
    // One student's hand-ins wait for each other, so that two at once cannot take the same attempt.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${exerciseId} ${personId}`}, 0))`);
    const [known] = await tx
      .select({ id: submissions.id, answer: submissions.answer })
      .from(submissions)
      .where(
        and(
          eq(submissions.personId, personId),
          eq(submissions.exerciseId, exerciseId),
          eq(submissions.partId, sent.partId),
          eq(submissions.key, sent.key),
        ),
      );
    if (known && !isDeepStrictEqual(known.answer, sent.answer)) throw new Refusal('keyUsed');
    if (known) return known.id;

    const version = await newestVersion(tx, exerciseId);
    if (version.id !== sent.versionId) throw new Refusal('oldVersion');
    const part = version.document.parts.find((p) => p.id === sent.partId);
    if (!part) throw new Refusal('notFound');
    const [exercise] = await tx
      .select({ dueAt: exercises.dueAt, archived: exercises.archived })
      .from(exercises)
      .where(eq(exercises.id, exerciseId));
    if (exercise!.archived) throw new Refusal('putAway');
    const closes = closesAt(exercise!.dueAt, version.document.late);
    if (closes && Date.now() > closes.getTime() + graceMilliseconds) throw new Refusal('pastDue');
    const values = await drawFor(tx, version, personId);
    try {
      readAnswer(part, modelOf(version.document, values), sent.answer);
      readTrail(part, sent.trail);
    } catch (error) {
      throw error instanceof Problem ? refusalOf(error) : error;
    }
    const [used] = await tx
      .select({ count: count() })
      .from(submissions)
      .where(
        and(
          eq(submissions.exerciseId, exerciseId),
          eq(submissions.personId, personId),
          eq(submissions.partId, part.id),
        ),
      );
    if (used!.count >= attemptsOf(version.document, part)) throw new Refusal('attemptsUsed');
    const [added] = await tx
      .insert(submissions)
      .values({
        exerciseId,
        versionId: version.id,
        personId,
        partId: part.id,
        attempt: used!.count + 1,
        key: sent.key,
        answer: sent.answer,
        trail: sent.trail,
      })
      .returning({ id: submissions.id });
    return added!.id;
  });
}

type Late = ExerciseDocument['late'];

/** When an exercise stops taking answers, late ones included; null for never. */
export function closesAt(dueAt: Date | null, late: Late): Date | null {
  return dueAt && new Date(dueAt.getTime() + (late?.hours ?? 0) * 3_600_000);
}

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

/** Records a verdict; null when the check ran out of time. */
export async function addVerdict(database: Database, submissionId: string, result: Verdict | null): Promise<void> {
  await database.insert(verdicts).values({ submissionId, result, points: result?.points ?? 0 });
}

/** A submission with what is needed to check it. */
export async function submissionToCheck(database: Database, submissionId: string) {
  const [found] = await database
    .select({ submission: submissions, version: versions })
    .from(submissions)
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .where(eq(submissions.id, submissionId));
  if (!found) throw new Refusal('notFound');
  const values = await drawFor(database, found.version, found.submission.personId);
  const part = found.version.document.parts.find((p) => p.id === found.submission.partId)!;
  return { ...found, part, values };
}

/** Submissions that were acknowledged but not checked, for example because the server was killed in between. */
export async function uncheckedSubmissions(database: Database): Promise<string[]> {
  const found = await database
    .select({ id: submissions.id })
    .from(submissions)
    .where(notExists(database.select().from(verdicts).where(eq(verdicts.submissionId, submissions.id))))
    .orderBy(asc(submissions.handedInAt));
  return found.map(({ id }) => id);
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
  readonly answer: Answer;
  readonly verdict: Verdict | null;
  readonly override: { points: number; reason: string } | null;
  readonly points: number;
  /** Wants a person: close to a limit, or not checked in time, and nobody has decided yet. */
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
    eq(versions.exerciseId, exerciseId),
  );

/** The same for all of one student's submissions to a course. */
export function standingIn(database: Database, courseId: string, personId: string): Promise<Standing[]> {
  const own = database.select({ id: exercises.id }).from(exercises).where(eq(exercises.courseId, courseId));
  return standingWhere(
    database,
    and(eq(submissions.personId, personId), inArray(submissions.exerciseId, own)),
    inArray(versions.exerciseId, own),
  );
}

/**
 * The newest verdict and decision of each submission are looked up by its index, one by one; what a version says about
 * late answers is read once per version, as documents are large.
 */
async function standingWhere(
  database: Database,
  which: SQL | undefined,
  ofVersions: SQL | undefined,
): Promise<Standing[]> {
  const verdict = database
    .select({ result: verdicts.result })
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
  const [rows, lateRules] = await Promise.all([
    database
      .select({
        submission: submissions,
        dueAt: exercises.dueAt,
        result: verdict.result,
        overridePoints: override.points,
        overrideReason: override.reason,
      })
      .from(submissions)
      .innerJoin(exercises, eq(exercises.id, submissions.exerciseId))
      .leftJoinLateral(verdict, sql`true`)
      .leftJoinLateral(override, sql`true`)
      .where(which)
      .orderBy(asc(submissions.handedInAt)),
    database
      .select({ id: versions.id, number: versions.number, late: sql<Late>`${versions.document} -> 'late'` })
      .from(versions)
      .where(ofVersions),
  ]);
  const ofVersion = new Map(lateRules.map((version) => [version.id, version]));
  return rows.map(({ submission, dueAt, result, overridePoints, overrideReason }) => {
    const { number: version, late } = ofVersion.get(submission.versionId)!;
    const decided = overridePoints !== null ? { points: overridePoints, reason: overrideReason! } : null;
    return {
      id: submission.id,
      exerciseId: submission.exerciseId,
      personId: submission.personId,
      partId: submission.partId,
      attempt: submission.attempt,
      versionId: submission.versionId,
      version,
      handedInAt: submission.handedInAt,
      answer: submission.answer,
      verdict: result,
      override: decided,
      points: decided?.points ?? (result?.points ?? 0) * shareKept(submission.handedInAt, dueAt, late ?? null),
      look: decided === null && (result === null || result.items.some((item) => item.close)),
    };
  });
}

/** How much was handed in to each exercise of a course: students, and answers that want a look. */
export async function countsIn(database: Database, courseId: string): Promise<Map<string, HandedCounts>> {
  const { rows } = await database.execute<{ exerciseId: string; students: number; wantingLook: number }>(sql`
    select s.exercise_id as "exerciseId",
           count(distinct s.person_id)::int as students,
           (count(*) filter (where o.points is null and coalesce(v.close, true)))::int as "wantingLook"
      from ${submissions} s
      join ${exercises} e on e.id = s.exercise_id
      left join lateral (select close from ${verdicts} where submission_id = s.id
                          order by checked_at desc limit 1) v on true
      left join lateral (select points from ${overrides} where submission_id = s.id order by at desc limit 1) o on true
     where e.course_id = ${courseId}
     group by s.exercise_id`);
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

/** The course that a submission belongs to; undefined for an unknown id. */
export async function courseOfSubmission(database: Database, submissionId: string): Promise<string | undefined> {
  const [found] = await database
    .select({ courseId: exercises.courseId })
    .from(submissions)
    .innerJoin(exercises, eq(exercises.id, submissions.exerciseId))
    .where(eq(submissions.id, submissionId));
  return found?.courseId;
}
