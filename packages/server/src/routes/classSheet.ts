import {
  ClassSheet,
  Handed,
  ManyPoints,
  must,
  NewComment,
  Override,
  type Part,
  PartAnswers,
  type SheetCell,
  sumOfShares,
} from '@nailset/core';
import { pointsOf } from '@nailset/core/checks';
import type { FastifyRequest } from 'fastify';
import Type from 'typebox';
import { personOf } from '../access.js';
import { addComment, addLook, addOverrides, answersToPart, commentsOn } from '../store/answers.js';
import { record } from '../store/courseLog.js';
import { drawsOf, factsOf, newestVersion } from '../store/exercises.js';
import { checkAgain } from '../store/jobs.js';
import { courseWithPeople } from '../store/people.js';
import { bestOf, type Standing, standingOf, wantsLook } from '../store/standing.js';
import { overridesOf, submissionToCheck } from '../store/submissions.js';
import { answers, type App, byExercise, bySubmission, type House, nothing } from './route.js';

/** What staff see of a class, and their decisions. */
export function classSheetRoutes(app: App, { database, threads }: House): void {
  app.get(
    '/api/exercises/:exerciseId/class',
    {
      config: { access: 'staff' },
      schema: { summary: 'Every student’s best answers', params: byExercise, response: answers(ClassSheet) },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const version = await newestVersion(database, exerciseId);
      const { courseId, course, dueAt } = await factsOf(database, exerciseId);
      const { people } = await courseWithPeople(database, courseId);
      const [standing, valuesOf] = await Promise.all([standingOf(database, exerciseId), drawsOf(database, exerciseId)]);
      const { parts, title, systems, series } = version.document;
      const flock: ClassSheet['flock'] = [];
      const students = people.filter((person) => person.role === 'student');
      const rows = students.map(({ id, name, email, group, studentNumber }) => {
        const entries = standing.filter((entry) => entry.personId === id);
        const cells: Record<string, SheetCell> = {};
        let points: number | null = null;
        for (const part of parts) {
          const tries = entries.filter((entry) => entry.partId === part.id);
          const best = bestOf(tries);
          if (!best) continue;
          cells[part.id] = cellOf(best, part, tries);
          points = sumOfShares([points ?? 0, best.points]);
          const values = valuesOf(best.versionId, id);
          flock.push({ submissionId: best.id, personId: id, partId: part.id, values, answer: best.answer });
        }
        return { person: { id, name, email }, group, studentNumber, points, cells };
      });
      return {
        exerciseId,
        courseId,
        course,
        title,
        version: version.number,
        dueAt: dueAt?.toISOString() ?? null,
        outOf: sumOfShares(parts.map(pointsOf)),
        parts,
        systems,
        series,
        rows,
        flock,
      };
    },
  );

  app.get(
    '/api/submissions/:submissionId',
    {
      config: { access: 'staff' },
      schema: { summary: 'One answer with its verdict and trail', params: bySubmission, response: answers(Handed) },
    },
    async (request) => {
      const { submission, number, document, part, values } = await submissionToCheck(
        database,
        request.params.submissionId,
      );
      const { courseId } = await factsOf(database, submission.exerciseId);
      const { people } = await courseWithPeople(database, courseId, { removed: true });
      const { id, name, email } = people.find((person) => person.id === submission.personId) ?? {
        ...{ id: submission.personId, name: 'Deleted person', email: '' },
      };
      const standing = await standingOf(database, submission.exerciseId, submission.personId);
      const handedIn = must(standing.find((entry) => entry.id === submission.id));
      const tries = standing.filter(({ partId }) => partId === submission.partId);
      const { personId } = submission;
      const versionId = handedIn.checkedAgainst;
      const solutions = await threads.seen('solutions', { versionId, personId, document, values });
      return {
        id: submission.id,
        person: { id, name, email },
        part,
        systems: document.systems,
        series: document.series,
        values,
        attempt: submission.attempt,
        version: number,
        handedInAt: submission.handedInAt.toISOString(),
        answer: submission.answer,
        trail: submission.trail,
        expected: solutions.find(({ partId }) => partId === part.id)?.text ?? null,
        checked: handedIn.checked,
        verdict: handedIn.verdict,
        points: handedIn.points,
        outOf: pointsOf(part),
        overrides: await overridesOf(database, submission.id),
        corrected: handedIn.corrected,
        comments: ((await commentsOn(database, [submission.id])).get(submission.id) ?? []).map(({ text, by, at }) => ({
          ...{ text, by, at },
        })),
        review: [...handedIn.review],
        looked: handedIn.looked,
        returned: handedIn.returned,
        tries: tries.map((entry) => ({
          ...{ id: entry.id, attempt: entry.attempt, points: entry.points },
          counts: entry.id === bestOf(tries)?.id,
        })),
      };
    },
  );

  app.post(
    '/api/submissions/:submissionId/overrides',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Set the points of an answer, with a reason',
        params: bySubmission,
        body: Override,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { submissionId } = request.params;
      const { points, reason } = request.body;
      await database.transaction(async (tx) => {
        const at = await placeOf(submissionId, request);
        await addOverrides(tx, at, { submissionIds: [submissionId], points, reason });
      });
      return {};
    },
  );

  app.post(
    '/api/exercises/:exerciseId/points',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Set the points of many answers, with one reason',
        params: byExercise,
        body: ManyPoints,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const { courseId } = await factsOf(database, exerciseId);
      const byPersonId = personOf(request).id;
      await database.transaction((tx) => addOverrides(tx, { exerciseId, courseId, byPersonId }, request.body));
      return {};
    },
  );

  app.get(
    '/api/exercises/:exerciseId/parts/:partId/answers',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Every answer to a part, every try, with what was expected',
        params: Type.Object({ ...byExercise.properties, partId: Type.String({ maxLength: 32 }) }),
        response: answers(PartAnswers),
      },
    },
    async (request) => answersToPart(database, threads, request.params.exerciseId, request.params.partId),
  );

  app.post(
    '/api/submissions/:submissionId/comments',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Say something to the student about an answer',
        params: bySubmission,
        body: NewComment,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { submissionId } = request.params;
      const at = await placeOf(submissionId, request);
      await database.transaction(async (tx) => {
        await addComment(tx, submissionId, at.byPersonId, request.body.text);
        await record(tx, { ...at, words: 'comment on an answer', reason: request.body.text });
      });
      return {};
    },
  );

  app.post(
    '/api/submissions/:submissionId/looks',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Note that an answer was looked at, which takes it out of what is to review',
        params: bySubmission,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { submissionId } = request.params;
      const at = await placeOf(submissionId, request);
      await database.transaction(async (tx) => {
        await addLook(tx, submissionId, at.byPersonId);
        await record(tx, { ...at, words: 'looked at an answer' });
      });
      return {};
    },
  );

  app.post(
    '/api/submissions/:submissionId/checks',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Check an answer again, by the checker as it is now',
        params: bySubmission,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { submission } = await submissionToCheck(database, request.params.submissionId);
      await checkAgain(database, submission.id, submission.personId);
      return {};
    },
  );

  /** Where an answer belongs, whose it is and who does something about it. */
  async function placeOf(submissionId: string, request: FastifyRequest) {
    const { submission } = await submissionToCheck(database, submissionId);
    const { exerciseId, personId } = submission;
    const { courseId } = await factsOf(database, exerciseId);
    return { exerciseId, personId, courseId, byPersonId: personOf(request).id };
  }
}

function cellOf(best: Standing, part: Part, tries: readonly Standing[]): SheetCell {
  // Points of another version are told as what they were out of then.
  const outOf = best.verdict?.outOf ?? pointsOf(part);
  return {
    submissionId: best.id,
    attempt: best.attempt,
    version: best.version,
    checked: best.checked,
    outOfTime: best.checked && best.verdict === null,
    met: best.override ? best.points >= outOf : (best.verdict?.met ?? false),
    points: best.points,
    outOf,
    look: wantsLook(best),
    tries: tries.map(({ id, attempt, points }) => ({ submissionId: id, attempt, points })),
    items: (best.verdict?.items ?? []).map(({ id, met, close }) => ({ id, met, close })),
    slip: best.verdict?.slip ?? null,
  };
}
