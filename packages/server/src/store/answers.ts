import { type DrawValues, type ExerciseDocument, type ManyPoints, must, type PartAnswers } from '@nailset/core';
import { answerToText, pointsOf } from '@nailset/core/checks';
import { and, asc, eq, inArray } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { grouped } from '../grouped.js';
import { record } from './courseLog.js';
import { comments, looks } from './courseSchema.js';
import type { Database, Transaction } from './database.js';
import { documentsOf } from './documents.js';
import { drawsOf } from './exercises.js';
import { courseWithPeople } from './people.js';
import { exercises, overrides, people, submissions, versions } from './schema.js';
import { bestOf, standingOf, wantsLook } from './standing.js';

/** What staff see of the answers to a part, and do about them. */

/** Works expected answers out on a thread. */
export interface Expecting {
  expected(
    document: ExerciseDocument,
    partId: string,
    values: readonly DrawValues[],
  ): Promise<readonly (string | null)[]>;
}

/** Every answer of a class to a part, every try, by student and then by try. */
export async function answersToPart(
  database: Database,
  threads: Expecting,
  exerciseId: string,
  partId: string,
): Promise<PartAnswers> {
  const [exercise] = await database
    .select({ courseId: exercises.courseId })
    .from(exercises)
    .where(eq(exercises.id, exerciseId));
  const [{ people: members }, all, valuesOf] = await Promise.all([
    courseWithPeople(database, must(exercise).courseId),
    standingOf(database, exerciseId),
    drawsOf(database, exerciseId),
  ]);
  const nameOf = new Map(members.filter(({ role }) => role === 'student').map(({ id, name }) => [id, name]));
  const standing = all
    .filter((entry) => entry.partId === partId && nameOf.has(entry.personId))
    .sort(
      (a, b) => (nameOf.get(a.personId) ?? '').localeCompare(nameOf.get(b.personId) ?? '') || a.attempt - b.attempt,
    );
  const documents = await documentsOf(database, [...new Set(standing.map(({ checkedAgainst }) => checkedAgainst))]);
  const expected = new Map<string, string | null>();
  for (const [id, document] of documents) {
    const ofVersion = standing.filter(({ checkedAgainst }) => checkedAgainst === id);
    const values = ofVersion.map(({ versionId, personId }) => valuesOf(versionId, personId));
    const texts = await threads.expected(document, partId, values);
    ofVersion.forEach((entry, k) => expected.set(entry.id, texts[k] ?? null));
  }
  const counting = new Set(
    [...grouped(standing, ({ personId }) => personId).values()].map((ofVersion) => bestOf(ofVersion)?.id),
  );
  return {
    answers: standing.map((entry) => {
      const { id, personId, attempt, version, handedInAt, answer, checked, verdict, override, points } = entry;
      const part = must(documents.get(entry.checkedAgainst)).parts.find((each) => each.id === partId);
      const outOf = verdict?.outOf ?? (part ? pointsOf(part) : 0);
      return {
        ...{
          submissionId: id,
          personId,
          name: must(nameOf.get(personId)),
          attempt,
          version,
          answer,
          checked,
          points,
          outOf,
        },
        values: valuesOf(entry.versionId, personId),
        handedInAt: handedInAt.toISOString(),
        text: answerToText(answer),
        expected: expected.get(id) ?? null,
        met: override ? points >= outOf : (verdict?.met ?? false),
        words: verdict?.words ?? '',
        slip: verdict?.slip?.words ?? null,
        counts: counting.has(id),
        review: wantsLook(entry) ? [...entry.review] : [],
      };
    }),
  };
}

/** Sets points by a person’s decision; the newest counts. */
export async function addOverrides(
  tx: Transaction,
  { exerciseId, courseId, byPersonId }: { exerciseId: string; courseId: string; byPersonId: string },
  { submissionIds, points, reason }: ManyPoints,
): Promise<void> {
  const chosen = await tx
    .select({
      id: submissions.id,
      personId: submissions.personId,
      partId: submissions.partId,
      attempt: submissions.attempt,
      versionId: submissions.versionId,
    })
    .from(submissions)
    .where(and(eq(submissions.exerciseId, exerciseId), inArray(submissions.id, [...submissionIds])));
  if (chosen.length < new Set(submissionIds).size) throw new Refusal('notFound');
  const titleOf = await refuseMoreThanAll(tx, exerciseId, chosen, points);
  await tx
    .insert(overrides)
    .values(chosen.map(({ id }) => ({ submissionId: id, points, reason: reason.trim(), byPersonId })));
  await record(
    tx,
    ...chosen.map(({ personId, partId, attempt }) => ({
      ...{ courseId, exerciseId, personId, byPersonId, reason: reason.trim() },
      words: `${titleOf(partId)}, try ${attempt}: points set to ${points}`,
    })),
  );
}

/** Gives the parts’ titles. @throws Refusal `badRequest` where a part gives fewer points in every version. */
async function refuseMoreThanAll(
  tx: Transaction,
  exerciseId: string,
  chosen: readonly { partId: string; versionId: string }[],
  points: number,
): Promise<(partId: string) => string> {
  const ids = await tx.select({ id: versions.id }).from(versions).where(eq(versions.exerciseId, exerciseId));
  const documents = await documentsOf(
    tx,
    ids.map(({ id }) => id),
  );
  for (const partId of new Set(chosen.map((each) => each.partId))) {
    const most = Math.max(
      ...[...documents.values()].flatMap(({ parts }) => parts.filter(({ id }) => id === partId).map(pointsOf)),
    );
    if (points > most) throw new Refusal('badRequest', `This part gives at most ${most} points.`);
  }
  const all = [...documents.values()].flatMap(({ parts }) => parts);
  return (partId) => all.find(({ id }) => id === partId)?.title ?? partId;
}

/** Says something to a student about an answer; nothing of it is ever taken back. */
export async function addComment(
  tx: Transaction,
  submissionId: string,
  byPersonId: string,
  text: string,
): Promise<void> {
  await tx.insert(comments).values({ submissionId, byPersonId, text: text.trim() });
}

/** Notes that a person has looked at an answer. */
export async function addLook(tx: Transaction, submissionId: string, byPersonId: string): Promise<void> {
  await tx.insert(looks).values({ submissionId, byPersonId });
}

/** What was said about answers, oldest first, by submission. */
export async function commentsOn(database: Database, submissionIds: readonly string[]) {
  if (submissionIds.length === 0) return new Map<string, never[]>();
  const rows = await database
    .select({ submissionId: comments.submissionId, text: comments.text, by: people.name, at: comments.at })
    .from(comments)
    .innerJoin(people, eq(people.id, comments.byPersonId))
    .where(inArray(comments.submissionId, [...submissionIds]))
    .orderBy(asc(comments.at));
  return grouped(
    rows.map(({ at, ...rest }) => ({ ...rest, at: at.toISOString() })),
    ({ submissionId }) => submissionId,
  );
}
