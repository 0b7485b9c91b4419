import { type DrawValues, type ExerciseDocument, must, type Publishing } from '@nailset/core';
import { pointsOf } from '@nailset/core/checks';
import { and, countDistinct, desc, eq, gte } from 'drizzle-orm';
import type { Database } from './database.js';
import { drawnAnewAt, newestVersion } from './exercises.js';
import { draws, exercises, memberships, submissions, versions } from './schema.js';

/** What would change for students when the draft is published; nothing before the first version. */
export async function publishingOf(
  database: Database,
  exerciseId: string,
  countRuledOut: (document: ExerciseDocument, seen: DrawValues[]) => Promise<number>,
): Promise<Publishing> {
  const version = await newestVersion(database, exerciseId).catch(() => undefined);
  if (!version) return { seen: 0, ruledOut: 0, parts: [], fixed: [] };
  const [exercise] = await database
    .select({ draft: exercises.draft, courseId: exercises.courseId })
    .from(exercises)
    .where(eq(exercises.id, exerciseId));
  const { draft, courseId } = must(exercise);
  const seen = await database
    .selectDistinctOn([draws.personId], { values: draws.values })
    .from(draws)
    .innerJoin(versions, eq(versions.id, draws.versionId))
    .innerJoin(memberships, and(eq(memberships.personId, draws.personId), eq(memberships.courseId, courseId)))
    .where(
      and(
        eq(versions.exerciseId, exerciseId),
        eq(memberships.role, 'student'),
        gte(versions.number, await drawnAnewAt(database, version)),
      ),
    )
    .orderBy(draws.personId, desc(versions.number));
  const handedIn = await database
    .select({ partId: submissions.partId, students: countDistinct(submissions.personId) })
    .from(submissions)
    .where(eq(submissions.exerciseId, exerciseId))
    .groupBy(submissions.partId);
  const values = seen.map((entry) => entry.values);
  return {
    seen: seen.length,
    ruledOut: values.length === 0 ? 0 : await countRuledOut(draft, values),
    parts: changedParts(version.document, draft).map(({ id, ...change }) => ({
      ...change,
      handedIn: handedIn.find(({ partId }) => partId === id)?.students ?? 0,
    })),
    fixed: changedConstants(version.document, draft),
  };
}

type PartChange = Omit<Publishing['parts'][number], 'handedIn'> & { id: string };

function changedParts(before: ExerciseDocument, after: ExerciseDocument): PartChange[] {
  const removed = before.parts
    .filter(({ id }) => !after.parts.some((part) => part.id === id))
    .map((part) => ({ id: part.id, title: part.title, change: 'removed' as const, before: pointsOf(part), after: 0 }));
  const others = after.parts.flatMap((part): PartChange[] => {
    const old = before.parts.find(({ id }) => id === part.id);
    const { id, title } = part;
    const points = { before: old ? pointsOf(old) : 0, after: pointsOf(part) };
    if (!old) return [{ id, title, change: 'added', ...points }];
    if (old.kind !== part.kind) return [{ id, title, change: 'kind', ...points }];
    return points.before === points.after ? [] : [{ id, title, change: 'points', ...points }];
  });
  return [...removed, ...others];
}

/** Parameters that are fixed before and after, to different values. */
function changedConstants(before: ExerciseDocument, after: ExerciseDocument): Publishing['fixed'] {
  return after.parameters.flatMap(({ symbol, draw }) => {
    const old = before.parameters.find((parameter) => parameter.symbol === symbol)?.draw;
    if (draw.kind !== 'fixed' || old?.kind !== 'fixed' || old.value === draw.value) return [];
    return [{ symbol, before: String(old.value), after: String(draw.value) }];
  });
}
