import { createHash, randomBytes } from 'node:crypto';
import { must, type Person, type Role, type SessionRow } from '@nailset/core';
import { and, desc, eq, gt, isNull, lt, ne, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { hashPassword, isPasswordOf, refuseWeakPassword } from '../passwords.js';
import { type Database, prepared, type Transaction } from './database.js';
import { person } from './people.js';
import { memberships, people, resetLinks, sessions } from './schema.js';

/** How long a browser stays signed in. */
export const sessionDays = 14;
/** How long a link to set a new password can be used. */
export const resetHours = 72;

const newToken = (): string => randomBytes(32).toString('base64url');
const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Starts a session and returns the token for the cookie. */
export async function openSession(database: Database, personId: string, browser: string): Promise<string> {
  const token = newToken();
  await database.delete(sessions).where(lt(sessions.expiresAt, new Date()));
  await database.insert(sessions).values({
    tokenHash: hashOfToken(token),
    personId,
    browser,
    expiresAt: new Date(Date.now() + sessionDays * 86_400_000),
  });
  return token;
}

export async function closeSession(database: Database, token: string): Promise<void> {
  await database.delete(sessions).where(eq(sessions.tokenHash, hashOfToken(token)));
}

const whoStatement = prepared((database) =>
  database
    .select({
      person,
      session: sessions.id,
      seenAt: sessions.seenAt,
      role: memberships.role,
      archived: sql<boolean>`coalesce((select archived_at is not null from courses where id = ${memberships.courseId}), false)`,
    })
    .from(sessions)
    .innerJoin(people, eq(people.id, sessions.personId))
    .leftJoin(
      memberships,
      and(
        eq(memberships.personId, people.id),
        isNull(memberships.removedAt),
        sql`${memberships.courseId} = coalesce(${sql.placeholder('courseId')}::uuid,
          (select course_id from exercises where id = ${sql.placeholder('exerciseId')}::uuid),
          (select e.course_id from submissions h join exercises e on e.id = h.exercise_id
            where h.id = ${sql.placeholder('submissionId')}::uuid))`,
      ),
    )
    .where(and(eq(sessions.tokenHash, sql.placeholder('tokenHash')), gt(sessions.expiresAt, sql`now()`)))
    .prepare('who_asks'),
);

/** What an address names; the first that is given leads to the course. */
export interface Named {
  readonly courseId?: string | undefined;
  readonly exerciseId?: string | undefined;
  readonly submissionId?: string | undefined;
}

/**
 * The person whose browser holds the token, which of their sessions it is, their role in the course of what is named and
 * whether that course is put away; undefined for nobody.
 */
export async function personBySession(
  database: Database,
  token: string,
  { courseId = undefined, exerciseId = undefined, submissionId = undefined }: Named,
): Promise<{ person: Person; session: string; role: Role | null; archived: boolean } | undefined> {
  const tokenHash = hashOfToken(token);
  const named = { courseId: courseId ?? null, exerciseId: exerciseId ?? null, submissionId: submissionId ?? null };
  const [row] = await whoStatement(database).execute({ tokenHash, ...named });
  if (!row) return undefined;
  const { seenAt, ...who } = row;
  if (Date.now() - seenAt.getTime() > 15 * 60_000) {
    await database.update(sessions).set({ seenAt: new Date() }).where(eq(sessions.tokenHash, tokenHash));
  }
  return who;
}

/** Where a person is signed in, the latest first; `current` is the session that asks. */
export async function sessionsOf(database: Database, personId: string, current: string): Promise<SessionRow[]> {
  const rows = await database
    .select()
    .from(sessions)
    .where(and(eq(sessions.personId, personId), gt(sessions.expiresAt, new Date())))
    .orderBy(desc(sessions.seenAt));
  return rows.map(({ id, browser, createdAt, seenAt }) => ({
    id,
    browser,
    createdAt: createdAt.toISOString(),
    seenAt: seenAt.toISOString(),
    current: id === current,
  }));
}

/** Signs one of a person’s browsers out. */
export async function endSession(database: Database, personId: string, sessionId: string): Promise<void> {
  await database.delete(sessions).where(and(eq(sessions.personId, personId), eq(sessions.id, sessionId)));
}

/** Signs every browser of a person out but this one. */
export async function endOtherSessions(
  database: Database | Transaction,
  personId: string,
  kept: string | null,
): Promise<void> {
  await database
    .delete(sessions)
    .where(and(eq(sessions.personId, personId), kept === null ? undefined : ne(sessions.id, kept)));
}

/** Whether this is the person’s password. */
export async function hasPassword(database: Database, personId: string, password: string): Promise<boolean> {
  const [row] = await database
    .select({ passwordHash: people.passwordHash })
    .from(people)
    .where(eq(people.id, personId));
  return isPasswordOf(row?.passwordHash, password);
}

/**
 * Sets a new password and signs out every browser but the one given; links that were made before end with it.
 * @throws Refusal `weakPassword`.
 */
export async function setPassword(
  database: Database | Transaction,
  whose: Person,
  password: string,
  kept: string | null,
): Promise<void> {
  await refuseWeakPassword(password, whose);
  await database
    .update(people)
    .set({ passwordHash: await hashPassword(password) })
    .where(eq(people.id, whose.id));
  await endOtherSessions(database, whose.id, kept);
  await database.delete(resetLinks).where(eq(resetLinks.personId, whose.id));
}

/** A link’s token to set a new password, for one use; earlier ones of the person end with it. */
export async function makeResetLink(
  database: Database,
  personId: string,
  madeBy: string | null,
): Promise<{ token: string; expiresAt: Date }> {
  const token = newToken();
  const expiresAt = new Date(Date.now() + resetHours * 3_600_000);
  await database.transaction(async (tx) => {
    await tx.delete(resetLinks).where(eq(resetLinks.personId, personId));
    await tx.insert(resetLinks).values({ tokenHash: hashOfToken(token), personId, madeBy, expiresAt });
  });
  return { token, expiresAt };
}

/** How long a link that lets someone into a course for the first time can be used. */
const invitationDays = 120;

/** Tokens of links to choose a first password, by person; earlier ones go on working. */
export async function makeInvitations(
  tx: Transaction,
  madeBy: string,
  personIds: readonly string[],
): Promise<Map<string, string>> {
  const tokens = new Map(personIds.map((id) => [id, newToken()]));
  if (tokens.size === 0) return tokens;
  const expiresAt = new Date(Date.now() + invitationDays * 86_400_000);
  await tx
    .insert(resetLinks)
    .values([...tokens].map(([personId, token]) => ({ tokenHash: hashOfToken(token), personId, madeBy, expiresAt })));
  return tokens;
}

/** Sets a new password by a link and returns whose it is. @throws Refusal `usedLink`, `weakPassword` (the link then stays). */
export async function usePasswordLink(database: Database, token: string, password: string): Promise<Person> {
  return database.transaction(async (tx) => {
    const [used] = await tx
      .delete(resetLinks)
      .where(and(eq(resetLinks.tokenHash, hashOfToken(token)), gt(resetLinks.expiresAt, new Date())))
      .returning({ personId: resetLinks.personId });
    if (!used) throw new Refusal('usedLink');
    const [whose] = await tx.select(person).from(people).where(eq(people.id, used.personId));
    await setPassword(tx, must(whose), password, null);
    return must(whose);
  });
}

export async function personByEmail(database: Database, email: string): Promise<Person | undefined> {
  const [row] = await database
    .select(person)
    .from(people)
    .where(eq(sql`lower(${people.email})`, email.trim().toLowerCase()));
  return row;
}
