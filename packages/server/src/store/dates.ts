import { type ExerciseDocument, type LateRule, must, type NewExtension } from '@nailset/core';
import { closesAt, type Dates, datesFor, type Extension } from '@nailset/core/checks';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { grouped } from '../grouped.js';
import { extensions } from './courseSchema.js';
import type { Database, Transaction } from './database.js';
import { exercises, memberships, people } from './schema.js';

/** The dates of one person for one exercise. */
export type OwnDates = ReturnType<typeof datesFor>;

const iso = (at: Date | null): string | null => at?.toISOString() ?? null;

const asExtension = (row: typeof extensions.$inferSelect): Extension => ({
  personId: row.personId,
  group: row.group,
  visibleFrom: iso(row.visibleFrom),
  dueAt: iso(row.dueAt),
  late: row.late,
  reason: row.reason,
});

/** The dates of anyone for any of these exercises, of one course. */
export async function datesIn(
  database: Database | Transaction,
  exerciseIds: readonly string[],
): Promise<(exerciseId: string, personId: string) => OwnDates> {
  if (exerciseIds.length === 0) return () => datesFor(noDates, [], { personId: '', group: '' });
  const [facts, rows] = await Promise.all([
    database
      .select({
        id: exercises.id,
        courseId: exercises.courseId,
        visibleFrom: exercises.visibleFrom,
        dueAt: exercises.dueAt,
      })
      .from(exercises)
      .where(inArray(exercises.id, [...exerciseIds])),
    database
      .select()
      .from(extensions)
      .where(inArray(extensions.exerciseId, [...exerciseIds])),
  ]);
  const everyone = new Map(
    facts.map(({ id, visibleFrom, dueAt }) => [id, { visibleFrom: iso(visibleFrom), dueAt: iso(dueAt), late: null }]),
  );
  const byExercise = grouped(rows, ({ exerciseId }) => exerciseId);
  const groups = rows.some(({ group }) => group !== null)
    ? await groupsIn(database, [...new Set(facts.map(({ courseId }) => courseId))])
    : new Map<string, string>();
  return (exerciseId, personId) =>
    datesFor(must(everyone.get(exerciseId)), (byExercise.get(exerciseId) ?? []).map(asExtension), {
      personId,
      group: groups.get(personId) ?? '',
    });
}

const noDates: Dates = { visibleFrom: null, dueAt: null, late: null };

async function groupsIn(database: Database | Transaction, courseIds: string[]): Promise<Map<string, string>> {
  const rows = await database
    .select({ personId: memberships.personId, group: memberships.group })
    .from(memberships)
    .where(inArray(memberships.courseId, courseIds));
  return new Map(rows.map(({ personId, group }) => [personId, group]));
}

/** The dates of one person for one exercise. */
export async function datesOf(
  database: Database | Transaction,
  exerciseId: string,
  personId: string,
): Promise<OwnDates> {
  return (await datesIn(database, [exerciseId]))(exerciseId, personId);
}

/** A document with the late rule that holds for someone. */
export const underDates = <T extends { late: LateRule | null }>(document: T, { late }: Pick<Dates, 'late'>): T =>
  late ? { ...document, late } : document;

/** When an exercise stops taking someone’s answers, late ones included; null for never. */
export const closesFor = (document: Pick<ExerciseDocument, 'late'>, dates: OwnDates): Date | null =>
  closesAt(underDates(document, dates), dates.dueAt === null ? null : new Date(dates.dueAt));

/** An exercise’s dates for everyone, with those of some. */
export async function exerciseDates(database: Database, exerciseId: string) {
  const [row] = await database
    .select({ visibleFrom: exercises.visibleFrom, dueAt: exercises.dueAt })
    .from(exercises)
    .where(eq(exercises.id, exerciseId));
  const rows = await database
    .select({ extension: extensions, by: people.name })
    .from(extensions)
    .innerJoin(people, eq(people.id, extensions.byPersonId))
    .where(eq(extensions.exerciseId, exerciseId))
    .orderBy(asc(extensions.at));
  return {
    visibleFrom: iso(must(row).visibleFrom),
    dueAt: iso(must(row).dueAt),
    late: null,
    extensions: rows.map(({ extension, by }) => ({
      id: extension.id,
      ...asExtension(extension),
      by,
      at: extension.at.toISOString(),
    })),
  };
}

/**
 * Gives people and groups dates of their own; earlier ones of theirs are replaced.
 * @throws Refusal `badRequest` for nobody, no date, or someone outside the course.
 */
export async function addExtensions(
  tx: Transaction,
  { exerciseId, courseId, byPersonId }: { exerciseId: string; courseId: string; byPersonId: string },
  { personIds, groups, visibleFrom, dueAt, late, reason }: NewExtension,
): Promise<void> {
  if (personIds.length + groups.length === 0) throw new Refusal('badRequest', 'Say whom these dates are for.');
  if (!visibleFrom && !dueAt && !late) throw new Refusal('badRequest', 'Say which date is another one.');
  await refuseStrangers(tx, courseId, personIds);
  const whose = [
    ...personIds.map((personId) => ({ personId, group: null })),
    ...groups.map((group) => ({ personId: null, group: group.trim() })),
  ];
  const { exerciseId: ofExercise, personId: ofPerson, group: ofGroup } = extensions;
  if (personIds.length > 0)
    await tx.delete(extensions).where(and(eq(ofExercise, exerciseId), inArray(ofPerson, personIds)));
  if (groups.length > 0) await tx.delete(extensions).where(and(eq(ofExercise, exerciseId), inArray(ofGroup, groups)));
  await tx.insert(extensions).values(
    whose.map((each) => ({
      ...each,
      ...{ exerciseId, byPersonId, late, reason: reason.trim() },
      visibleFrom: visibleFrom ? new Date(visibleFrom) : null,
      dueAt: dueAt ? new Date(dueAt) : null,
    })),
  );
}

/** @throws Refusal `badRequest` where one of them is not in the course. */
export async function refuseStrangers(tx: Transaction, courseId: string, personIds: readonly string[]): Promise<void> {
  if (personIds.length === 0) return;
  const rows = await tx
    .select({ id: memberships.personId })
    .from(memberships)
    .where(
      and(
        eq(memberships.courseId, courseId),
        inArray(memberships.personId, [...personIds]),
        isNull(memberships.removedAt),
      ),
    );
  if (rows.length < new Set(personIds).size) {
    throw new Refusal('badRequest', 'Someone of these is not in the course any more. Reload and choose again.');
  }
}

/** Takes dates of some away again; returns whose they were. @throws Refusal `notFound`. */
export async function removeExtension(tx: Transaction, exerciseId: string, extensionId: string) {
  const [gone] = await tx
    .delete(extensions)
    .where(and(eq(extensions.exerciseId, exerciseId), eq(extensions.id, extensionId)))
    .returning({ personId: extensions.personId, group: extensions.group });
  if (!gone) throw new Refusal('notFound');
  return gone;
}
