import { randomUUID } from 'node:crypto';
import { must } from '@nailset/core';
import { eq, sql } from 'drizzle-orm';
import { hashPassword } from '../passwords.js';
import { record } from '../store/courseLog.js';
import { comments, extensions } from '../store/courseSchema.js';
import type { Database, Transaction } from '../store/database.js';
import { addCourse } from '../store/people.js';
import { courses, draws, exercises, memberships, people, submissions, verdicts, versions } from '../store/schema.js';
import { drafts, idOf, published, students } from './course.js';
import { preparedWork } from './handedIn.js';
import { demoAssistant, demoInstructor, demoPassword, emailOf } from './people.js';

const hour = 3_600_000;
/** Rows in one statement; each parameter of a statement counts, and PostgreSQL takes 65 535. */
const batch = 500;

/** Builds the demo course once, whole or not at all; an existing one is left alone. */
export async function seedDemo(database: Database): Promise<void> {
  const passwordHash = await hashPassword(demoPassword);
  await database.transaction(async (tx) => {
    // Servers that start at the same time wait for each other.
    await tx.execute(sql`select pg_advisory_xact_lock(4181)`);
    const [existing] = await tx.select({ id: courses.id }).from(courses).where(eq(courses.demo, true));
    if (!existing) await seed(tx, passwordHash);
  });
}

async function seed(tx: Transaction, passwordHash: string): Promise<void> {
  const now = Date.now();
  const names = [demoInstructor, demoAssistant, ...students.map(([name]) => name)];
  await tx.insert(people).values(
    names.map((name, k) => ({
      id: idOf(name),
      name,
      email: emailOf(name),
      passwordHash,
      createdAt: new Date(now + k),
    })),
  );
  const instructorId = idOf(demoInstructor);
  const courseId = await addCourse(tx, { name: 'Harbour machinery', instructorId, demo: true });
  await tx.insert(memberships).values(
    names.slice(1).map((name, k) => ({
      ...{ courseId, personId: idOf(name), role: k === 0 ? ('assistant' as const) : ('student' as const) },
      ...(k === 0 ? {} : { studentNumber: String(44_100 + 7 * k), group: k % 2 === 1 ? 'Monday' : 'Thursday' }),
    })),
  );
  await tx.insert(exercises).values([
    ...published.map(({ document, dueInDays }, k) => ({
      id: idOf(document.title),
      courseId,
      draft: document,
      dueAt: dueOn(now, dueInDays),
      createdAt: new Date(now + k),
    })),
    ...drafts.map((draft) => ({ courseId, draft, createdAt: new Date(now + published.length) })),
  ]);
  // Examined by the tests, once; it would make every first start slow.
  const added = await tx
    .insert(versions)
    .values(
      published.map(({ document }) => ({
        exerciseId: idOf(document.title),
        number: 1,
        document,
        publishedBy: instructorId,
      })),
    )
    .returning({ id: versions.id, exerciseId: versions.exerciseId });
  const versionOf = new Map(added.map(({ id, exerciseId }) => [exerciseId, id]));

  const work = preparedWork().map((each) => ({ ...each, versionId: must(versionOf.get(each.exerciseId)) }));
  await tx.insert(draws).values(work.map(({ versionId, personId, values }) => ({ versionId, personId, values })));
  const handed = work.flatMap(({ exerciseId, versionId, personId, attempts }) =>
    attempts.map(({ hoursAgo, verdict, ...attempt }) => {
      const handedInAt = new Date(now - hoursAgo * hour);
      const row = { id: randomUUID(), exerciseId, versionId, personId, key: randomUUID(), handedInAt, ...attempt };
      return { row, verdict: { submissionId: row.id, result: verdict, points: verdict.points, checkedAt: handedInAt } };
    }),
  );
  for (let from = 0; from < handed.length; from += batch) {
    const some = handed.slice(from, from + batch);
    await tx.insert(submissions).values(some.map(({ row }) => row));
    await tx.insert(verdicts).values(some.map(({ verdict }) => verdict));
  }
  await decide(
    tx,
    courseId,
    handed.map(({ row }) => row).filter(({ exerciseId }) => exerciseId === idOf(must(published[1]).document.title)),
  );
}

/** What an instructor has decided so far: how marks are made, an extension, a word to a student. */
async function decide(tx: Transaction, courseId: string, handed: { id: string; personId: string }[]): Promise<void> {
  const byPersonId = idOf(demoInstructor);
  const [, second] = published.map(({ document }) => idOf(document.title));
  const late = idOf('Wim Karlsson');
  await tx
    .update(courses)
    .set({
      marking: {
        sets: [
          { id: 'weekly', name: 'Weekly', weight: 70, best: 18 },
          { id: 'design', name: 'Crane design', weight: 30, best: null },
        ],
        exercises: { [must(second)]: { set: 'design', weight: null, bonus: false } },
      },
    })
    .where(eq(courses.id, courseId));
  const reason = 'On the night ferry until Sunday.';
  await tx.insert(extensions).values({
    ...{ exerciseId: must(second), personId: late, reason, byPersonId },
    dueAt: dueOn(Date.now(), 9),
  });
  await record(tx, {
    ...{ courseId, exerciseId: must(second), personId: late, byPersonId, reason },
    words: 'dates of their own: five days more',
  });
  const text = 'Well tuned. Try how little Kd still does.';
  const spoken = handed.find(({ personId }) => personId === idOf('Yara Petrov'));
  if (spoken) {
    await tx.insert(comments).values({ submissionId: spoken.id, text, byPersonId });
    const about = { courseId, exerciseId: must(second), personId: spoken.personId, byPersonId };
    await record(tx, { ...about, words: 'comment on an answer', reason: text });
  }
}

/** Six in the evening, so many days from now. */
function dueOn(now: number, days: number): Date {
  const due = new Date(now + days * 24 * hour);
  due.setHours(18, 0, 0, 0);
  return due;
}
