import { type Answer, type CorrectedBy, type LateRule, must, type Verdict } from '@nailset/core';
import { and, asc, desc, eq, inArray, type SQL, sql } from 'drizzle-orm';
import { looks } from './courseSchema.js';
import { type Database, prepared } from './database.js';
import { datesIn } from './dates.js';
import { documentsOf } from './documents.js';
import { graceMilliseconds } from './handIn.js';
import { corrections, exercises, overrides, returnedTries, submissions, verdicts, versions } from './schema.js';

/** How what was handed in stands by now: its verdict, what people decided, and the points that follow. */

/** The share of its points that an answer keeps for when it was handed in. */
export function shareKept(handedInAt: Date, dueAt: Date | null, late: LateRule | null): number {
  const isLate = dueAt !== null && handedInAt.getTime() > dueAt.getTime() + graceMilliseconds;
  return isLate && late ? late.keepPercent / 100 : 1;
}

/** One submission as it stands now: its newest verdict and override, and the points that follow from them. */
export interface Standing {
  readonly id: string;
  readonly exerciseId: string;
  readonly personId: string;
  readonly partId: string;
  readonly attempt: number;
  /** The version it was handed in to, with whose numbers it was given. */
  readonly versionId: string;
  readonly version: number;
  /** The version that its verdict is about: the same, unless it was corrected. */
  readonly checkedAgainst: string;
  readonly handedInAt: Date;
  readonly dueAt: Date | null;
  readonly answer: Answer;
  /** Null where the check ran out of time, or is not done. */
  readonly verdict: Verdict | null;
  readonly checked: boolean;
  readonly override: { points: number; reason: string } | null;
  readonly points: number;
  /** Points that hints took from it. */
  readonly hintCost: number;
  /** The correction that its verdict comes from. */
  readonly corrected: CorrectedBy | null;
  /** Why a person should look: close to a limit, or out of time. What still waits does not. */
  readonly review: readonly string[];
  /** Someone has looked, or decided, since. */
  readonly looked: boolean;
  /** This try does not count as used. */
  readonly returned: boolean;
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
  const ofCourse = database.select({ id: exercises.id }).from(exercises).where(eq(exercises.courseId, courseId));
  return standingWhere(database, and(eq(submissions.personId, personId), inArray(submissions.exerciseId, ofCourse)));
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
    .select({
      result: verdicts.result,
      checkedAt: verdicts.checkedAt,
      versionId: verdicts.versionId,
      correctionId: verdicts.correctionId,
    })
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
      result: verdict.result,
      checkedAt: verdict.checkedAt,
      checkedAgainst: verdict.versionId,
      correctionId: verdict.correctionId,
      looked: sql<boolean>`exists (select from ${looks} where ${looks.submissionId} = ${submissions.id} and ${looks.at} >= ${verdict.checkedAt})`,
      returned: sql<boolean>`exists (select from ${returnedTries} where ${returnedTries.submissionId} = ${submissions.id})`,
      overridePoints: override.points,
      overrideReason: override.reason,
    })
    .from(submissions)
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .leftJoinLateral(verdict, sql`true`)
    .leftJoinLateral(override, sql`true`)
    .where(which)
    .orderBy(asc(submissions.handedInAt));
}

type StandingRow = Awaited<ReturnType<typeof standingRows>>[number];

/** What a version says about late answers stands in its document, which is remembered. */
async function standingsFrom(database: Database, rows: readonly StandingRow[]): Promise<Standing[]> {
  const distinct = (ids: readonly (string | null)[]) => [...new Set(ids.filter((id) => id !== null))];
  const [documents, corrected, dates] = await Promise.all([
    documentsOf(database, distinct(rows.map((row) => row.checkedAgainst ?? row.submission.versionId))),
    correctionsBy(database, distinct(rows.map(({ correctionId }) => correctionId))),
    datesIn(database, distinct(rows.map(({ submission }) => submission.exerciseId))),
  ]);
  return rows.map(({ submission, version, result, checkedAt, overridePoints, overrideReason, ...row }) => {
    const { exerciseId, personId, handedInAt, versionId } = submission;
    const checkedAgainst = row.checkedAgainst ?? versionId;
    const theirDates = dates(exerciseId, personId);
    const late = theirDates.late ?? must(documents.get(checkedAgainst)).late;
    const dueAt = theirDates.dueAt === null ? null : new Date(theirDates.dueAt);
    const decided = overridePoints !== null ? { points: overridePoints, reason: must(overrideReason) } : null;
    return {
      ...{ id: submission.id, exerciseId, personId, partId: submission.partId, attempt: submission.attempt },
      ...{ versionId, version, checkedAgainst, handedInAt, dueAt, answer: submission.answer },
      verdict: result,
      checked: checkedAt !== null,
      override: decided,
      points:
        decided?.points ??
        Math.max(0, (result?.points ?? 0) - submission.hintCost) * shareKept(handedInAt, dueAt, late),
      hintCost: submission.hintCost,
      corrected: row.correctionId === null ? null : (corrected.get(row.correctionId) ?? null),
      review: checkedAt === null ? [] : reviewOf(result),
      looked: decided !== null || row.looked,
      returned: row.returned,
    };
  });
}

/** Why a person should look at a verdict; `null` for a check that ran out of time. */
function reviewOf(result: Verdict | null): string[] {
  if (result === null) return ['The check was stopped: it took too long.'];
  return result.items.filter(({ close }) => close).map(({ label }) => `${label}: within 1 % of the limit.`);
}

async function correctionsBy(database: Database, ids: readonly string[]): Promise<Map<string, CorrectedBy>> {
  if (ids.length === 0) return new Map();
  const rows = await database
    .select({
      id: corrections.id,
      version: versions.number,
      reason: corrections.reason,
      at: sql<Date>`coalesce(${corrections.appliedAt}, ${corrections.at})`.mapWith(corrections.at),
    })
    .from(corrections)
    .innerJoin(versions, eq(versions.id, corrections.versionId))
    .where(inArray(corrections.id, [...ids]));
  return new Map(rows.map(({ id, version, reason, at }) => [id, { version, reason, at: at.toISOString() }]));
}

/** Whether an answer wants a person who has not looked yet. */
export const wantsLook = ({ review, looked }: Pick<Standing, 'review' | 'looked'>): boolean =>
  review.length > 0 && !looked;

/** How much was handed in to each exercise of a course: students, and answers that want a look. */
export async function countsIn(database: Database, courseId: string): Promise<Map<string, HandedCounts>> {
  const { rows } = await database.execute<{ exerciseId: string; students: number; wantingLook: number }>(sql`
    with wanting as (
      select s.exercise_id, count(distinct s.id)::int as count
        from ${exercises} e
        join ${submissions} s on s.exercise_id = e.id
        join ${verdicts} v on v.submission_id = s.id and v.close
       where e.course_id = ${courseId}
         and not exists (select from ${verdicts} newer
                          where newer.submission_id = s.id and newer.checked_at > v.checked_at)
         and not exists (select from ${overrides} o where o.submission_id = s.id)
         and not exists (select from ${looks} l where l.submission_id = s.id and l.at >= v.checked_at)
       group by s.exercise_id)
    select e.id as "exerciseId", coalesce(wanting.count, 0) as "wantingLook",
           (select count(*)::int from (select distinct person_id from ${submissions} s
                                        where s.exercise_id = e.id) someone) as students
      from ${exercises} e left join wanting on wanting.exercise_id = e.id
     where e.course_id = ${courseId}`);
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
