import { type CourseCopy, type Marking, must } from '@nailset/core';
import { weeksLater } from '@nailset/core/checks';
import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { grouped } from '../grouped.js';
import { comments, extensions, hintsTaken, practised, sheets } from './courseSchema.js';
import type { Database, Transaction } from './database.js';
import { addCourse } from './people.js';
import { noPassword } from './roster.js';
import {
  courses,
  draws,
  exercises,
  memberships,
  overrides,
  people,
  resetLinks,
  savedAnswers,
  sessions,
  submissions,
  verdicts,
  versions,
} from './schema.js';

/** A course as a whole: copied for the next year, put away; and one person’s data in all of them. */

/**
 * A course with the exercises, sets and dates of another, these moved by weeks, and nobody in it but who copies it.
 * What was published is published in it too, in its newest version.
 * @throws Refusal `badRequest` for an unknown time zone.
 */
export async function copyCourse(
  database: Database,
  courseId: string,
  byPersonId: string,
  { name, weeks, zone }: CourseCopy,
): Promise<string> {
  const moved = (at: Date | null) => {
    if (at === null) return null;
    try {
      return new Date(weeksLater(at.toISOString(), weeks, zone));
    } catch {
      throw new Refusal('badRequest', `There is no time zone “${zone}”.`);
    }
  };
  return database.transaction(async (tx) => {
    const copyId = await addCourse(tx, { name, instructorId: byPersonId });
    const [course] = await tx.select().from(courses).where(eq(courses.id, courseId));
    const rows = await tx
      .select()
      .from(exercises)
      .where(and(eq(exercises.courseId, courseId), eq(exercises.archived, false)))
      .orderBy(asc(exercises.createdAt));
    const now = Date.now();
    const copyOf = new Map<string, string>();
    for (const [k, exercise] of rows.entries()) {
      const { draft, visibleFrom, dueAt } = exercise;
      const [made] = await tx
        .insert(exercises)
        .values({
          ...{ courseId: copyId, draft, visibleFrom: moved(visibleFrom), dueAt: moved(dueAt) },
          createdAt: new Date(now + k),
        })
        .returning({ id: exercises.id });
      const exerciseId = must(made).id;
      copyOf.set(exercise.id, exerciseId);
      const [newest] = await tx
        .select({ document: versions.document })
        .from(versions)
        .where(eq(versions.exerciseId, exercise.id))
        .orderBy(desc(versions.number))
        .limit(1);
      if (newest)
        await tx.insert(versions).values({ exerciseId, number: 1, document: newest.document, publishedBy: byPersonId });
    }
    const { marking } = must(course);
    if (marking)
      await tx
        .update(courses)
        .set({ marking: movedTo(marking, copyOf) })
        .where(eq(courses.id, copyId));
    return copyId;
  });
}

/** How marks are made, for the copies of the exercises. */
const movedTo = ({ sets, exercises: rules }: Marking, copyOf: ReadonlyMap<string, string>): Marking => ({
  sets,
  exercises: Object.fromEntries(
    Object.entries(rules).flatMap(([id, rule]) => {
      const copy = copyOf.get(id);
      return copy ? [[copy, rule]] : [];
    }),
  ),
});

export async function changeCourse(
  tx: Transaction,
  courseId: string,
  { name, archived }: { name?: string | undefined; archived?: boolean | undefined },
): Promise<void> {
  await tx
    .update(courses)
    .set({
      ...(name === undefined ? {} : { name: name.trim() }),
      ...(archived === undefined ? {} : { archivedAt: archived ? new Date() : null }),
      id: courseId,
    })
    .where(eq(courses.id, courseId));
}

/** Everything that is kept of a person, as one file. */
export async function dataOf(database: Database, personId: string): Promise<Record<string, unknown>> {
  const [who] = await database
    .select({ name: people.name, email: people.email, createdAt: people.createdAt })
    .from(people)
    .where(eq(people.id, personId));
  const handed = await database
    .select({ submission: submissions, title: versions.document, version: versions.number, numbers: draws.values })
    .from(submissions)
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .leftJoin(draws, and(eq(draws.versionId, versions.id), eq(draws.personId, personId)))
    .where(eq(submissions.personId, personId))
    .orderBy(asc(submissions.handedInAt));
  const ids = handed.map(({ submission }) => submission.id);
  const about = async <T>(read: (ids: string[]) => Promise<T[]>): Promise<T[]> => (ids.length > 0 ? read(ids) : []);
  const [seats, checked, decided, said, saved, rows, hints, practice] = await Promise.all([
    database
      .select({
        course: courses.name,
        role: memberships.role,
        studentNumber: memberships.studentNumber,
        group: memberships.group,
        removedAt: memberships.removedAt,
      })
      .from(memberships)
      .innerJoin(courses, eq(courses.id, memberships.courseId))
      .where(eq(memberships.personId, personId)),
    about((some) =>
      database.select().from(verdicts).where(inArray(verdicts.submissionId, some)).orderBy(asc(verdicts.checkedAt)),
    ),
    about((some) =>
      database.select().from(overrides).where(inArray(overrides.submissionId, some)).orderBy(asc(overrides.at)),
    ),
    about((some) =>
      database.select().from(comments).where(inArray(comments.submissionId, some)).orderBy(asc(comments.at)),
    ),
    database.select().from(savedAnswers).where(eq(savedAnswers.personId, personId)),
    database.select().from(sheets).where(eq(sheets.personId, personId)),
    database.select().from(hintsTaken).where(eq(hintsTaken.personId, personId)),
    database.select().from(practised).where(eq(practised.personId, personId)),
  ]);
  const checks = grouped(checked, ({ submissionId }) => submissionId);
  const decisions = grouped(decided, ({ submissionId }) => submissionId);
  const remarks = grouped(said, ({ submissionId }) => submissionId);
  return {
    ...{ format: 'nailset person 1', writtenAt: new Date(), person: who, courses: seats },
    answers: handed.map(({ submission, title, version, numbers }) => ({
      ...{ exercise: title.title, version, part: submission.partId, attempt: submission.attempt, numbers },
      ...{ handedInAt: submission.handedInAt, answer: submission.answer, trail: submission.trail },
      verdicts: (checks.get(submission.id) ?? []).map(({ result, checkedAt }) => ({ result, checkedAt })),
      decisions: (decisions.get(submission.id) ?? []).map(({ points, reason, at }) => ({ points, reason, at })),
      comments: (remarks.get(submission.id) ?? []).map(({ text, at }) => ({ text, at })),
    })),
    answersInTheMaking: saved.map(({ partId, answer, trail, savedAt }) => ({ part: partId, answer, trail, savedAt })),
    sheets: rows.map(({ sheet, savedAt }) => ({ sheet, savedAt })),
    hints: hints.map(({ exerciseId, partId, number, at }) => ({ exerciseId, part: partId, number, at })),
    practice: practice.map(({ exerciseId, partId, met, slip, at }) => ({ exerciseId, part: partId, met, slip, at })),
  };
}

/**
 * Deletes what is known of a person: name, e-mail, numbers, sessions, drafts and sheets. What they handed in stays
 * without a name, since marks were made of it.
 * @throws Refusal `lastInstructor` where a course would lose its only one.
 */
export async function forgetPerson(tx: Transaction, personId: string): Promise<void> {
  const taught = await tx
    .select({ courseId: memberships.courseId })
    .from(memberships)
    .where(and(eq(memberships.personId, personId), eq(memberships.role, 'instructor'), isNull(memberships.removedAt)));
  for (const { courseId } of taught) {
    const others = await tx
      .select({ id: memberships.personId })
      .from(memberships)
      .where(and(eq(memberships.courseId, courseId), eq(memberships.role, 'instructor'), isNull(memberships.removedAt)))
      .for('update');
    if (others.length < 2) throw new Refusal('lastInstructor', 'A course has no other instructor. Name one first.');
  }
  await tx.delete(sessions).where(eq(sessions.personId, personId));
  await tx.delete(resetLinks).where(eq(resetLinks.personId, personId));
  await tx.delete(savedAnswers).where(eq(savedAnswers.personId, personId));
  await tx.delete(sheets).where(eq(sheets.personId, personId));
  await tx.delete(extensions).where(eq(extensions.personId, personId));
  await tx.delete(practised).where(eq(practised.personId, personId));
  // Nobody brings an account back that has no owner any more.
  await tx.delete(memberships).where(eq(memberships.personId, personId));
  await tx
    .update(people)
    .set({ name: 'Deleted person', email: `deleted-${personId}@nowhere.invalid`, passwordHash: noPassword })
    .where(eq(people.id, personId));
}
