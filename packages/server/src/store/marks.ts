import {
  courseMark,
  type ExerciseDocument,
  type Marking,
  markingProblem,
  type Marks,
  must,
  plainMarking,
  sumOfShares,
} from '@nailset/core';
import { Disclosure, isVisible, pointsOf } from '@nailset/core/checks';
import { and, eq, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { excused } from './courseSchema.js';
import type { Database, Transaction } from './database.js';
import { closesFor, datesIn, type OwnDates, underDates } from './dates.js';
import { documentsOf } from './documents.js';
import { courseWithPeople } from './people.js';
import { courses, exercises, overrides, submissions, verdicts } from './schema.js';
import { publishedExercises } from './shelf.js';
import { shareKept } from './standing.js';

/** The gradebook: from what was handed in to marks. */

interface Best {
  readonly points: Map<string, number>;
}

/**
 * Everyone’s points and marks in a course; with a student, that student’s own row as far as it is told by now: without
 * exercises that are not visible yet, and without points of verdicts that are kept back.
 */
export async function marksOf(database: Database, courseId: string, onlyPersonId?: string): Promise<Marks> {
  const [{ course, people }, published, [stored], excuses] = await Promise.all([
    courseWithPeople(database, courseId),
    publishedExercises(database, courseId),
    database.select({ marking: courses.marking }).from(courses).where(eq(courses.id, courseId)),
    database
      .select({ exerciseId: excused.exerciseId, personId: excused.personId, reason: excused.reason })
      .from(excused)
      .innerJoin(exercises, eq(exercises.id, excused.exerciseId))
      .where(and(eq(exercises.courseId, courseId), onlyPersonId ? eq(excused.personId, onlyPersonId) : undefined)),
  ]);
  const marking = must(stored).marking ?? plainMarking;
  const ids = published.map(({ exercise }) => exercise.id);
  const dates = await datesIn(database, ids);
  const best = await bestPoints(database, courseId, dates, onlyPersonId);
  const reasons = new Map(excuses.map(({ exerciseId, personId, reason }) => [`${exerciseId} ${personId}`, reason]));
  const seen = published.filter(
    ({ exercise }) => !onlyPersonId || isVisible(dates(exercise.id, onlyPersonId), new Date()),
  );
  const shown = seen.map(({ exercise, version }) => ({
    ...{ id: exercise.id, title: version.document.title, dueAt: exercise.dueAt?.toISOString() ?? null },
    parts: version.document.parts,
    document: version.document,
    outOf: sumOfShares(version.document.parts.map(pointsOf)),
  }));
  const now = Date.now();
  const students = people.filter(({ id, role }) => role === 'student' && (!onlyPersonId || id === onlyPersonId));
  const rows = students.map(({ id, name, email, studentNumber, group }) => {
    const cells = shown.map(({ id: exerciseId, parts, outOf, document }) => {
      const ownDates = dates(exerciseId, id);
      const told = onlyPersonId && !isTold(document, ownDates) ? undefined : best.get(`${exerciseId} ${id}`)?.points;
      const perPart = parts.map((part) => told?.get(part.id) ?? null);
      const handed = perPart.filter((points) => points !== null);
      return {
        exerciseId,
        points: handed.length > 0 ? sumOfShares(handed) : null,
        outOf,
        reason: reasons.get(`${exerciseId} ${id}`) ?? null,
        open: isOpen(document, ownDates, now),
        parts: perPart,
      };
    });
    const mark = courseMark(
      marking,
      cells.map(({ reason, ...cell }) => ({ ...cell, excused: reason !== null })),
    );
    const counting = Object.assign(
      {},
      ...mark.sets.map((set) => set.counting),
    ) as (typeof mark.sets)[number]['counting'];
    return {
      person: { id, name, email, studentNumber, group },
      cells: cells.map(({ exerciseId, reason, ...cell }) => ({
        ...cell,
        excused: reason,
        counting: counting[exerciseId] ?? 'counts',
      })),
      sets: mark.sets.map(({ share }) => share),
      total: mark.total,
    };
  });
  return {
    course,
    marking,
    exercises: shown.map(({ document: _, parts, ...rest }) => ({ ...rest, parts: parts.map(({ title }) => title) })),
    rows,
  };
}

/** Whether a student is told verdicts by now. */
function isTold(document: ExerciseDocument, dates: OwnDates): boolean {
  const dueAt = dates.dueAt === null ? null : new Date(dates.dueAt);
  return new Disclosure(underDates(document, dates), dueAt, new Date()).verdicts !== null;
}

/** Whether nothing is lost yet by not having handed in. */
function isOpen(document: Parameters<typeof closesFor>[0], dates: OwnDates, now: number): boolean {
  if (dates.visibleFrom !== null && new Date(dates.visibleFrom).getTime() > now) return true;
  const closes = closesFor(document, dates);
  return closes !== null && closes.getTime() > now;
}

/** The best points to every part that someone handed in, after late rule and decisions, by exercise and person. */
async function bestPoints(
  database: Database,
  courseId: string,
  dates: (exerciseId: string, personId: string) => OwnDates,
  onlyPersonId: string | undefined,
): Promise<Map<string, Best>> {
  const { rows } = await database.execute<{
    e: string;
    p: string;
    part: string;
    version: string;
    at: string;
    points: number;
    decided: boolean;
  }>(sql`
    select s.exercise_id as e, s.person_id as p, s.part_id as part, coalesce(v.version_id, s.version_id) as version,
           s.handed_in_at as at, coalesce(o.points, greatest(0, v.points - s.hint_cost), 0)::float8 as points, o.points is not null as decided
      from ${submissions} s
      join ${exercises} x on x.id = s.exercise_id and x.course_id = ${courseId} and not x.archived
      left join lateral (select v.points, v.version_id from ${verdicts} v where v.submission_id = s.id
                          order by v.checked_at desc limit 1) v on true
      left join lateral (select o.points from ${overrides} o where o.submission_id = s.id
                          order by o.at desc limit 1) o on true
     where ${onlyPersonId ? sql`s.person_id = ${onlyPersonId}::uuid` : sql`true`}`);
  const documents = await documentsOf(database, [...new Set(rows.map(({ version }) => version))]);
  const best = new Map<string, Best>();
  for (const { e, p, part, version, at, points: raw, decided } of rows) {
    const theirDates = dates(e, p);
    const dueAt = theirDates.dueAt === null ? null : new Date(theirDates.dueAt);
    const late = theirDates.late ?? must(documents.get(version)).late;
    const points = decided ? raw : raw * shareKept(new Date(at), dueAt, late);
    const key = `${e} ${p}`;
    const entry = best.get(key) ?? { points: new Map<string, number>() };
    entry.points.set(part, Math.max(entry.points.get(part) ?? 0, points));
    best.set(key, entry);
  }
  return best;
}

/** Changes how marks are made. @throws Refusal `badRequest` saying what is the matter with it. */
export async function setMarking(tx: Transaction, courseId: string, marking: Marking): Promise<void> {
  const problem = markingProblem(marking);
  if (problem) throw new Refusal('badRequest', problem);
  await tx.update(courses).set({ marking }).where(eq(courses.id, courseId));
}

/** Lets an exercise not count for someone, or count again. */
export async function setExcused(
  tx: Transaction,
  exerciseId: string,
  personId: string,
  reason: string | null,
): Promise<void> {
  if (reason === null) {
    await tx.delete(excused).where(and(eq(excused.exerciseId, exerciseId), eq(excused.personId, personId)));
    return;
  }
  await tx
    .insert(excused)
    .values({ exerciseId, personId, reason })
    .onConflictDoUpdate({ target: [excused.exerciseId, excused.personId], set: { reason } });
}
