import Type from 'typebox';
import {
  AnswerSave,
  AnswerSaved,
  type Attempt,
  Attempt as AttemptMessage,
  Bench,
  type ExerciseDocument,
  HandIn,
  Home,
  Id,
  type Part,
  attemptsOf,
  isPrediction,
  modelOf,
  pointsOf,
  sumOfShares,
} from '@nailset/core';
import { revealedCurves, studentExercise, solutionCurve, solutionOf, verdictAsShown } from '@nailset/core/checks';
import { personOf } from '../access.js';
import { Refusal } from '../errors.js';
import { drawFor, factsOf, newestVersion } from '../store/exercises.js';
import { publishedExercises } from '../store/shelf.js';
import {
  type Standing,
  bestOf,
  closesAt,
  handIn,
  saveAnswer,
  savedAnswersOf,
  standingIn,
  standingOf,
} from '../store/submissions.js';
import { membershipsOf } from '../store/people.js';
import { type App, type House, answers, byCourse, byExercise } from './route.js';

/** What a student works with. Everything here is about the person who asks and nobody else. */
export function benchRoutes(app: App, { database, checker }: House): void {
  app.get(
    '/api/courses/:courseId/home',
    {
      config: { access: 'member' },
      schema: { summary: 'Published exercises with my own state', params: byCourse, response: answers(Home) },
    },
    async (request) => {
      const person = personOf(request);
      const { courseId } = request.params;
      const course = (await membershipsOf(database, person.id)).find((m) => m.courseId === courseId)!.course;
      const [published, all] = await Promise.all([
        publishedExercises(database, courseId),
        standingIn(database, courseId, person.id),
      ]);
      const exercises = published.map(({ exercise, version }) => {
        const standing = all.filter((entry) => entry.exerciseId === exercise.id);
        const shown = showsVerdicts(version.document, exercise.dueAt);
        const best = version.document.parts.map((part) => bestOf(standing.filter((entry) => entry.partId === part.id)));
        return {
          id: exercise.id,
          title: version.document.title,
          dueAt: exercise.dueAt?.toISOString() ?? null,
          points: shown && best.some(Boolean) ? sumOfShares(best.map((entry) => entry?.points ?? 0)) : null,
          outOf: sumOfShares(version.document.parts.map(pointsOf)),
          parts: version.document.parts.map((part, k) => ({ title: part.title, state: stateOf(best[k], shown) })),
        };
      });
      return { course, exercises };
    },
  );

  app.get(
    '/api/exercises/:exerciseId/bench',
    {
      config: { access: 'member' },
      schema: { summary: 'An exercise with my numbers and my work', params: byExercise, response: answers(Bench) },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const person = personOf(request);
      const version = await newestVersion(database, exerciseId);
      const { courseId, course, dueAt: due, archived } = await factsOf(database, exerciseId);
      if (archived && request.role === 'student') throw new Refusal('putAway');
      const values = await drawFor(database, version, person.id);
      const standing = await standingOf(database, exerciseId, person.id);
      const saved = await savedAnswersOf(database, exerciseId, person.id);
      const shown = showsVerdicts(version.document, due);
      return {
        exerciseId,
        versionId: version.id,
        version: version.number,
        courseId,
        course,
        dueAt: due?.toISOString() ?? null,
        ...studentExercise(version.document, values),
        mayHandIn: request.role === 'student',
        closesAt: closesAt(due, version.document.late)?.toISOString() ?? null,
        saved: saved.map(({ partId, answer, trail, savedAt, revision }) => ({
          partId,
          answer,
          trail,
          revision,
          savedAt: savedAt.toISOString(),
        })),
        handedIn: standing.map((entry) => attemptOf(entry, shown ? version.document.shows : null)),
        solutions: showsSolutions(version.document, due, standing)
          ? version.document.parts.flatMap((part) => solutionIn(part, modelOf(version.document, values)))
          : [],
        revealed: version.document.parts
          .filter((part) => isPrediction(part) && isCommitted(version.document, part, due, standing))
          .map((part) => ({ partId: part.id, curves: revealedCurves(version.document, part, values) })),
      };
    },
  );

  app.put(
    '/api/exercises/:exerciseId/answers/:partId',
    {
      config: { access: 'student' },
      schema: {
        summary: 'Keep an answer in the making',
        params: Type.Object({ exerciseId: Id, partId: Type.String({ maxLength: 32 }) }),
        body: AnswerSave,
        response: answers(AnswerSaved),
      },
    },
    async (request) => {
      const { exerciseId, partId } = request.params;
      return saveAnswer(database, exerciseId, personOf(request).id, partId, request.body);
    },
  );

  app.post(
    '/api/exercises/:exerciseId/submissions',
    {
      config: { access: 'student' },
      schema: {
        summary: 'Hand in',
        description:
          'A `key` names one answer to one part: repeated after a lost connection, it stays one attempt and gives the same answer.',
        params: byExercise,
        body: HandIn,
        response: answers(AttemptMessage),
      },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const person = personOf(request);
      const id = await handIn(database, exerciseId, person.id, request.body);
      const find = async () => (await standingOf(database, exerciseId, person.id)).find((entry) => entry.id === id)!;
      let entry = await find();
      if (!entry.verdict) {
        await checker.check(id);
        entry = await find();
      }
      const version = await newestVersion(database, exerciseId);
      const { dueAt } = await factsOf(database, exerciseId);
      const shown = showsVerdicts(version.document, dueAt);
      return attemptOf(entry, shown ? version.document.shows : null);
    },
  );
}

/** Whether no answer is taken any more, not even a late one. */
function isClosed({ late }: ExerciseDocument, due: Date | null): boolean {
  const closes = closesAt(due, late);
  return closes !== null && closes.getTime() < Date.now();
}

/** Whether students may see their verdicts by now. */
function showsVerdicts(document: ExerciseDocument, due: Date | null): boolean {
  return document.verdict === 'atOnce' || isClosed(document, due);
}

/**
 * Whether a student with these attempts may see the expected answers by now. Parts of an exercise share its model, so
 * one expected answer would give away others: all of them are shown, or none.
 */
function showsSolutions(document: ExerciseDocument, due: Date | null, standing: readonly Standing[]): boolean {
  if (document.solution === 'never') return false;
  if (isClosed(document, due)) return true;
  if (document.solution === 'afterDue' || !showsVerdicts(document, due)) return false;
  return document.parts.every((part) => {
    const own = standing.filter((entry) => entry.partId === part.id);
    const hasNone = part.kind === 'gains' || part.kind === 'curve' || part.kind === 'bode';
    return hasNone || own.some((entry) => entry.verdict?.met) || own.length >= attemptsOf(document, part);
  });
}

/** Whether a prediction can no longer be changed, so that its curves may be seen. */
function isCommitted(document: ExerciseDocument, part: Part, due: Date | null, standing: readonly Standing[]): boolean {
  return isClosed(document, due) || standing.some((entry) => entry.partId === part.id);
}

function solutionIn(part: Part, model: ReturnType<typeof modelOf>): Bench['solutions'] {
  const text = solutionOf(part, model);
  if (text === null) return [];
  const curve = solutionCurve(part, model);
  return [{ partId: part.id, text, ...(curve ? { curve } : {}) }];
}

function stateOf(best: Standing | undefined, shown: boolean): 'open' | 'handedIn' | 'met' | 'missed' {
  if (!best) return 'open';
  if (!shown || !best.verdict) return 'handedIn';
  // An answer that came late is right all the same.
  const met = best.override ? best.points >= best.verdict.outOf : best.verdict.met;
  return met ? 'met' : 'missed';
}

/** One attempt as its student may see it; `shows` is null while verdicts are kept back. */
function attemptOf(entry: Standing, shows: ExerciseDocument['shows'] | null): Attempt {
  return {
    id: entry.id,
    partId: entry.partId,
    attempt: entry.attempt,
    version: entry.version,
    handedInAt: entry.handedInAt.toISOString(),
    answer: entry.answer,
    ...(shows && entry.verdict ? { verdict: verdictAsShown(entry.verdict, shows) } : {}),
    ...(shows && entry.override ? { override: entry.override } : {}),
    ...(shows && (entry.override ?? entry.verdict) ? { points: entry.points } : {}),
  };
}
