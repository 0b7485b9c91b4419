import { CourseChange, CourseCopy, Created } from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import { Refusal } from '../errors.js';
import { record } from '../store/courseLog.js';
import { changeCourse, copyCourse, dataOf, forgetPerson } from '../store/courses.js';
import { hasPassword } from '../store/sessions.js';
import { answers, type App, byCourse, type House, nothing } from './route.js';

/** A course as a whole, and a person’s own data. */
export function courseRoutes(app: App, { database, limits }: House): void {
  app.post(
    '/api/courses/:courseId/copies',
    {
      config: { access: 'instructor', evenArchived: true },
      schema: {
        summary: 'A course for the next year: exercises, sets and dates, without people',
        params: byCourse,
        body: CourseCopy,
        response: answers(Created),
      },
    },
    async (request) => {
      const { id } = personOf(request);
      await limits.take('starting courses', id, 20, 60);
      return { id: await copyCourse(database, request.params.courseId, id, request.body) };
    },
  );

  app.patch(
    '/api/courses/:courseId',
    {
      config: { access: 'instructor', evenArchived: true },
      schema: {
        summary: 'Rename a course, or put it away: everything can be seen and nothing changed',
        params: byCourse,
        body: CourseChange,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { courseId } = request.params;
      const { name, archived } = request.body;
      const words = [
        ...(name === undefined ? [] : ['course renamed']),
        ...(archived === undefined ? [] : [archived ? 'course archived' : 'course brought back']),
      ].join(', ');
      await database.transaction(async (tx) => {
        await changeCourse(tx, courseId, request.body);
        if (words) await record(tx, { courseId, byPersonId: personOf(request).id, words });
      });
      return {};
    },
  );

  app.get(
    '/api/me/data',
    {
      config: { access: 'signedIn' },
      schema: {
        summary: 'Everything that is kept of me, as one file',
        response: answers(Type.Object({}, { additionalProperties: true })),
      },
    },
    async (request, reply) => {
      const { id } = personOf(request);
      await limits.take('own data', id, 20, 3600);
      void reply.header('content-disposition', 'attachment; filename="nailset-my-data.json"');
      return dataOf(database, id);
    },
  );

  app.delete(
    '/api/me',
    {
      config: { access: 'signedIn' },
      schema: {
        summary: 'Delete my account; what I handed in stays without my name',
        body: Type.Object({ password: Type.String({ maxLength: 200 }) }, { additionalProperties: false }),
        response: answers(nothing),
      },
    },
    async (request) => {
      const person = personOf(request);
      await limits.signingIn(person.email, request.ip, async () => {
        if (!(await hasPassword(database, person.id, request.body.password)))
          throw new Refusal('wrongPassword', 'The password is another one. Nothing was deleted.');
      });
      await database.transaction((tx) => forgetPerson(tx, person.id));
      return {};
    },
  );
}
