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
import Type from 'typebox';
import { personOf, sessionCookie } from '../access.js';
import { demoPassword } from '../demo/people.js';
import { Refusal } from '../errors.js';
import { hashPassword, refuseWeakPassword } from '../passwords.js';
import {
  addCourse,
  addPerson,
  changeRole,
  courseWithPeople,
  demoPeople,
  joinCourse,
  membershipsOf,
  personByPassword,
} from '../store/people.js';
import { closeSession, openSession } from '../store/sessions.js';
import { browserOf } from './browser.js';
import { answers, type App, byCourse, type House, nothing } from './route.js';

/** Signing in and out, accounts, courses and who belongs to them. */
export function peopleRoutes(app: App, { database, limits, post, settings }: House): void {
  app.get(
    '/api/session',
    { config: { access: 'anyone' }, schema: { summary: 'Who is signed in here', response: answers(Session) } },
    async (request, reply) => ({
      csrfToken: reply.generateCsrf(),
      person: request.person,
      memberships: request.person ? await membershipsOf(database, request.person.id) : [],
      demo: settings.demo ? await demoPeople(database) : [],
      ...(settings.demo ? { demoPassword } : {}),
      mail: post !== undefined,
    }),
  );

  app.post(
    '/api/session',
    {
      config: { access: 'anyone' },
      schema: { summary: 'Sign in', body: SignIn, response: answers(Person) },
    },
    async (request, reply) => {
      const { email, password } = request.body;
      const person = await limits.signingIn(email, request.ip, async () => {
        // Everybody knows the password of the demo; outside it, it opens nothing.
        if (!settings.demo && password === demoPassword) throw new Refusal('wrongPassword');
        return personByPassword(database, email, password);
      });
      reply.signIn(await openSession(database, person.id, browserOf(request)));
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
      config: { access: 'anyone' },
      schema: {
        summary: 'Make an account, and join a course by its code',
        body: Registration,
        response: answers(Person),
      },
    },
    async (request, reply) => {
      const { name, email, password, joinCode } = request.body;
      await limits.take('accounts', request.ip, 300, 60);
      refuseWeakPassword(password, { name, email });
      const passwordHash = await hashPassword(password);
      const person = await database.transaction(async (tx) => {
        const added = await addPerson(tx, { name, email, passwordHash });
        if (joinCode) await joinCourse(tx, added.id, joinCode);
        return added;
      });
      reply.signIn(await openSession(database, person.id, browserOf(request)));
      return person;
    },
  );

  app.post(
    '/api/memberships',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'Join a course by its code', body: Join, response: answers(Created) },
    },
    async (request) => {
      const { id } = personOf(request);
      await limits.take('joining', id, 20, 60);
      return { id: await joinCourse(database, id, request.body.joinCode) };
    },
  );

  app.post(
    '/api/courses',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'Start a course as its instructor', body: NewCourse, response: answers(Created) },
    },
    async (request) => {
      const person = personOf(request);
      await limits.take('starting courses', person.id, 20, 60);
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
