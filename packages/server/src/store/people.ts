import { randomInt } from 'node:crypto';
import { type MemberChange, type Membership, must, type Person, type Role } from '@nailset/core';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { isPasswordOf } from '../passwords.js';
import type { Database, Transaction } from './database.js';
import { courses, memberships, people } from './schema.js';

export const person = { id: people.id, name: people.name, email: people.email };

/** The person with this e-mail and password. @throws Refusal `wrongPassword`, the same for either being wrong. */
export async function personByPassword(database: Database, email: string, password: string): Promise<Person> {
  const [row] = await database
    .select({ ...person, passwordHash: people.passwordHash })
    .from(people)
    .where(eq(sql`lower(${people.email})`, email.trim().toLowerCase()));
  const right = await isPasswordOf(row?.passwordHash, password);
  if (!row || !right) throw new Refusal('wrongPassword');
  return { id: row.id, name: row.name, email: row.email };
}

/** @throws Refusal `emailTaken`. */
export async function addPerson(
  database: Database | Transaction,
  { id, name, email, passwordHash }: { id?: string; name: string; email: string; passwordHash: string },
): Promise<Person> {
  const [added] = await database
    .insert(people)
    .values({ ...(id ? { id } : {}), name: name.trim(), email: email.trim(), passwordHash })
    .onConflictDoNothing()
    .returning(person);
  if (!added) throw new Refusal('emailTaken');
  return added;
}

export function membershipsOf(database: Database, personId: string): Promise<Membership[]> {
  return database
    .select({
      courseId: courses.id,
      course: courses.name,
      role: memberships.role,
      archived: sql<boolean>`${courses.archivedAt} is not null`,
    })
    .from(memberships)
    .innerJoin(courses, eq(courses.id, memberships.courseId))
    .where(and(eq(memberships.personId, personId), isNull(memberships.removedAt)))
    .orderBy(sql`${courses.archivedAt} is not null`, asc(courses.createdAt));
}

/**
 * Whether someone with these memberships may make a link that opens an account with those: staff for students, and for
 * other staff only who is instructor of every course that these have a hand in. A link must open no more than its maker
 * may see anyway.
 */
export function mayResetFor(memberships: readonly Membership[], theirs: readonly Membership[]): boolean {
  const teaches = (courseId: string) => memberships.some((m) => m.courseId === courseId && m.role === 'instructor');
  return theirs.every(({ courseId, role }) => role === 'student' || (role === 'assistant' && teaches(courseId)));
}

/** The role in a course; undefined for someone who does not belong to it. */
export async function roleIn(database: Database, courseId: string, personId: string): Promise<Role | undefined> {
  const [membership] = await database
    .select({ role: memberships.role })
    .from(memberships)
    .where(and(eq(memberships.courseId, courseId), eq(memberships.personId, personId), isNull(memberships.removedAt)));
  return membership?.role;
}

/** Makes a person a student of the course with this code, unless they already belong to it. @throws Refusal `unknownJoinCode`, `archived`, `forbidden`. */
export async function joinCourse(
  database: Database | Transaction,
  personId: string,
  joinCode: string,
): Promise<string> {
  const [course] = await database
    .select({ id: courses.id, archived: sql<boolean>`${courses.archivedAt} is not null` })
    .from(courses)
    .where(eq(courses.joinCode, joinCode.trim().toUpperCase()));
  if (!course) throw new Refusal('unknownJoinCode');
  if (course.archived)
    throw new Refusal('archived', 'This course is archived. Ask its instructor for the present one.');
  // Who was taken out comes back by the list of people, not by the code; who left may come back.
  const [seat] = await database
    .insert(memberships)
    .values({ courseId: course.id, personId, role: 'student' })
    .onConflictDoUpdate({
      target: [memberships.courseId, memberships.personId],
      set: { removedAt: sql`case when ${memberships.left} then null else ${memberships.removedAt} end`, left: false },
    })
    .returning({ removedAt: memberships.removedAt });
  if (seat?.removedAt) throw new Refusal('forbidden', 'You were taken out of this course. Ask its instructor.');
  return course.id;
}

/** A new course with its instructor. */
export async function addCourse(
  database: Database | Transaction,
  { name, instructorId, demo = false }: { name: string; instructorId: string; demo?: boolean },
): Promise<string> {
  return database.transaction(async (tx) => {
    const [course] = await tx
      .insert(courses)
      .values({ name: name.trim(), joinCode: newJoinCode(), demo })
      .returning({ id: courses.id });
    await tx.insert(memberships).values({ courseId: must(course).id, personId: instructorId, role: 'instructor' });
    return must(course).id;
  });
}

/** Eight characters that cannot be mistaken for each other. */
function newJoinCode(): string {
  const alphabet = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
  return Array.from({ length: 8 }, () => alphabet[randomInt(alphabet.length)]).join('');
}

/** Name, join code and everyone of a course, staff first, then by name; with `removed`, also who is not in it any more. */
export async function courseWithPeople(database: Database, courseId: string, { removed = false } = {}) {
  const [course] = await database
    .select({
      course: courses.name,
      joinCode: courses.joinCode,
      archived: sql<boolean>`${courses.archivedAt} is not null`,
    })
    .from(courses)
    .where(eq(courses.id, courseId));
  const rows = await database
    .select({
      ...person,
      role: memberships.role,
      studentNumber: memberships.studentNumber,
      group: memberships.group,
      removed: sql<boolean>`${memberships.removedAt} is not null`,
      waiting: sql<boolean>`${people.passwordHash} = ''`,
    })
    .from(memberships)
    .innerJoin(people, eq(people.id, memberships.personId))
    .where(and(eq(memberships.courseId, courseId), removed ? undefined : isNull(memberships.removedAt)))
    .orderBy(asc(memberships.role), asc(people.name));
  return { ...must(course), people: rows };
}

/** Changes what the course knows of someone, or takes them out or back in. @throws Refusal `notFound`, `lastInstructor`. */
export async function changeMember(
  tx: Transaction,
  courseId: string,
  personId: string,
  { studentNumber, group, removed }: MemberChange,
  left = false,
): Promise<void> {
  if (removed) await refuseLastInstructor(tx, courseId, personId);
  const [changed] = await tx
    .update(memberships)
    .set({
      ...(studentNumber === undefined ? {} : { studentNumber: studentNumber.trim() }),
      ...(group === undefined ? {} : { group: group.trim() }),
      ...(removed === undefined ? {} : { removedAt: removed ? new Date() : null, left: removed && left }),
      courseId,
    })
    .where(and(eq(memberships.courseId, courseId), eq(memberships.personId, personId)))
    .returning();
  if (!changed) throw new Refusal('notFound');
}

/** @throws Refusal `lastInstructor` where this is the only one left. */
async function refuseLastInstructor(tx: Transaction, courseId: string, personId: string): Promise<void> {
  const staff = await tx
    .select({ personId: memberships.personId })
    .from(memberships)
    .where(and(eq(memberships.courseId, courseId), eq(memberships.role, 'instructor'), isNull(memberships.removedAt)))
    .for('update');
  if (staff.length === 1 && must(staff[0]).personId === personId) throw new Refusal('lastInstructor');
}

/** Changes a role. @throws Refusal `notFound` for someone outside the course, `lastInstructor`. */
export async function changeRole(tx: Transaction, courseId: string, personId: string, role: Role): Promise<void> {
  if (role !== 'instructor') await refuseLastInstructor(tx, courseId, personId);
  const changed = await tx
    .update(memberships)
    .set({ role })
    .where(and(eq(memberships.courseId, courseId), eq(memberships.personId, personId), isNull(memberships.removedAt)))
    .returning();
  if (changed.length === 0) throw new Refusal('notFound');
}

/** The demo's people to sign in as: its staff and its first students. */
export async function demoPeople(database: Database) {
  return database
    .select({ name: people.name, email: people.email, role: memberships.role })
    .from(memberships)
    .innerJoin(people, eq(people.id, memberships.personId))
    .innerJoin(courses, and(eq(courses.id, memberships.courseId), eq(courses.demo, true)))
    .orderBy(asc(memberships.role), asc(people.createdAt), asc(people.name))
    .limit(6);
}
