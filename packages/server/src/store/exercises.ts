import { isDeepStrictEqual } from 'node:util';
import { type DrawValues, type ExerciseDocument, must, type Version } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';
import { and, count, desc, eq, gte, lt, lte, max } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import type { Database, Transaction } from './database.js';
import { documentOf, documentsOf } from './documents.js';
import { courses, draws, exercises, people, submissions, versions } from './schema.js';

export async function addExercise(
  database: Database,
  courseId: string,
  document: ExerciseDocument,
  id?: string,
): Promise<string> {
  const [added] = await database
    .insert(exercises)
    .values({ ...(id ? { id } : {}), courseId, draft: document })
    .returning({ id: exercises.id });
  return must(added).id;
}

const versionFacts = { id: versions.id, exerciseId: versions.exerciseId, number: versions.number };

/** The newest published version. @throws Refusal `notPublished`. */
export async function newestVersion(database: Database | Transaction, exerciseId: string) {
  const [row] = await database
    .select(versionFacts)
    .from(versions)
    .where(eq(versions.exerciseId, exerciseId))
    .orderBy(desc(versions.number))
    .limit(1);
  if (!row) throw new Refusal('notPublished');
  return { ...row, document: await documentOf(database, row.id) };
}

/** The newest published version of every exercise of a course that has one, by exercise. */
export async function newestVersions(database: Database, courseId: string) {
  const rows = await database
    .selectDistinctOn([versions.exerciseId], versionFacts)
    .from(versions)
    .innerJoin(exercises, eq(exercises.id, versions.exerciseId))
    .where(eq(exercises.courseId, courseId))
    .orderBy(versions.exerciseId, desc(versions.number));
  const documents = await documentsOf(
    database,
    rows.map(({ id }) => id),
  );
  return new Map(
    rows.map((version) => [version.exerciseId, { ...version, document: must(documents.get(version.id)) }]),
  );
}

/** Where an exercise belongs and when it is due, without its documents. */
export async function factsOf(database: Database, exerciseId: string) {
  const [row] = await database
    .select({
      courseId: exercises.courseId,
      course: courses.name,
      dueAt: exercises.dueAt,
      archived: exercises.archived,
    })
    .from(exercises)
    .innerJoin(courses, eq(courses.id, exercises.courseId))
    .where(eq(exercises.id, exerciseId));
  return must(row);
}

/** Every published version, newest first, with who published it and how much was handed in to it. */
export async function versionsOf(database: Database, exerciseId: string): Promise<Version[]> {
  const rows = await database
    .select({
      number: versions.number,
      publishedAt: versions.publishedAt,
      by: people.name,
      submissions: count(submissions.id),
    })
    .from(versions)
    .innerJoin(people, eq(people.id, versions.publishedBy))
    .leftJoin(submissions, eq(submissions.versionId, versions.id))
    .where(eq(versions.exerciseId, exerciseId))
    .groupBy(versions.id, people.name)
    .orderBy(desc(versions.number));
  return rows.map((version) => ({ ...version, publishedAt: version.publishedAt.toISOString() }));
}

/** The document of one published version. @throws Refusal `notFound`. */
export async function versionDocument(
  database: Database,
  exerciseId: string,
  number: number,
): Promise<ExerciseDocument> {
  const [row] = await database
    .select({ document: versions.document })
    .from(versions)
    .where(and(eq(versions.exerciseId, exerciseId), eq(versions.number, number)));
  if (!row) throw new Refusal('notFound');
  return row.document;
}

/** An exercise with its draft, what is published of it and how much was handed in. */
export async function draftOf(database: Database, exerciseId: string) {
  const [row] = await database
    .select({ exercise: exercises, course: courses.name })
    .from(exercises)
    .innerJoin(courses, eq(courses.id, exercises.courseId))
    .where(eq(exercises.id, exerciseId));
  const { exercise, course } = must(row);
  const version = await newestVersion(database, exerciseId).catch(() => undefined);
  const [handedIn] = await database
    .select({ count: count() })
    .from(submissions)
    .where(eq(submissions.exerciseId, exerciseId));
  return {
    id: exercise.id,
    courseId: exercise.courseId,
    course,
    document: exercise.draft,
    revision: exercise.revision,
    savedAt: exercise.savedAt.toISOString(),
    version: version?.number ?? null,
    changed: !isDeepStrictEqual(version?.document, exercise.draft),
    visibleFrom: exercise.visibleFrom?.toISOString() ?? null,
    dueAt: exercise.dueAt?.toISOString() ?? null,
    submissions: must(handedIn).count,
    archived: exercise.archived,
  };
}

/** Saves the draft over the revision it was made from. @throws Refusal `changedElsewhere`. */
export async function saveDraft(database: Database, exerciseId: string, revision: number, document: ExerciseDocument) {
  const [saved] = await database
    .update(exercises)
    .set({ draft: document, revision: revision + 1, savedAt: new Date() })
    .where(and(eq(exercises.id, exerciseId), eq(exercises.revision, revision)))
    .returning({ revision: exercises.revision, savedAt: exercises.savedAt });
  if (!saved) throw new Refusal('changedElsewhere');
  return { revision: saved.revision, savedAt: saved.savedAt.toISOString() };
}

/**
 * Publishes the draft as the next version, if `examine` finds nothing against the draft of that revision. Examining
 * takes long, so nothing is locked meanwhile; what was changed or published in the meantime is refused.
 * @throws Refusal `changedElsewhere`, or `notReady` with every finding.
 */
export async function publishDraft(
  database: Database,
  exerciseId: string,
  { revision, newNumbers = false }: { revision: number; newNumbers?: boolean | undefined },
  personId: string,
  examine: (document: ExerciseDocument) => Finding[] | Promise<Finding[]>,
): Promise<number> {
  const draftNow = async (tx: Database | Transaction) => {
    const [exercise] = await tx
      .select({ draft: exercises.draft, revision: exercises.revision })
      .from(exercises)
      .where(eq(exercises.id, exerciseId));
    if (must(exercise).revision !== revision) throw new Refusal('changedElsewhere');
    return must(exercise).draft;
  };
  const findings = await examine(await draftNow(database));
  if (findings.length > 0) throw new Refusal('notReady', must(findings[0]).message, { findings });
  return database.transaction(async (tx) => {
    // Two who publish at once take turns.
    await tx.select({ id: exercises.id }).from(exercises).where(eq(exercises.id, exerciseId)).for('update');
    const draft = await draftNow(tx);
    const [last] = await tx
      .select({ number: max(versions.number) })
      .from(versions)
      .where(eq(versions.exerciseId, exerciseId));
    const number = (last?.number ?? 0) + 1;
    await tx.insert(versions).values({ exerciseId, number, document: draft, newNumbers, publishedBy: personId });
    return number;
  });
}

export async function changeExercise(
  database: Database | Transaction,
  exerciseId: string,
  change: { visibleFrom?: Date | null; dueAt?: Date | null; archived?: boolean },
): Promise<void> {
  if (Object.keys(change).length > 0) {
    await database.update(exercises).set(change).where(eq(exercises.id, exerciseId));
  }
}

/** Draws numbers on a thread: those seen before, where the document allows them, or new ones from the seed. */
export interface Drawing {
  draw(input: { document: ExerciseDocument; before?: DrawValues; seed: string }): Promise<DrawValues>;
}

/**
 * A student's numbers for a version: drawn once from exercise and student, then kept. Later versions keep the numbers
 * that a student has seen, unless they were published with new numbers for everyone or rule these out.
 */
export async function drawFor(
  database: Database | Transaction,
  threads: Drawing,
  version: { id: string; exerciseId: string; number: number; document: ExerciseDocument },
  personId: string,
): Promise<DrawValues> {
  const where = and(eq(draws.versionId, version.id), eq(draws.personId, personId));
  const [known] = await database.select({ values: draws.values }).from(draws).where(where);
  if (known) return known.values;
  const anew = await drawnAnewAt(database, version);
  const [before] = await database
    .select({ values: draws.values })
    .from(draws)
    .innerJoin(versions, eq(versions.id, draws.versionId))
    .where(
      and(
        eq(draws.personId, personId),
        eq(versions.exerciseId, version.exerciseId),
        gte(versions.number, anew),
        lt(versions.number, version.number),
      ),
    )
    .orderBy(desc(versions.number))
    .limit(1);
  const seed = seedOf(version.exerciseId, personId, anew);
  const { document } = version;
  const values = await threads.draw({ document, seed, ...(before ? { before: before.values } : {}) });
  await database.insert(draws).values({ versionId: version.id, personId, values }).onConflictDoNothing();
  return values;
}

/** What a student's numbers are drawn from. */
export const seedOf = (exerciseId: string, personId: string, anew: number): string =>
  `${exerciseId}\n${personId}${anew > 0 ? `\nversion ${anew}` : ''}`;

/** What someone’s numbers are drawn from under a version. @throws Refusal `notFound`. */
export async function seedUnder(
  database: Database | Transaction,
  versionId: string,
): Promise<(personId: string) => string> {
  const [version] = await database.select(versionFacts).from(versions).where(eq(versions.id, versionId));
  if (!version) throw new Refusal('notFound');
  const anew = await drawnAnewAt(database, version);
  return (personId) => seedOf(version.exerciseId, personId, anew);
}

/** The last version up to this one that was published with new numbers for everyone; 0 for none. */
export async function drawnAnewAt(
  database: Database | Transaction,
  { exerciseId, number }: { exerciseId: string; number: number },
): Promise<number> {
  const [row] = await database
    .select({ number: max(versions.number) })
    .from(versions)
    .where(and(eq(versions.exerciseId, exerciseId), eq(versions.newNumbers, true), lte(versions.number, number)));
  return row?.number ?? 0;
}

/** The numbers of every student who has some, by version and student; none for anyone else. */
export async function drawsOf(
  database: Database,
  exerciseId: string,
): Promise<(versionId: string, personId: string) => DrawValues> {
  const rows = await database
    .select({ versionId: draws.versionId, personId: draws.personId, values: draws.values })
    .from(draws)
    .innerJoin(versions, eq(versions.id, draws.versionId))
    .where(eq(versions.exerciseId, exerciseId));
  const known = new Map(rows.map(({ versionId, personId, values }) => [`${versionId} ${personId}`, values]));
  return (versionId, personId) => known.get(`${versionId} ${personId}`) ?? {};
}
