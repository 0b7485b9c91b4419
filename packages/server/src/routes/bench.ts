import {
  AnswerSave,
  AnswerSaved,
  type Attempt,
  Attempt as AttemptMessage,
  Bench,
  HandIn,
  Home,
  Id,
  must,
  sumOfShares,
} from '@nailset/core';
import { type Disclosure, hintsTold, isVisible, pointsOf } from '@nailset/core/checks';
import Type from 'typebox';
import { personOf } from '../access.js';
import type { StudentVersion } from '../checks/threads.js';
import { Refusal } from '../errors.js';
import { commentsOn } from '../store/answers.js';
import { closesFor, datesIn, datesOf } from '../store/dates.js';
import { drawFor, factsOf, newestVersion } from '../store/exercises.js';
import { handIn } from '../store/handIn.js';
import { hintsOf } from '../store/learning.js';
import { membershipsOf } from '../store/people.js';
import { publishedExercises } from '../store/shelf.js';
import { bestOf, type Standing, standingIn, standingOf, standingOfOne } from '../store/standing.js';
import { saveAnswer, savedAnswersOf } from '../store/submissions.js';
import { disclosureOf } from '../told.js';
import { answers, type App, byCourse, byExercise, bySubmission, type House } from './route.js';

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
      const course = must((await membershipsOf(database, person.id)).find((m) => m.courseId === courseId)).course;
      const [published, all] = await Promise.all([
        publishedExercises(database, courseId),
        standingIn(database, courseId, person.id),
      ]);
      const dates = await datesIn(
        database,
        published.map(({ exercise }) => exercise.id),
      );
      const visible = published.filter(({ exercise }) => isVisible(dates(exercise.id, person.id), new Date()));
      const exercises = visible.map(({ exercise, version }) => {
        const standing = all.filter((entry) => entry.exerciseId === exercise.id);
        const theirDates = dates(exercise.id, person.id);
        const told = disclosureOf(version.document, theirDates);
        const best = version.document.parts.map((part) => bestOf(standing.filter((entry) => entry.partId === part.id)));
        return {
          id: exercise.id,
          title: version.document.title,
          dueAt: theirDates.dueAt,
          extended: theirDates.reason,
          points: told.verdicts && best.some(Boolean) ? sumOfShares(best.map((entry) => entry?.points ?? 0)) : null,
          outOf: sumOfShares(version.document.parts.map(pointsOf)),
          parts: version.document.parts.map((part, k) => ({
            ...{ id: part.id, title: part.title },
            state: told.ofPart(best[k]),
          })),
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
      const { courseId, course, archived } = await factsOf(database, exerciseId);
      const dates = await datesOf(database, exerciseId, person.id);
      if (request.role === 'student') {
        if (archived) throw new Refusal('putAway');
        if (!isVisible(dates, new Date())) throw new Refusal('notYet');
      }
      const values = await drawFor(database, threads, version, person.id);
      const drawing = { versionId: version.id, personId: person.id, document: version.document, values };
      // They are worked out beside what is asked of the database.
      const drawn = threads.drawingsSoon(drawing);
      const standing = await standingOf(database, exerciseId, person.id);
      const saved = await savedAnswersOf(database, exerciseId, person.id);
      const told = disclosureOf(version.document, dates);
      const tells = told.solutions(version.document, standing);
      const hasFigures = version.document.parts.some(({ figure }) => figure);
      const comments = await commentsOn(
        database,
        standing.map(({ id }) => id),
      );
      const drawings = await drawn;
      return {
        exerciseId,
        versionId: version.id,
        version: version.number,
        courseId,
        course,
        dueAt: dates.dueAt,
        extended: dates.reason,
        ...(await threads.seen('view', drawing)),
        ...(drawings ? { drawings } : {}),
        late: dates.late ?? version.document.late,
        mayHandIn: request.role === 'student',
        closesAt: closesFor(version.document, dates)?.toISOString() ?? null,
        saved: saved.map(({ partId, answer, trail, savedAt, revision }) => ({
          partId,
          answer,
          trail,
          revision,
          savedAt: savedAt.toISOString(),
        })),
        handedIn: standing.map((entry) => attemptOf(entry, told, comments.get(entry.id))),
        solutions: tells ? await threads.seen('solutions', drawing) : [],
        measured: tells && hasFigures ? await threads.seen('measured', drawing) : [],
        revealed: await revealedTo(drawing, told, standing),
        hints: await hintsFor(drawing, exerciseId),
        working: tells,
        practice: version.document.parts
          .filter((part) => told.practice(version.document, part, standing))
          .map(({ id }) => id),
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
      if (!isNew) return must(await attemptFor(exerciseId, person.id, handed.id));
      const { partId, answer } = request.body;
      return { ...facts, partId, answer, handedInAt: handedInAt.toISOString(), ...unchecked };
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
        const attempt = await attemptFor(exerciseId, person.id, submissionId);
        if (!attempt) throw new Refusal('notFound');
        return attempt.checked ? attempt : undefined;
      };
      const attempt = await news.until(submissionId, newsSeconds * 1000, checked, gone.signal);
      return attempt ?? must(await attemptFor(exerciseId, person.id, submissionId));
    },
  );

  /** One attempt as its student may see it by now; undefined for someone else’s. */
  async function attemptFor(exerciseId: string, personId: string, submissionId: string) {
    const entry = await standingOfOne(database, submissionId, personId);
    if (entry?.exerciseId !== exerciseId) return undefined;
    // Asked again and again while the check runs, so it reads no more than it must.
    if (!entry.checked) return attemptOf(entry, undefined);
    const { document } = await newestVersion(database, exerciseId);
    const dates = await datesOf(database, exerciseId, personId);
    const comments = await commentsOn(database, [entry.id]);
    return attemptOf(entry, disclosureOf(document, dates), comments.get(entry.id));
  }

  /** The hints that were asked for. */
  async function hintsFor({ document, values, personId }: StudentVersion, exerciseId: string) {
    if (document.parts.every(({ hints = [] }) => hints.length === 0)) return [];
    const taken = await hintsOf(database, exerciseId, personId);
    return document.parts.flatMap((part) => {
      const count = taken.get(part.id);
      return count === undefined ? [] : [{ partId: part.id, texts: hintsTold(document, part, values, count) }];
    });
  }

  /** The curves of predictions that can no longer be changed. */
  async function revealedTo(view: StudentVersion, told: Disclosure, standing: readonly Standing[]) {
    const committed = view.document.parts.filter((part) => told.prediction(part, standing));
    if (committed.length === 0) return [];
    const curves = await threads.seen('revealed', view);
    return curves.filter(({ partId }) => committed.some(({ id }) => id === partId));
  }
}

/** How long a question for a verdict is kept open, shorter than proxies wait. */
const newsSeconds = 25;

const unchecked = { checked: false, outOfTime: false, comments: [], returned: false };

type Comment = Attempt['comments'][number];

/** One attempt as its student may see it; of one that is not checked there is nothing to tell. */
const attemptOf = (entry: Standing, told: Disclosure | undefined, comments: readonly Comment[] = []): Attempt => ({
  id: entry.id,
  partId: entry.partId,
  attempt: entry.attempt,
  version: entry.version,
  handedInAt: entry.handedInAt.toISOString(),
  answer: entry.answer,
  ...unchecked,
  ...told?.ofAttempt(entry),
  ...(told?.verdicts && entry.hintCost > 0 ? { hintCost: entry.hintCost } : {}),
  ...(told?.verdicts && entry.corrected ? { corrected: entry.corrected } : {}),
  comments: comments.map(({ text, by, at }) => ({ text, by, at })),
  returned: entry.returned,
});
