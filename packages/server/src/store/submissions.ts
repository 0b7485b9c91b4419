import { isDeepStrictEqual } from 'node:util';
import { and, asc, count, desc, eq, notExists, sql } from 'drizzle-orm';
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
export async function standingOf(database: Database, exerciseId: string, personId?: string): Promise<Standing[]> {
  const verdict = database
    .selectDistinctOn([verdicts.submissionId], { submissionId: verdicts.submissionId, result: verdicts.result })
    .from(verdicts)
    .orderBy(verdicts.submissionId, desc(verdicts.checkedAt))
    .as('verdict');
  const override = database
    .selectDistinctOn([overrides.submissionId], {
      submissionId: overrides.submissionId,
      points: overrides.points,
      reason: overrides.reason,
    })
    .from(overrides)
    .orderBy(overrides.submissionId, desc(overrides.at))
    .as('override');
  const rows = await database
    .select({
      submission: submissions,
      version: versions.number,
      late: sql<Late>`${versions.document} -> 'late'`,
      dueAt: exercises.dueAt,
      result: verdict.result,
      overridePoints: override.points,
      overrideReason: override.reason,
    })
    .from(submissions)
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .innerJoin(exercises, eq(exercises.id, submissions.exerciseId))
    .leftJoin(verdict, eq(verdict.submissionId, submissions.id))
    .leftJoin(override, eq(override.submissionId, submissions.id))
    .where(
      and(
        eq(submissions.exerciseId, exerciseId),
        personId === undefined ? undefined : eq(submissions.personId, personId),
      ),
    )
    .orderBy(asc(submissions.handedInAt));
  return rows.map(({ submission, version, late, dueAt, result, overridePoints, overrideReason }) => {
    const decided = overridePoints !== null ? { points: overridePoints, reason: overrideReason! } : null;
    return {
      id: submission.id,
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
