import { Id, must, PasswordByLink, PasswordChange, Person, ResetLink, ResetRequest, SessionRow } from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import { Refusal } from '../errors.js';
import { mayResetFor, membershipsOf, roleIn } from '../store/people.js';
import {
  endOtherSessions,
  endSession,
  hasPassword,
  makeResetLink,
  openSession,
  personByEmail,
  resetHours,
  sessionsOf,
  setPassword,
  usePasswordLink,
} from '../store/sessions.js';
import { browserOf } from './browser.js';
import { answers, type App, type House, nothing } from './route.js';

/** Passwords and where one is signed in. */
export function accountRoutes(app: App, { database, limits, post, settings }: House): void {
  app.put(
    '/api/me/password',
    {
      config: { access: 'signedIn' },
      schema: {
        summary: 'Change my password; every other browser is signed out',
        body: PasswordChange,
        response: answers(nothing),
      },
    },
    async (request) => {
      const person = personOf(request);
      const { current, password } = request.body;
      await limits.signingIn(person.email, request.ip, async () => {
        if (!(await hasPassword(database, person.id, current)))
          throw new Refusal('wrongPassword', 'The present password is another one.');
      });
      await database.transaction((tx) => setPassword(tx, person, password, request.session));
      return {};
    },
  );

  app.get(
    '/api/me/sessions',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'Where I am signed in', response: answers(Type.Array(SessionRow)) },
    },
    async (request) => sessionsOf(database, personOf(request).id, must(request.session)),
  );

  app.delete(
    '/api/me/sessions',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'Sign out everywhere else', response: answers(nothing) },
    },
    async (request) => {
      await endOtherSessions(database, personOf(request).id, request.session);
      return {};
    },
  );

  app.delete(
    '/api/me/sessions/:sessionId',
    {
      config: { access: 'signedIn' },
      schema: {
        summary: 'Sign out in one of my browsers',
        params: Type.Object({ sessionId: Id }),
        response: answers(nothing),
      },
    },
    async (request) => {
      await endSession(database, personOf(request).id, request.params.sessionId);
      return {};
    },
  );

  app.post(
    '/api/courses/:courseId/people/:personId/reset-link',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'A link for someone of the course to set a new password',
        description: `For one use, within ${resetHours} hours. Staff make it for students; for others, only who teaches every course that they help to run.`,
        params: Type.Object({ courseId: Id, personId: Id }),
        response: answers(ResetLink),
      },
    },
    async (request) => {
      const { courseId, personId } = request.params;
      if (!(await roleIn(database, courseId, personId))) throw new Refusal('notFound');
      const maker = personOf(request);
      const [membership, theirs] = await Promise.all([
        membershipsOf(database, maker.id),
        membershipsOf(database, personId),
      ]);
      if (personId === maker.id || !mayResetFor(membership, theirs)) throw new Refusal('forbidden');
      const { token, expiresAt } = await makeResetLink(database, personId, maker.id);
      return { path: pathFor(token), expiresAt: expiresAt.toISOString() };
    },
  );

  app.post(
    '/api/reset-links',
    {
      config: { access: 'anyone' },
      schema: {
        summary: 'Ask for a link to set a new password, by mail',
        description: 'The answer is the same whether or not the e-mail has an account.',
        body: ResetRequest,
        response: answers(nothing),
      },
    },
    async (request) => {
      if (!post) throw new Refusal('noMail');
      const { email } = request.body;
      await limits.take('reset by address', request.ip, 60, 3600);
      await limits.take('reset by account', email.trim().toLowerCase(), 5, 3600);
      const person = await personByEmail(database, email);
      // Sent on its own time, so that how long the answer takes tells nothing.
      if (person) {
        void makeResetLink(database, person.id, null)
          .then(({ token }) =>
            post.send(
              person.email,
              'A new password for Nailset',
              letterTo(person, `${settings.publicUrl}${pathFor(token)}`),
            ),
          )
          .catch((error: unknown) => request.log.error({ err: error }, 'a link could not be sent by mail'));
      }
      return {};
    },
  );

  app.put(
    '/api/password',
    {
      config: { access: 'anyone' },
      schema: {
        summary: 'Set a new password by a link, and sign in',
        body: PasswordByLink,
        response: answers(Person),
      },
    },
    async (request, reply) => {
      await limits.take('links', request.ip, 60, 600);
      const { token, password } = request.body;
      const person = await usePasswordLink(database, token, password);
      reply.signIn(await openSession(database, person.id, browserOf(request)));
      return person;
    },
  );
}

/** After the #, so that it is sent to no server and stands in no log. */
const pathFor = (token: string): string => `/new-password#${token}`;

const letterTo = ({ name }: Person, link: string): string => `Hello ${name},

someone asked for a new password for your Nailset account. Set it here, within three days:

${link}

If it was not you, do nothing: your password stays as it is.
`;
