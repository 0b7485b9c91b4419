import { isDeepStrictEqual } from 'node:util';
import { and, asc, count, eq } from 'drizzle-orm';
import { type Shelf, pointsOf, sumOfShares } from '@nailset/core';
import type { Database } from './database.js';
import { newestVersions } from './exercises.js';
import { courses, exercises, memberships } from './schema.js';
import { countsIn } from './submissions.js';

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
  const [found, versions, counts] = await Promise.all([
    exercisesOf(database, courseId, true),
    newestVersions(database, courseId),
    countsIn(database, courseId),
  ]);
  const rows = found.map((exercise) => {
    const version = versions.get(exercise.id);
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
      handedIn: counts.get(exercise.id)?.students ?? 0,
      archived: exercise.archived,
      wantingLook: counts.get(exercise.id)?.wantingLook ?? 0,
    };
  });
  return { course: course!.name, joinCode: course!.joinCode, exercises: rows };
}

/** Exercises that students can see, with their newest version. */
export async function publishedExercises(database: Database, courseId: string) {
  const [found, versions] = await Promise.all([exercisesOf(database, courseId), newestVersions(database, courseId)]);
  return found.flatMap((exercise) => {
    const version = versions.get(exercise.id);
    return version ? [{ exercise, version }] : [];
  });
}
