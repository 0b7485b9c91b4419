import { ExerciseDates, Id, NewExtension } from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import { record } from '../store/courseLog.js';
import { addExtensions, exerciseDates, removeExtension } from '../store/dates.js';
import { factsOf } from '../store/exercises.js';
import { answers, type App, byExercise, type House, nothing } from './route.js';

/** Dates of an exercise: for everyone, for a group, for one person. */
export function dateRoutes(app: App, { database }: House): void {
  app.get(
    '/api/exercises/:exerciseId/dates',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Dates of an exercise, and who has others',
        params: byExercise,
        response: answers(ExerciseDates),
      },
    },
    async (request) => exerciseDates(database, request.params.exerciseId),
  );

  app.post(
    '/api/exercises/:exerciseId/extensions',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Give people or groups dates of their own, with a reason that they see',
        params: byExercise,
        body: NewExtension,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const { courseId } = await factsOf(database, exerciseId);
      const byPersonId = personOf(request).id;
      const { personIds, groups, dueAt, visibleFrom, late, reason } = request.body;
      const dates = [
        ...(visibleFrom ? [`visible from ${visibleFrom}`] : []),
        ...(dueAt ? [`due ${dueAt}`] : []),
        ...(late ? [`${late.hours} h late keep ${late.keepPercent} %`] : []),
      ].join(', ');
      const whose = [
        ...personIds.map((personId) => ({ personId, of: '' })),
        ...groups.map((group) => ({ personId: null, of: ` for group ${group}` })),
      ];
      await database.transaction(async (tx) => {
        await addExtensions(tx, { exerciseId, courseId, byPersonId }, request.body);
        await record(
          tx,
          ...whose.map(({ personId, of }) => ({
            ...{ courseId, exerciseId, personId, byPersonId, reason, words: `dates of their own${of}: ${dates}` },
          })),
        );
      });
      return {};
    },
  );

  app.delete(
    '/api/exercises/:exerciseId/extensions/:extensionId',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Take dates of one’s own away again',
        params: Type.Object({ ...byExercise.properties, extensionId: Id }),
        response: answers(nothing),
      },
    },
    async (request) => {
      const { exerciseId, extensionId } = request.params;
      const { courseId } = await factsOf(database, exerciseId);
      await database.transaction(async (tx) => {
        const { personId, group } = await removeExtension(tx, exerciseId, extensionId);
        const words = `dates of their own taken away${group === null ? '' : ` from group ${group}`}`;
        await record(tx, { courseId, exerciseId, personId, byPersonId: personOf(request).id, words });
      });
      return {};
    },
  );
}
