import { Excuse, ExportFile, ExportRow, Id, LogRow, Marking, Marks, NewExport, TermOverview } from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import { logOf, record } from '../store/courseLog.js';
import { refuseStrangers } from '../store/dates.js';
import { factsOf } from '../store/exercises.js';
import { addExport, exportFile, exportsOf } from '../store/exports.js';
import { marksOf, setExcused, setMarking } from '../store/marks.js';
import { overviewOf } from '../store/overview.js';
import { answers, type App, byCourse, byExercise, type House, nothing } from './route.js';

/** Marks of a course, how they are made and what was given out of them; and the log of what changed them. */
export function markRoutes(app: App, { database }: House): void {
  app.get(
    '/api/courses/:courseId/marks',
    {
      config: { access: 'staff' },
      schema: { summary: 'The gradebook', params: byCourse, response: answers(Marks) },
    },
    async (request) => marksOf(database, request.params.courseId),
  );

  app.get(
    '/api/courses/:courseId/marks/mine',
    {
      config: { access: 'student' },
      schema: { summary: 'My own row of the gradebook', params: byCourse, response: answers(Marks) },
    },
    async (request) => marksOf(database, request.params.courseId, personOf(request).id),
  );

  app.put(
    '/api/courses/:courseId/marking',
    {
      config: { access: 'instructor' },
      schema: { summary: 'Change how marks are made', params: byCourse, body: Marking, response: answers(nothing) },
    },
    async (request) => {
      const { courseId } = request.params;
      await database.transaction(async (tx) => {
        await setMarking(tx, courseId, request.body);
        const sets = request.body.sets.map(
          ({ name, weight, best }) => `${name} ${weight}${best ? `, best ${best}` : ''}`,
        );
        await record(tx, { courseId, byPersonId: personOf(request).id, words: `marking changed: ${sets.join('; ')}` });
      });
      return {};
    },
  );

  app.put(
    '/api/exercises/:exerciseId/excused/:personId',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Let an exercise not count for someone, or count again',
        params: Type.Object({ ...byExercise.properties, personId: Id }),
        body: Excuse,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { exerciseId, personId } = request.params;
      const { excused, reason } = request.body;
      const { courseId } = await factsOf(database, exerciseId);
      await database.transaction(async (tx) => {
        await refuseStrangers(tx, courseId, [personId]);
        await setExcused(tx, exerciseId, personId, excused ? reason.trim() : null);
        const words = excused ? 'excused' : 'not excused any more';
        await record(tx, { courseId, exerciseId, personId, byPersonId: personOf(request).id, words, reason });
      });
      return {};
    },
  );

  app.get(
    '/api/courses/:courseId/exports',
    {
      config: { access: 'staff' },
      schema: { summary: 'What was exported and when', params: byCourse, response: answers(Type.Array(ExportRow)) },
    },
    async (request) => exportsOf(database, request.params.courseId),
  );

  app.post(
    '/api/courses/:courseId/exports',
    {
      config: { access: 'staff', evenArchived: true },
      schema: {
        summary: 'Export the marks as they are now; what is given out is kept',
        params: byCourse,
        body: NewExport,
        response: answers(ExportFile),
      },
    },
    async (request) => addExport(database, request.params.courseId, personOf(request).id, request.body.kind),
  );

  app.get(
    '/api/courses/:courseId/exports/:exportId',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'A file as it was given out',
        params: Type.Object({ ...byCourse.properties, exportId: Id }),
        response: answers(ExportFile),
      },
    },
    async (request) => exportFile(database, request.params.courseId, request.params.exportId),
  );

  app.get(
    '/api/courses/:courseId/log',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'What staff did to marks, dates and people, newest first',
        params: byCourse,
        response: answers(Type.Array(LogRow)),
      },
    },
    async (request) => logOf(database, request.params.courseId, logLength),
  );

  app.get(
    '/api/courses/:courseId/overview',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'How the class did, exercise by exercise: points, nails, slips, answers by day',
        params: byCourse,
        response: answers(TermOverview),
      },
    },
    async (request) => overviewOf(database, request.params.courseId),
  );
}

/** Lines of the log that a page shows. */
const logLength = 2000;
