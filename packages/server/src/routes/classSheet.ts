import { ClassSheet, Handed, must, Override, type Part, type SheetCell, sumOfShares } from '@nailset/core';
import { pointsOf } from '@nailset/core/checks';
import { personOf } from '../access.js';
import { Refusal } from '../errors.js';
import { drawsOf, factsOf, newestVersion } from '../store/exercises.js';
import { checkAgain } from '../store/jobs.js';
import { courseWithPeople } from '../store/people.js';
import {
  addOverride,
  bestOf,
  overridesOf,
  type Standing,
  standingOf,
  submissionToCheck,
} from '../store/submissions.js';
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
      const rows = students.map(({ id, name, email }) => {
        const own = standing.filter((entry) => entry.personId === id);
        const cells: Record<string, SheetCell> = {};
        let points: number | null = null;
        for (const part of parts) {
          const best = bestOf(own.filter((entry) => entry.partId === part.id));
          if (!best) continue;
          cells[part.id] = cellOf(best, part);
          points = sumOfShares([points ?? 0, best.points]);
          const values = valuesOf(best.versionId, id);
          flock.push({ submissionId: best.id, personId: id, partId: part.id, values, answer: best.answer });
        }
        return { person: { id, name, email }, points, cells };
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
      const { people } = await courseWithPeople(database, courseId);
      const { id, name, email } = must(people.find((person) => person.id === submission.personId));
      const standing = await standingOf(database, submission.exerciseId, submission.personId);
      const own = must(standing.find((entry) => entry.id === submission.id));
      const { versionId, personId } = submission;
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
        checked: own.checked,
        verdict: own.verdict,
        points: own.points,
        outOf: pointsOf(part),
        overrides: await overridesOf(database, submission.id),
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
      const { part } = await submissionToCheck(database, submissionId);
      const most = pointsOf(part);
      if (request.body.points > most) {
        throw new Refusal('badRequest', `This part gives at most ${most} points.`);
      }
      await addOverride(database, submissionId, personOf(request).id, request.body);
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
}

function cellOf(best: Standing, part: Part): SheetCell {
  const outOf = pointsOf(part);
  return {
    submissionId: best.id,
    attempt: best.attempt,
    version: best.version,
    checked: best.checked,
    outOfTime: best.checked && best.verdict === null,
    met: best.override ? best.points >= outOf : (best.verdict?.met ?? false),
    points: best.points,
    outOf,
    look: best.look,
    items: (best.verdict?.items ?? []).map(({ id, met, close }) => ({ id, met, close })),
    slip: best.verdict?.slip ?? null,
  };
}
