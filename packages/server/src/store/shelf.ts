import { isDeepStrictEqual } from 'node:util';
import { must, type Shelf, sumOfShares } from '@nailset/core';
import { pointsOf } from '@nailset/core/checks';
import { and, asc, count, eq, isNull } from 'drizzle-orm';
import { extensions } from './courseSchema.js';
import type { Database } from './database.js';
import { newestVersions } from './exercises.js';
import { courses, exercises, memberships } from './schema.js';
import { countsIn } from './standing.js';

/** The instructor's shelf: every exercise with its state and how much was handed in. */
export async function shelfOf(database: Database, courseId: string): Promise<Shelf> {
  const [course] = await database.select().from(courses).where(eq(courses.id, courseId));
  const [students] = await database
    .select({ count: count() })
    .from(memberships)
    .where(and(eq(memberships.courseId, courseId), eq(memberships.role, 'student'), isNull(memberships.removedAt)));
  const [all, versions, counts, parts] = await Promise.all([
    database.select().from(exercises).where(eq(exercises.courseId, courseId)).orderBy(asc(exercises.createdAt)),
    newestVersions(database, courseId),
    countsIn(database, courseId),
    database
      .select({ exerciseId: extensions.exerciseId, count: count() })
      .from(extensions)
      .innerJoin(exercises, eq(exercises.id, extensions.exerciseId))
      .where(eq(exercises.courseId, courseId))
      .groupBy(extensions.exerciseId),
  ]);
  const extended = new Map(parts.map((row) => [row.exerciseId, row.count]));
  const rows = all.map((exercise) => {
    const version = versions.get(exercise.id);
    const document = version?.document ?? exercise.draft;
    return {
      id: exercise.id,
      title: exercise.draft.title,
      version: version?.number ?? null,
      changed: !isDeepStrictEqual(version?.document, exercise.draft),
      visibleFrom: exercise.visibleFrom?.toISOString() ?? null,
      dueAt: exercise.dueAt?.toISOString() ?? null,
      extensions: extended.get(exercise.id) ?? 0,
      parts: document.parts.length,
      points: sumOfShares(document.parts.map(pointsOf)),
      students: must(students).count,
      handedIn: counts.get(exercise.id)?.students ?? 0,
      archived: exercise.archived,
      wantingLook: counts.get(exercise.id)?.wantingLook ?? 0,
    };
  });
  return { course: must(course).name, joinCode: must(course).joinCode, exercises: rows };
}

/** Exercises that students can see, oldest first, with their newest version. */
export async function publishedExercises(database: Database, courseId: string) {
  const [rows, versions] = await Promise.all([
    database
      .select({ id: exercises.id, dueAt: exercises.dueAt })
      .from(exercises)
      .where(and(eq(exercises.courseId, courseId), eq(exercises.archived, false)))
      .orderBy(asc(exercises.createdAt)),
    newestVersions(database, courseId),
  ]);
  return rows.flatMap((exercise) => {
    const version = versions.get(exercise.id);
    return version ? [{ exercise, version }] : [];
  });
}
