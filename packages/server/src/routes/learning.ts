import { randomBytes } from 'node:crypto';
import {
  HintAsked,
  HintsTold,
  must,
  Practice,
  PracticeAnswer,
  PracticeAsked,
  PracticeResult,
  Working,
} from '@nailset/core';
import { hintsTold, isVisible, verdictAsShown } from '@nailset/core/checks';
import type { FastifyRequest } from 'fastify';
import Type from 'typebox';
import { personOf } from '../access.js';
import { Refusal } from '../errors.js';
import { datesOf } from '../store/dates.js';
import { drawFor, factsOf, newestVersion } from '../store/exercises.js';
import { hintsOf, keepPractised, practisedBy, takeHint, tallyOf } from '../store/learning.js';
import { standingOf } from '../store/standing.js';
import { disclosureOf } from '../told.js';
import { answers, type App, byExercise, type House } from './route.js';

/** What helps a student on: hints, the working of an answer that is told, and practice with other numbers. */
export function learningRoutes(app: App, { database, threads, limits }: House): void {
  app.post(
    '/api/exercises/:exerciseId/hints',
    {
      config: { access: 'student' },
      schema: {
        summary: 'Ask for a hint of a part',
        description: 'Hints come in their order. Each takes what it costs from answers handed in later, once.',
        params: byExercise,
        body: HintAsked,
        response: answers(HintsTold),
      },
    },
    async (request) => {
      const { partId, number } = request.body;
      const { drawn, part, exerciseId, personId } = await opened(askingOf(request, request.params.exerciseId), partId);
      const hint = part.hints?.[number - 1];
      if (!hint) throw new Refusal('notFound');
      const before = (await hintsOf(database, exerciseId, personId)).get(partId) ?? 0;
      if (number > before + 1) throw new Refusal('badRequest', 'Hints come one after the other.');
      if (number > before) await takeHint(database, { exerciseId, personId, partId, number, cost: hint.cost });
      return { partId, texts: hintsTold(drawn.document, part, drawn.values, Math.max(before, number)) };
    },
  );

  app.get(
    '/api/exercises/:exerciseId/parts/:partId/working',
    {
      config: { access: 'member' },
      schema: {
        summary: 'The way to the expected answer, with my numbers',
        description: 'For students, once expected answers are told.',
        params: Type.Object({ ...byExercise.properties, partId: Type.String({ maxLength: 32 }) }),
        response: answers(Working),
      },
    },
    async (request) => {
      const { drawn, part, told, standing } = await opened(
        askingOf(request, request.params.exerciseId),
        request.params.partId,
      );
      if (request.role === 'student' && !told.solutions(drawn.document, standing)) throw new Refusal('notTold');
      await limits.take('workings', drawn.personId, 120, 60);
      return [...(await threads.working({ document: drawn.document, partId: part.id, values: drawn.values }))];
    },
  );

  app.post(
    '/api/exercises/:exerciseId/practice',
    {
      config: { access: 'member' },
      schema: {
        summary: 'Another set of numbers for a part, ungraded',
        params: byExercise,
        body: PracticeAsked,
        response: answers(Practice),
      },
    },
    async (request) => {
      const { partId } = request.body;
      const practice = await practising(askingOf(request, request.params.exerciseId), partId);
      const { drawn, exerciseId, version, courseId, course } = practice;
      await limits.take('practice', drawn.personId, 60, 60);
      const seed = randomBytes(18).toString('base64url');
      const values = await threads.draw({ document: drawn.document, seed: seedOf(seed) });
      const view = await threads.view({ document: drawn.document, values });
      return {
        seed,
        tally: await tally(practice, partId),
        bench: {
          ...view,
          ...{ exerciseId, versionId: drawn.versionId, version, courseId, course },
          ...{ dueAt: null, extended: null, closesAt: null, mayHandIn: true, working: true },
          ...{ saved: [], handedIn: [], solutions: [], revealed: [], measured: [], hints: [], practice: [] },
          // Hints are of the part that counts, and would cost there.
          parts: view.parts.filter(({ id }) => id === partId).map((part) => ({ ...part, hints: [] })),
        },
      };
    },
  );

  app.post(
    '/api/exercises/:exerciseId/practice/checks',
    {
      config: { access: 'member' },
      schema: {
        summary: 'The verdict on an answer to another set of numbers',
        description: 'With the expected answer and the way to it, where the exercise tells them at all.',
        params: byExercise,
        body: PracticeAnswer,
        response: answers(PracticeResult),
      },
    },
    async (request) => {
      const { seed, partId, answer } = request.body;
      const practice = await practising(askingOf(request, request.params.exerciseId), partId);
      const { drawn, part, exerciseId, standing, told } = practice;
      await limits.take('practice', drawn.personId, 60, 60);
      const { document } = drawn;
      const values = await threads.draw({ document, seed: seedOf(seed) });
      const result = await threads.practised({ document, partId, values, answer });
      if ('problem' in result) throw new Refusal('refused', result.problem, { at: result.at });
      const { verdict, solution, working, revealed, measured } = result;
      // A slip that is not told is not kept either, as the tally tells what is kept.
      const shown = verdictAsShown(verdict, document.shows);
      await keepPractised(database, { exerciseId, personId: drawn.personId, partId, verdict: shown });
      // Who practises before the part is done gets the verdict alone: the way is the same for all numbers.
      const isDone = told.practice({ ...document, practice: 'afterwards' }, part, standing);
      const tells = document.solution !== 'never' && (told.closed || (document.solution === 'onceDone' && isDone));
      return {
        verdict: shown,
        ...(tells && solution ? { solution } : {}),
        working: tells ? [...working] : [],
        revealed,
        measured: tells ? measured : [],
        tally: await tally(practice, partId),
      };
    },
  );

  /** An exercise that may be looked at by now, with the numbers of who asks. @throws Refusal `putAway`, `notYet`, `notFound`. */
  async function opened({ exerciseId, personId, isStudent }: Asking, partId: string) {
    const version = await newestVersion(database, exerciseId);
    const { courseId, course, archived } = await factsOf(database, exerciseId);
    const dates = await datesOf(database, exerciseId, personId);
    if (isStudent && archived) throw new Refusal('putAway');
    if (isStudent && !isVisible(dates, new Date())) throw new Refusal('notYet');
    const { document } = version;
    const part = document.parts.find(({ id }) => id === partId);
    if (!part) throw new Refusal('notFound');
    const values = await drawFor(database, threads, version, personId);
    const standing = await standingOf(database, exerciseId, personId);
    const told = disclosureOf(document, dates);
    const drawn = { versionId: version.id, personId, document, values };
    return { exerciseId, personId, version: version.number, courseId, course, part, drawn, standing, told };
  }

  /** The same for a part that may be practised. @throws Refusal `notTold`. */
  async function practising(asking: Asking, partId: string) {
    const exercise = await opened(asking, partId);
    const { drawn, part, standing, told } = exercise;
    if (asking.isStudent && !told.practice(drawn.document, part, standing)) {
      throw new Refusal('notTold', 'This part can be practised once it is solved, out of tries, or closed.');
    }
    return exercise;
  }

  async function tally({ exerciseId, personId, standing, told }: Awaited<ReturnType<typeof opened>>, partId: string) {
    const handed = standing
      .filter((entry) => entry.partId === partId && entry.verdict !== null && told.verdicts)
      .map(({ verdict }) => ({
        met: must(verdict).met,
        slip: told.verdicts?.slip ? (must(verdict).slip?.words ?? null) : null,
      }));
    return tallyOf(handed, await practisedBy(database, { exerciseId, personId, partId }));
  }
}

/** Who asks about which exercise. */
interface Asking {
  readonly exerciseId: string;
  readonly personId: string;
  readonly isStudent: boolean;
}

const askingOf = (request: FastifyRequest, exerciseId: string): Asking => ({
  exerciseId,
  personId: personOf(request).id,
  isStudent: request.role === 'student',
});

/** Never the seed of a person, so that nobody can ask for the numbers that they are graded on. */
const seedOf = (seed: string): string => `practice ${seed}`;
