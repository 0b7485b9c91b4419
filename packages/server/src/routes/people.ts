import Type from 'typebox';
import {
  CoursePeople,
  Created,
  Id,
  Join,
  NewCourse,
  Person,
  Registration,
  RoleChange,
  Session,
  SignIn,
} from '@nailset/core';
import { personOf, sessionCookie } from '../access.js';
import { demoPassword } from '../demo/people.js';
import { Refusal } from '../errors.js';
import {
  addCourse,
  addPerson,
  changeRole,
  closeSession,
  courseWithPeople,
  demoPeople,
  hashPassword,
  joinCourse,
  membershipsOf,
  openSession,
  personByPassword,
} from '../store/people.js';
import { type App, type House, answers, byCourse, nothing } from './route.js';

/** Signing in and out, accounts, courses and who belongs to them. */
export function peopleRoutes(app: App, { database, settings }: House): void {
  app.get(
    '/api/session',
    { config: { access: 'anyone' }, schema: { summary: 'Who is signed in here', response: answers(Session) } },
    async (request, reply) => ({
      csrfToken: reply.generateCsrf(),
      person: request.person,
      memberships: request.person ? await membershipsOf(database, request.person.id) : [],
      demo: settings.demo ? await demoPeople(database) : [],
      ...(settings.demo ? { demoPassword } : {}),
    }),
  );

  app.post(
    '/api/session',
    {
      config: {
        access: 'anyone',
        // Per e-mail, so that a whole class behind one address can sign in at once but nobody can be guessed at.
        rateLimit: {
          max: 10,
          timeWindow: '1 minute',
          hook: 'preHandler',
          keyGenerator: (request) => `sign-in ${(request.body as { email: string }).email.trim().toLowerCase()}`,
        },
      },
      schema: { summary: 'Sign in', body: SignIn, response: answers(Person) },
    },
    async (request, reply) => {
      // Everybody knows the password of the demo; outside it, it opens nothing.
      if (!settings.demo && request.body.password === demoPassword) throw new Refusal('wrongPassword');
      const person = await personByPassword(database, request.body.email, request.body.password);
      reply.signIn(await openSession(database, person.id));
      return person;
    },
  );

  app.delete(
    '/api/session',
    { config: { access: 'anyone' }, schema: { summary: 'Sign out', response: answers(nothing) } },
    async (request, reply) => {
      const token = request.cookies[sessionCookie];
      if (token) await closeSession(database, token);
      reply.clearCookie(sessionCookie, { path: '/' });
      return {};
    },
  );

  app.post(
    '/api/people',
    {
      config: { access: 'anyone', rateLimit: { max: 300, timeWindow: '1 minute' } },
      schema: {
        summary: 'Make an account, and join a course by its code',
        body: Registration,
        response: answers(Person),
      },
    },
    async (request, reply) => {
      const { name, email, password, joinCode } = request.body;
      const passwordHash = await hashPassword(password);
      const person = await database.transaction(async (tx) => {
        const added = await addPerson(tx, { name, email, passwordHash });
        if (joinCode) await joinCourse(tx, added.id, joinCode);
        return added;
      });
      reply.signIn(await openSession(database, person.id));
      return person;
    },
  );

  app.post(
    '/api/memberships',
    {
      config: { access: 'signedIn', rateLimit: { max: 20, timeWindow: '1 minute' } },
      schema: { summary: 'Join a course by its code', body: Join, response: answers(Created) },
    },
    async (request) => ({ id: await joinCourse(database, personOf(request).id, request.body.joinCode) }),
  );

  app.post(
    '/api/courses',
    {
      config: { access: 'signedIn', rateLimit: { max: 20, timeWindow: '1 minute' } },
      schema: { summary: 'Start a course as its instructor', body: NewCourse, response: answers(Created) },
    },
    async (request) => {
      const person = personOf(request);
      const teaches = (await membershipsOf(database, person.id)).some(({ role }) => role === 'instructor');
      const { name, courseKey } = request.body;
      if (!teaches && (!settings.courseKey || courseKey?.trim() !== settings.courseKey))
        throw new Refusal('wrongCourseKey');
      return { id: await addCourse(database, { name, instructorId: person.id }) };
    },
  );

  app.get(
    '/api/courses/:courseId/people',
    {
      config: { access: 'staff' },
      schema: { summary: 'Everyone in a course', params: byCourse, response: answers(CoursePeople) },
    },
    async (request) => courseWithPeople(database, request.params.courseId),
  );

  app.put(
    '/api/courses/:courseId/people/:personId/role',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Change someone’s role',
        params: Type.Object({ courseId: Id, personId: Id }),
        body: RoleChange,
        response: answers(nothing),
      },
    },
    async (request) => {
      await changeRole(database, request.params.courseId, request.params.personId, request.body.role);
      return {};
    },
  );
}
