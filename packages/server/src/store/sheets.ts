import { type BenchSheetRow, type KeptSheet, type Sheet } from '@nailset/core';
import { and, count, desc, eq, isNull, or, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { sheets } from './courseSchema.js';
import type { Database } from './database.js';
import { courses, memberships, people } from './schema.js';

/** How many a person keeps. */
const most = 200;
const mostShared = 100;

const columns = (personId: string) => ({
  id: sheets.id,
  title: sql<string>`${sheets.sheet} ->> 'title'`,
  savedAt: sheets.savedAt,
  courseId: sheets.courseId,
  course: courses.name,
  by: people.name,
  mine: sql<boolean>`${sheets.personId} = ${personId}`,
});

const rowOf = <Row extends { savedAt: Date }>(row: Row) => ({ ...row, savedAt: row.savedAt.toISOString() });

/** A person's own sheets, and those shared with their courses; the newest first. */
export async function sheetsFor(database: Database, personId: string): Promise<BenchSheetRow[]> {
  const rows = await database
    .select(columns(personId))
    .from(sheets)
    .innerJoin(people, eq(people.id, sheets.personId))
    .leftJoin(courses, eq(courses.id, sheets.courseId))
    .where(eq(sheets.personId, personId))
    .orderBy(desc(sheets.savedAt))
    .limit(most);
  const shared = await database
    .select(columns(personId))
    .from(memberships)
    .innerJoin(sheets, eq(sheets.courseId, memberships.courseId))
    .innerJoin(people, eq(people.id, sheets.personId))
    .innerJoin(courses, eq(courses.id, sheets.courseId))
    .where(
      and(eq(memberships.personId, personId), isNull(memberships.removedAt), sql`${sheets.personId} <> ${personId}`),
    )
    .orderBy(desc(sheets.savedAt))
    .limit(mostShared);
  return [...rows, ...shared].map(rowOf);
}

/** One that is a person's own, or shared with a course of theirs. @throws Refusal `notFound`. */
export async function sheetFor(database: Database, personId: string, id: string): Promise<KeptSheet> {
  const isShared = sql`exists (select 1 from ${memberships} m where m.course_id = ${sheets.courseId} and m.person_id = ${personId} and m.removed_at is null)`;
  const [row] = await database
    .select({ ...columns(personId), revision: sheets.revision, sheet: sheets.sheet })
    .from(sheets)
    .innerJoin(people, eq(people.id, sheets.personId))
    .leftJoin(courses, eq(courses.id, sheets.courseId))
    .where(and(eq(sheets.id, id), or(eq(sheets.personId, personId), isShared)));
  if (!row) throw new Refusal('notFound');
  return rowOf(row);
}

/**
 * Keeps a sheet that a person made, or goes on from the revision that they had.
 * @throws Refusal `changedElsewhere` where it is another by now; `notFound` for one of someone else; `refused` for too many.
 */
export async function keepSheet(
  database: Database,
  personId: string,
  id: string,
  { revision, sheet }: { revision: number; sheet: Sheet },
): Promise<{ revision: number; savedAt: Date }> {
  const kept = { revision: sheets.revision, savedAt: sheets.savedAt };
  const [changed] = await database
    .update(sheets)
    .set({ sheet, revision: revision + 1, savedAt: new Date() })
    .where(and(eq(sheets.id, id), eq(sheets.personId, personId), eq(sheets.revision, revision)))
    .returning(kept);
  if (changed) return changed;
  if (revision === 0) {
    const [all] = await database.select({ sheets: count() }).from(sheets).where(eq(sheets.personId, personId));
    if ((all?.sheets ?? 0) >= most) {
      throw new Refusal(
        'refused',
        `You keep ${most} sheets; remove one of them first. This one stays in this browser.`,
      );
    }
    const [made] = await database.insert(sheets).values({ id, personId, sheet }).onConflictDoNothing().returning(kept);
    if (made) return made;
  }
  const [other] = await database.select({ of: sheets.personId }).from(sheets).where(eq(sheets.id, id));
  if (other && other.of !== personId) throw new Refusal('notFound');
  throw new Refusal(
    'changedElsewhere',
    other ? 'This sheet was changed in another window.' : 'This sheet was removed in another window.',
  );
}

/** Shares one of a person's own with a course, or with none. @throws Refusal `notFound`. */
export async function shareSheet(
  database: Database,
  personId: string,
  id: string,
  courseId: string | null,
): Promise<void> {
  const isOwners = and(eq(sheets.id, id), eq(sheets.personId, personId));
  const changed = await database.update(sheets).set({ courseId }).where(isOwners).returning({ id: sheets.id });
  if (changed.length === 0) throw new Refusal('notFound');
}

/** @throws Refusal `notFound` where a person has none like it. */
export async function removeSheet(database: Database, personId: string, id: string): Promise<void> {
  const isOwners = and(eq(sheets.id, id), eq(sheets.personId, personId));
  const removed = await database.delete(sheets).where(isOwners).returning({ id: sheets.id });
  if (removed.length === 0) throw new Refusal('notFound');
}
