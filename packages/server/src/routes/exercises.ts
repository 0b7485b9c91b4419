import {
  Created,
  Draft,
  DraftSave,
  DraftSaved,
  ExerciseChange,
  ExerciseDocument,
  Publish,
  Published,
  Publishing,
  Shelf,
  Version,
} from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import { record } from '../store/courseLog.js';
import {
  addExercise,
  changeExercise,
  draftOf,
  factsOf,
  publishDraft,
  saveDraft,
  versionDocument,
  versionsOf,
} from '../store/exercises.js';
import { publishingOf } from '../store/publishing.js';
import { shelfOf } from '../store/shelf.js';
import { answers, type App, byCourse, byExercise, type House, nothing } from './route.js';

/** Making exercises: the shelf, drafts and published versions. */
export function exerciseRoutes(app: App, { database, threads }: House): void {
  app.get(
    '/api/courses/:courseId/shelf',
    {
      config: { access: 'staff' },
      schema: { summary: 'A course’s exercises, for its staff', params: byCourse, response: answers(Shelf) },
    },
    async (request) => shelfOf(database, request.params.courseId),
  );

  app.post(
    '/api/courses/:courseId/exercises',
    {
      config: { access: 'instructor' },
      schema: { summary: 'A new exercise', params: byCourse, body: ExerciseDocument, response: answers(Created) },
    },
    async (request) => ({ id: await addExercise(database, request.params.courseId, request.body) }),
  );

  app.get(
    '/api/exercises/:exerciseId/draft',
    {
      config: { access: 'staff' },
      schema: { summary: 'The draft of an exercise', params: byExercise, response: answers(Draft) },
    },
    async (request) => draftOf(database, request.params.exerciseId),
  );

  app.get(
    '/api/exercises/:exerciseId/file',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'The draft as a file, for another course or for ./nailset check',
        params: byExercise,
        response: answers(ExerciseDocument),
      },
    },
    async (request, reply) => {
      const { document } = await draftOf(database, request.params.exerciseId);
      const name =
        document.title
          .toLowerCase()
          .replace(/[^a-z0-9]+/g, '-')
          .replace(/^-|-$/g, '') || 'exercise';
      void reply.header('content-disposition', `attachment; filename="${name}.json"`);
      return document;
    },
  );

  app.put(
    '/api/exercises/:exerciseId/draft',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Save the draft',
        description: '`revision` is the one that the change was made to; a newer one on the server is an error.',
        params: byExercise,
        body: DraftSave,
        response: answers(DraftSaved),
      },
    },
    async (request) => saveDraft(database, request.params.exerciseId, request.body.revision, request.body.document),
  );

  app.post(
    '/api/exercises/:exerciseId/copies',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Duplicate: a new exercise with the same draft',
        params: byExercise,
        response: answers(Created),
      },
    },
    async (request) => {
      const { courseId, document } = await draftOf(database, request.params.exerciseId);
      const title = `${document.title.slice(0, 112)} (copy)`;
      return { id: await addExercise(database, courseId, { ...document, title }) };
    },
  );

  app.get(
    '/api/exercises/:exerciseId/versions',
    {
      config: { access: 'staff' },
      schema: { summary: 'Published versions', params: byExercise, response: answers(Type.Array(Version)) },
    },
    async (request) => versionsOf(database, request.params.exerciseId),
  );

  app.get(
    '/api/exercises/:exerciseId/versions/:number',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'A published version as it was published',
        params: Type.Object({ ...byExercise.properties, number: Type.String({ pattern: '^[1-9]\\d{0,5}$' }) }),
        response: answers(ExerciseDocument),
      },
    },
    async (request) => versionDocument(database, request.params.exerciseId, Number(request.params.number)),
  );

  app.post(
    '/api/exercises/:exerciseId/versions',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Publish the draft as the next version, which never changes',
        params: byExercise,
        body: Publish,
        response: answers(Published),
      },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const byPersonId = personOf(request).id;
      const version = await publishDraft(database, exerciseId, request.body, byPersonId, (document) =>
        threads.examine(document),
      );
      const { courseId } = await factsOf(database, exerciseId);
      await record(database, { courseId, exerciseId, byPersonId, words: `version ${version} published` });
      return { version };
    },
  );

  app.get(
    '/api/exercises/:exerciseId/publishing',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'What publishing the draft would change for students',
        params: byExercise,
        response: answers(Publishing),
      },
    },
    async (request) =>
      publishingOf(database, request.params.exerciseId, (document, seen) => threads.countRuledOut(document, seen)),
  );

  app.patch(
    '/api/exercises/:exerciseId',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Set or clear the dates for everyone, archive',
        params: byExercise,
        body: ExerciseChange,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const { dueAt, visibleFrom, archived } = request.body;
      const at = (name: 'dueAt' | 'visibleFrom', time: string | null | undefined) =>
        time === undefined ? {} : { [name]: time === null ? null : new Date(time) };
      const words = [
        ...(visibleFrom === undefined ? [] : [`visible from ${visibleFrom ?? 'at once'}`]),
        ...(dueAt === undefined ? [] : [`due ${dueAt ?? 'never'}`]),
        ...(archived === undefined ? [] : [archived ? 'archived' : 'back on the shelf']),
      ].join(', ');
      const { courseId } = await factsOf(database, exerciseId);
      await database.transaction(async (tx) => {
        await changeExercise(tx, exerciseId, {
          ...at('visibleFrom', visibleFrom),
          ...at('dueAt', dueAt),
          ...(archived === undefined ? {} : { archived }),
        });
        if (words) await record(tx, { courseId, exerciseId, byPersonId: personOf(request).id, words });
      });
      return {};
    },
  );
}
