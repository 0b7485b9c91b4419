import { randomInt } from 'node:crypto';
import { type Membership, must, type Person, type Role } from '@nailset/core';
import { and, asc, eq, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { isPasswordOf } from '../passwords.js';
import type { Database, Transaction } from './database.js';
import { courses, memberships, people } from './schema.js';

export const person = { id: people.id, name: people.name, email: people.email };

/** The person with this e-mail and password. @throws Refusal `wrongPassword`, the same for either being wrong. */
export async function personByPassword(database: Database, email: string, password: string): Promise<Person> {
  const [found] = await database
    .select({ ...person, passwordHash: people.passwordHash })
    .from(people)
    .where(eq(sql`lower(${people.email})`, email.trim().toLowerCase()));
  const right = await isPasswordOf(found?.passwordHash, password);
  if (!found || !right) throw new Refusal('wrongPassword');
  return { id: found.id, name: found.name, email: found.email };
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
    .select({ courseId: courses.id, course: courses.name, role: memberships.role })
    .from(memberships)
    .innerJoin(courses, eq(courses.id, memberships.courseId))
    .where(eq(memberships.personId, personId))
    .orderBy(asc(courses.createdAt));
}

/**
 * Whether someone with these memberships may make a link that opens an account with those: staff for students, and for
 * other staff only who is instructor of every course that these have a hand in. A link must open no more than its maker
 * may see anyway.
 */
export function mayResetFor(own: readonly Membership[], theirs: readonly Membership[]): boolean {
  const teaches = (courseId: string) => own.some((m) => m.courseId === courseId && m.role === 'instructor');
  return theirs.every(({ courseId, role }) => role === 'student' || (role === 'assistant' && teaches(courseId)));
}

/** The role in a course; undefined for someone who does not belong to it. */
export async function roleIn(database: Database, courseId: string, personId: string): Promise<Role | undefined> {
  const [found] = await database
    .select({ role: memberships.role })
    .from(memberships)
    .where(and(eq(memberships.courseId, courseId), eq(memberships.personId, personId)));
  return found?.role;
}

/** Makes a person a student of the course with this code, unless they already belong to it. @throws Refusal `unknownJoinCode`. */
export async function joinCourse(
  database: Database | Transaction,
  personId: string,
  joinCode: string,
): Promise<string> {
  const [course] = await database
    .select({ id: courses.id })
    .from(courses)
    .where(eq(courses.joinCode, joinCode.trim().toUpperCase()));
  if (!course) throw new Refusal('unknownJoinCode');
  await database.insert(memberships).values({ courseId: course.id, personId, role: 'student' }).onConflictDoNothing();
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

/** Name, join code and everyone of a course, staff first, then by name. */
export async function courseWithPeople(database: Database, courseId: string) {
  const [course] = await database
    .select({ course: courses.name, joinCode: courses.joinCode })
    .from(courses)
    .where(eq(courses.id, courseId));
  const found = await database
    .select({ ...person, role: memberships.role })
    .from(memberships)
    .innerJoin(people, eq(people.id, memberships.personId))
    .where(eq(memberships.courseId, courseId))
    .orderBy(asc(memberships.role), asc(people.name));
  return { ...must(course), people: found };
}

/** Changes a role. @throws Refusal `notFound` for someone outside the course, `lastInstructor`. */
export async function changeRole(database: Database, courseId: string, personId: string, role: Role): Promise<void> {
  await database.transaction(async (tx) => {
    const staff = await tx
      .select({ personId: memberships.personId })
      .from(memberships)
      .where(and(eq(memberships.courseId, courseId), eq(memberships.role, 'instructor')))
      .for('update');
    if (role !== 'instructor' && staff.length === 1 && must(staff[0]).personId === personId) {
      throw new Refusal('lastInstructor');
    }
    const changed = await tx
      .update(memberships)
      .set({ role })
      .where(and(eq(memberships.courseId, courseId), eq(memberships.personId, personId)))
      .returning();
    if (changed.length === 0) throw new Refusal('notFound');
  });
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
