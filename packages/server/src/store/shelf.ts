import { isDeepStrictEqual } from 'node:util';
import { and, asc, count, countDistinct, eq } from 'drizzle-orm';
import { type Shelf, pointsOf, sumOfShares } from '@nailset/core';
import type { Database } from './database.js';
import { newestVersion } from './exercises.js';
import { courses, exercises, memberships, submissions } from './schema.js';
import { standingOf } from './submissions.js';

/** Exercises of a course, oldest first; archived ones only when asked for. */
function exercisesOf(database: Database, courseId: string, archivedToo = false) {
  return database
    .select()
    .from(exercises)
    .where(and(eq(exercises.courseId, courseId), archivedToo ? undefined : eq(exercises.archived, false)))
    .orderBy(asc(exercises.createdAt));
}

/** The instructor's shelf: every exercise with its state and how much was handed in. */
export async function shelfOf(database: Database, courseId: string): Promise<Shelf> {
  const [course] = await database.select().from(courses).where(eq(courses.id, courseId));
  const [students] = await database
    .select({ count: count() })
    .from(memberships)
    .where(and(eq(memberships.courseId, courseId), eq(memberships.role, 'student')));
  const found = await exercisesOf(database, courseId, true);
  const rows = found.map(async (exercise) => {
    const version = await newestVersion(database, exercise.id).catch(() => undefined);
    const [handedIn] = await database
      .select({ count: countDistinct(submissions.personId) })
      .from(submissions)
      .where(eq(submissions.exerciseId, exercise.id));
    const standing = await standingOf(database, exercise.id);
    const document = version?.document ?? exercise.draft;
    return {
      id: exercise.id,
      title: exercise.draft.title,
      version: version?.number ?? null,
      changed: !isDeepStrictEqual(version?.document, exercise.draft),
      dueAt: exercise.dueAt?.toISOString() ?? null,
      parts: document.parts.length,
      points: sumOfShares(document.parts.map(pointsOf)),
      students: students!.count,
      handedIn: handedIn!.count,
      archived: exercise.archived,
      wantingLook: standing.filter((entry) => entry.look).length,
    };
  });
  return { course: course!.name, joinCode: course!.joinCode, exercises: await Promise.all(rows) };
}

/** Exercises that students can see, with their newest version. */
export async function publishedExercises(database: Database, courseId: string) {
  const found = await exercisesOf(database, courseId);
  const withVersion = found.map(async (exercise) => ({
    exercise,
    version: await newestVersion(database, exercise.id).catch(() => undefined),
  }));
  return (await Promise.all(withVersion)).flatMap(({ exercise, version }) => (version ? [{ exercise, version }] : []));
}
