import { randomUUID } from 'node:crypto';
import { type PersonalLink, type RosterPlan, type RosterUpload } from '@nailset/core';
import { type KnownPerson, planRoster, readRoster } from '@nailset/core/checks';
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { cellsOf } from '../csv.js';
import { Refusal } from '../errors.js';
import { record } from './courseLog.js';
import type { Database, Transaction } from './database.js';
import { person } from './people.js';
import { memberships, people } from './schema.js';
import { makeInvitations } from './sessions.js';

/** People of a course, from a list. */

/** Most people in one list. */
const mostPeople = 3000;

/** Marks an account whose owner has not chosen a password yet; it opens with none. */
export const noPassword = '';

/** What a list says and what taking it in would do; with `apply` it is taken in, all of it or nothing. */
export async function takeRoster(
  database: Database,
  courseId: string,
  byPersonId: string,
  { files, apply }: RosterUpload,
): Promise<RosterPlan> {
  const { entries, unread } = readRoster(files.map(({ name, text }) => ({ name, rows: cellsOf(name, text) })));
  if (entries.length > mostPeople) throw new Refusal('badRequest', `A list names at most ${mostPeople} people.`);
  const plan = async (tx: Database | Transaction) =>
    planRoster(
      entries,
      await knownPeople(
        tx,
        courseId,
        entries.map(({ email }) => email),
      ),
    );
  if (!apply) return { rows: [...(await plan(database))], unread: [...unread], links: [] };
  return database.transaction(async (tx) => {
    // Two lists at once take turns.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('roster ' || ${courseId}, 0))`);
    const rows = await plan(tx);
    const links = await takeIn(tx, courseId, byPersonId, rows);
    return { rows: [...rows], unread: [...unread], links };
  });
}

async function knownPeople(tx: Database | Transaction, courseId: string, emails: string[]): Promise<KnownPerson[]> {
  if (emails.length === 0) return [];
  const rows = await tx
    .select({ email: people.email, name: people.name, member: memberships })
    .from(people)
    .leftJoin(memberships, and(eq(memberships.personId, people.id), eq(memberships.courseId, courseId)))
    .where(
      inArray(
        sql`lower(${people.email})`,
        emails.map((email) => email.toLowerCase()),
      ),
    );
  return rows.map(({ email, name, member }) => ({
    email,
    name,
    member: member && {
      role: member.role,
      studentNumber: member.studentNumber,
      group: member.group,
      removed: member.removedAt !== null,
    },
  }));
}

type Planned = ReturnType<typeof planRoster>;

async function takeIn(tx: Transaction, courseId: string, byPersonId: string, rows: Planned): Promise<PersonalLink[]> {
  const wanted = rows.filter(({ change }) => change !== 'known');
  if (wanted.length === 0) return [];
  const fresh = wanted.filter(({ change }) => change === 'new').map((row) => ({ ...row, id: randomUUID() }));
  if (fresh.length > 0) {
    await tx.insert(people).values(fresh.map(({ id, name, email }) => ({ id, name, email, passwordHash: noPassword })));
  }
  const ids = await tx
    .select({ id: people.id, email: sql<string>`lower(${people.email})` })
    .from(people)
    .where(
      inArray(
        sql`lower(${people.email})`,
        wanted.map(({ email }) => email.toLowerCase()),
      ),
    );
  const idOf = new Map(ids.map(({ id, email }) => [email, id]));
  const seats = wanted.flatMap(({ email, studentNumber, group }) => {
    const personId = idOf.get(email.toLowerCase());
    return personId ? [{ courseId, personId, role: 'student' as const, studentNumber, group }] : [];
  });
  await tx
    .insert(memberships)
    .values(
      seats.map(({ studentNumber, group, ...seat }) => ({
        ...seat,
        studentNumber: studentNumber ?? '',
        group: group ?? '',
      })),
    )
    .onConflictDoUpdate({
      target: [memberships.courseId, memberships.personId],
      // What the list does not say stays as it is.
      set: {
        removedAt: null,
        studentNumber: sql`coalesce(nullif(excluded.student_number, ''), ${memberships.studentNumber})`,
        group: sql`coalesce(nullif(excluded.group_name, ''), ${memberships.group})`,
      },
    });
  const words = {
    new: 'taken in from a list',
    joins: 'taken in from a list',
    back: 'back in the course, from a list',
    changed: 'changed by a list',
    known: '',
  };
  const deeds = wanted.flatMap(({ email, change }) => {
    const personId = idOf.get(email.toLowerCase());
    return personId ? [{ courseId, byPersonId, personId, words: words[change] }] : [];
  });
  await record(tx, ...deeds);
  return linksFor(
    tx,
    byPersonId,
    fresh.map(({ id, name, email, studentNumber, group }) => ({
      ...{ id, name, email },
      studentNumber: studentNumber ?? '',
      group: group ?? '',
    })),
  );
}

type Invited = Omit<PersonalLink, 'path'> & { readonly id: string };

async function linksFor(tx: Transaction, byPersonId: string, invited: readonly Invited[]): Promise<PersonalLink[]> {
  const tokens = await makeInvitations(
    tx,
    byPersonId,
    invited.map(({ id }) => id),
  );
  return invited.map(({ id, ...who }) => ({ ...who, path: `/new-password#${tokens.get(id) ?? ''}` }));
}

/** New personal links for everyone of a course who has not chosen a password yet; earlier ones go on working. */
export function linksForWaiting(database: Database, courseId: string, byPersonId: string): Promise<PersonalLink[]> {
  return database.transaction(async (tx) => {
    const waiting = await tx
      .select({ ...person, studentNumber: memberships.studentNumber, group: memberships.group })
      .from(memberships)
      .innerJoin(people, eq(people.id, memberships.personId))
      .where(
        and(
          eq(memberships.courseId, courseId),
          eq(memberships.role, 'student'),
          isNull(memberships.removedAt),
          eq(people.passwordHash, noPassword),
        ),
      )
      .orderBy(asc(people.name));
    return linksFor(tx, byPersonId, waiting);
  });
}
