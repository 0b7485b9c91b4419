import type { Person, Role } from '@nailset/core';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { Refusal } from './errors.js';
import type { Database } from './store/database.js';
import { type Named, personBySession, sessionDays } from './store/sessions.js';

export const sessionCookie = 'nailset_session';

/** Who may use a route. `member` and narrower look at the role in the course that the address leads to. */
export type Access = 'anyone' | 'signedIn' | 'member' | 'student' | 'staff' | 'instructor';

const roles: Record<Exclude<Access, 'anyone' | 'signedIn'>, readonly Role[]> = {
  member: ['instructor', 'assistant', 'student'],
  student: ['student'],
  staff: ['instructor', 'assistant'],
  instructor: ['instructor'],
};

declare module 'fastify' {
  interface FastifyContextConfig {
    access?: Access;
    /** Whether it also changes a course that is put away. */
    evenArchived?: boolean;
    /** False for what is not counted. */
    limit?: boolean;
  }
  interface FastifyRequest {
    person: Person | null;
    session: string | null;
    role: Role | null;
  }
}

/** The person behind a request; only for routes that need one. */
export function personOf(request: FastifyRequest): Person {
  if (!request.person) throw new Refusal('notSignedIn');
  return request.person;
}

/**
 * Checks every request against the `access` of its route, before its body is looked at. A route without one is refused
 * when it is registered. Someone outside a course is told that nothing is there.
 */
export function guardAccess(app: FastifyInstance, database: Database, secureCookies: boolean): void {
  app.decorateRequest('person', null);
  app.decorateRequest('session', null);
  app.decorateRequest('role', null);

  app.addHook('onRoute', (route) => {
    if (route.url.startsWith('/api/') && !route.config?.access) {
      throw new Error(`${route.url} does not say who may use it.`);
    }
  });

  app.addHook('onRequest', async (request) => {
    const token = request.cookies[sessionCookie];
    const named = namedBy(request.params as Record<string, string>);
    const session = token ? await personBySession(database, token, named) : undefined;
    request.person = session?.person ?? null;
    request.session = session?.session ?? null;
    const access = request.routeOptions.config.access ?? 'anyone';
    refuseOtherPerson(request);
    if (access === 'anyone') return;
    personOf(request);
    if (access === 'signedIn') return;
    request.role = session?.role ?? null;
    if (!request.role) throw new Refusal('notFound');
    if (!roles[access].includes(request.role)) throw new Refusal('forbidden');
    const { evenArchived = request.method === 'GET' } = request.routeOptions.config;
    if (session?.archived && !evenArchived) throw new Refusal('archived');
  });

  app.decorateReply('signIn', function (this: FastifyReply, token: string) {
    return this.setCookie(sessionCookie, token, {
      path: '/',
      httpOnly: true,
      sameSite: 'lax',
      secure: secureCookies,
      maxAge: sessionDays * 86_400,
    });
  });
}

declare module 'fastify' {
  interface FastifyReply {
    signIn(token: string): FastifyReply;
  }
}

/**
 * A page says whose it is. Where someone else is signed in by now, nothing is answered or recorded for them; only who
 * is signed in may be asked, and signing in is open.
 */
function refuseOtherPerson(request: FastifyRequest): void {
  const whose = request.headers['x-nailset-person'];
  if (whose === undefined || !request.person || whose === request.person.id) return;
  const asksWho = request.routeOptions.url === '/api/session' && request.method !== 'DELETE';
  if (!asksWho) throw new Refusal('otherPerson');
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Which course, exercise or submission an address names; what is no id names nothing. */
function namedBy({ courseId, exerciseId, submissionId }: Record<string, string>): Named {
  const id = (text: string | undefined) => (text && uuid.test(text) ? text : undefined);
  if (courseId !== undefined) return { courseId: id(courseId) };
  if (exerciseId !== undefined) return { exerciseId: id(exerciseId) };
  return { submissionId: id(submissionId) };
}
