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
  isPrediction,
  sumOfShares,
} from '@nailset/core';
import { attemptsOf, pointsOf, verdictAsShown } from '@nailset/core/checks';
import { personOf } from '../access.js';
import type { StudentVersion } from '../checks/threads.js';
import { Refusal } from '../errors.js';
import { drawFor, factsOf, newestVersion } from '../store/exercises.js';
import { publishedExercises } from '../store/shelf.js';
import { closesAt, handIn } from '../store/handIn.js';
import {
  type Standing,
  bestOf,
  saveAnswer,
  savedAnswersOf,
  standingIn,
  standingOf,
  standingOfOne,
} from '../store/submissions.js';
import { membershipsOf } from '../store/people.js';
import { type App, type House, answers, byCourse, byExercise, bySubmission } from './route.js';

/** What a student works with. Everything here is about the person who asks and nobody else. */
export function benchRoutes(app: App, { database, threads, news }: House): void {
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
      const values = await drawFor(database, threads, version, person.id);
      const own = { versionId: version.id, personId: person.id, document: version.document, values };
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
        ...(await threads.seen('view', own)),
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
        solutions: showsSolutions(version.document, due, standing) ? await threads.seen('solutions', own) : [],
        revealed: await revealedTo(own, due, standing),
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
      const handed = await handIn(database, threads, exerciseId, person.id, request.body);
      const { isNew, handedInAt, ...facts } = handed;
      // One that was sent before may be checked by now.
      if (!isNew) return (await attemptFor(exerciseId, person.id, handed.id))!;
      const { partId, answer } = request.body;
      return { ...facts, partId, answer, handedInAt: handedInAt.toISOString(), checked: false, outOfTime: false };
    },
  );

  app.get(
    '/api/exercises/:exerciseId/attempts/:submissionId',
    {
      config: { access: 'student', limit: false },
      schema: {
        summary: 'One attempt of mine, when it is checked',
        description: `Answers as soon as the verdict is there, and after ${newsSeconds} s in any case.`,
        params: Type.Object({ ...byExercise.properties, ...bySubmission.properties }),
        response: answers(AttemptMessage),
      },
    },
    async (request) => {
      const { exerciseId, submissionId } = request.params;
      const person = personOf(request);
      const gone = new AbortController();
      request.raw.once('close', () => request.raw.destroyed && gone.abort());
      const checked = async () => {
        const found = await attemptFor(exerciseId, person.id, submissionId);
        if (!found) throw new Refusal('notFound');
        return found.checked ? found : undefined;
      };
      const found = await news.until(submissionId, newsSeconds * 1000, checked, gone.signal);
      return found ?? (await attemptFor(exerciseId, person.id, submissionId))!;
    },
  );

  /** One attempt as its student may see it by now; undefined for someone else’s. */
  async function attemptFor(exerciseId: string, personId: string, submissionId: string) {
    const entry = await standingOfOne(database, submissionId, personId);
    if (entry?.exerciseId !== exerciseId) return undefined;
    if (!entry.checked) return attemptOf(entry, null);
    const { document } = await newestVersion(database, exerciseId);
    return attemptOf(entry, showsVerdicts(document, entry.dueAt) ? document.shows : null);
  }

  /** The curves of predictions that can no longer be changed. */
  async function revealedTo(own: StudentVersion, due: Date | null, standing: readonly Standing[]) {
    const committed = own.document.parts.filter(
      (part) => isPrediction(part) && isCommitted(own.document, part, due, standing),
    );
    if (committed.length === 0) return [];
    const curves = await threads.seen('revealed', own);
    return curves.filter(({ partId }) => committed.some(({ id }) => id === partId));
  }
}

/** How long a question for a verdict is kept open, shorter than proxies wait. */
const newsSeconds = 25;

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
    checked: entry.checked,
    outOfTime: shows !== null && entry.checked && entry.verdict === null,
    ...(shows && entry.verdict ? { verdict: verdictAsShown(entry.verdict, shows) } : {}),
    ...(shows && entry.override ? { override: entry.override } : {}),
    ...(shows && (entry.override ?? entry.verdict) ? { points: entry.points } : {}),
  };
}
