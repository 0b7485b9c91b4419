import {
  CoursePeople,
  Created,
  Id,
  Join,
  Links,
  LinksWanted,
  MemberChange,
  NewCourse,
  Person,
  Registration,
  RoleChange,
  RosterPlan,
  RosterUpload,
  Session,
  SignIn,
} from '@nailset/core';
import Type from 'typebox';
import { personOf, sessionCookie } from '../access.js';
import { demoPassword } from '../demo/people.js';
import { Refusal } from '../errors.js';
import { hashPassword, refuseWeakPassword } from '../passwords.js';
import { record } from '../store/courseLog.js';
import {
  addCourse,
  addPerson,
  changeMember,
  changeRole,
  courseWithPeople,
  demoPeople,
  joinCourse,
  membershipsOf,
  personByPassword,
} from '../store/people.js';
import { linksForWaiting, takeRoster } from '../store/roster.js';
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
      await refuseWeakPassword(password, { name, email });
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
    async (request) => ({
      ...(await courseWithPeople(database, request.params.courseId, { removed: true })),
      mail: post !== undefined,
    }),
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
      const { courseId, personId } = request.params;
      const { role } = request.body;
      await database.transaction(async (tx) => {
        await changeRole(tx, courseId, personId, role);
        await record(tx, { courseId, personId, byPersonId: personOf(request).id, words: `role changed: ${role}` });
      });
      return {};
    },
  );

  app.patch(
    '/api/courses/:courseId/people/:personId',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Change someone’s number or group, or take them out of the course or back in',
        params: Type.Object({ courseId: Id, personId: Id }),
        body: MemberChange,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { courseId, personId } = request.params;
      const change = request.body;
      const words = [
        ...(change.studentNumber === undefined ? [] : ['student number changed']),
        ...(change.group === undefined ? [] : [`group: ${change.group || 'none'}`]),
        ...(change.removed === undefined ? [] : [change.removed ? 'taken out of the course' : 'back in the course']),
      ].join(', ');
      await database.transaction(async (tx) => {
        await changeMember(tx, courseId, personId, change);
        await record(tx, { courseId, personId, byPersonId: personOf(request).id, words });
      });
      return {};
    },
  );

  app.delete(
    '/api/courses/:courseId/membership',
    {
      config: { access: 'member', evenArchived: true },
      schema: { summary: 'Leave a course; what I handed in is kept', params: byCourse, response: answers(nothing) },
    },
    async (request) => {
      const { courseId } = request.params;
      const { id } = personOf(request);
      await database.transaction(async (tx) => {
        await changeMember(tx, courseId, id, { removed: true }, true);
        await record(tx, { courseId, personId: id, byPersonId: id, words: 'left the course' });
      });
      return {};
    },
  );

  app.post(
    '/api/courses/:courseId/people/lists',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Take people in from a list: CSV, or the files of a OneRoster 1.2 export',
        description: 'Without `apply` it only says what would change. The same list again changes nothing.',
        params: byCourse,
        body: RosterUpload,
        response: answers(RosterPlan),
      },
    },
    async (request) => takeRoster(database, request.params.courseId, personOf(request).id, request.body),
  );

  app.post(
    '/api/courses/:courseId/people/links',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Personal links for everyone who has not chosen a password yet',
        params: byCourse,
        body: LinksWanted,
        response: answers(Links),
      },
    },
    async (request) => {
      const { courseId } = request.params;
      if (request.body.mail && !post)
        throw new Refusal('noMail', 'This installation sends no mail. Hand the links out.');
      await limits.take('links of a course', courseId, 30, 3600);
      const links = await linksForWaiting(database, courseId, personOf(request).id);
      if (!request.body.mail || !post) return { links, sent: 0 };
      const { course } = await courseWithPeople(database, courseId);
      // One after the other, on their own time: a mail server refuses hundreds at once.
      void (async () => {
        for (const { email, name, path } of links) {
          await post
            .send(email, `Your link to ${course}`, invitationTo(name, course, `${settings.publicUrl}${path}`))
            .catch((error: unknown) => request.log.error({ err: error }, 'a link could not be sent by mail'));
        }
      })();
      return { links: [], sent: links.length };
    },
  );
}

const invitationTo = (name: string, course: string, link: string): string => `Hello ${name},

you are in the course ${course} on Nailset. Choose a password here; the link is for you alone:

${link}
`;
