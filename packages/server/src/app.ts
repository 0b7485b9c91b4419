import type { Socket } from 'node:net';
import path from 'node:path';
import { readFileSync } from 'node:fs';
import compress from '@fastify/compress';
import cookie from '@fastify/cookie';
import csrf from '@fastify/csrf-protection';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import serveFiles from '@fastify/static';
import swagger from '@fastify/swagger';
import swaggerUi from '@fastify/swagger-ui';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { Problem } from '@nailset/core';
import Fastify, { type FastifyError, type FastifyRequest, type FastifyServerOptions } from 'fastify';
import { guardAccess, sessionCookie } from './access.js';
import { Checker } from './checks/checker.js';
import { Refusal, refusalOf } from './errors.js';
import { benchRoutes } from './routes/bench.js';
import { classSheetRoutes } from './routes/classSheet.js';
import { exerciseRoutes } from './routes/exercises.js';
import { peopleRoutes } from './routes/people.js';
import type { App } from './routes/route.js';
import type { Settings } from './settings.js';
import { type Database, isDatabaseAway } from './store/database.js';
import { cleanTexts } from './texts.js';

const builtInterface = path.resolve(import.meta.dirname, '../../web/dist');

/** The whole server, ready to listen. */
export async function buildApp(
  settings: Settings,
  database: Database,
  options: FastifyServerOptions = {},
): Promise<{ app: App; checker: Checker }> {
  const app = Fastify({
    // A document may carry four pictures and four tables.
    bodyLimit: 3 * 1024 * 1024,
    trustProxy: settings.secureCookies ? 'loopback' : false,
    requestTimeout: requestSeconds * 1000,
    connectionTimeout: 2 * requestSeconds * 1000,
    clientErrorHandler: answerBrokenRequest,
    // Answers are taken as they are sent: nothing is coerced, dropped or filled in.
    ajv: { customOptions: { coerceTypes: false, removeAdditional: false, useDefaults: false } },
    ...options,
  }).withTypeProvider<TypeBoxTypeProvider>();
  const checker = new Checker(database, settings.checkSeconds, app.log);

  app.setErrorHandler((error: FastifyError, request, reply) => {
    const refusal = asRefusal(error);
    if (refusal.status >= 500) request.log.error(error);
    const { code, message, details, status } = refusal;
    return reply.status(status).send({ error: { code, message, ...details } });
  });

  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'"],
        fontSrc: ["'self'"],
        imgSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        formAction: ["'self'"],
        baseUri: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    enableCSPNonces: true,
    crossOriginEmbedderPolicy: false,
    // Nailset runs on loopback or behind a proxy; the proxy decides about HTTPS for the host name.
    strictTransportSecurity: settings.secureCookies,
  });
  await app.register(compress, { threshold: 1024 });
  await app.register(cookie);
  await app.register(csrf, {
    cookieOpts: { path: '/', httpOnly: true, sameSite: 'strict', secure: settings.secureCookies },
  });
  guardAccess(app, database, settings.secureCookies);
  await app.register(rateLimit, {
    max: 1200,
    timeWindow: '1 minute',
    keyGenerator: (request) => request.person?.id ?? request.ip,
    // Pages and their files are for everyone: a lecture hall opens them behind one address.
    allowList: (request) => !isApi(request),
    errorResponseBuilder: () => new Refusal('tooMany'),
  });
  app.addHook('onRequest', (request, reply, done) => {
    const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
    if (isApi(request)) void reply.header('cache-control', 'no-store');
    if (changes && isApi(request)) app.csrfProtection(request, reply, done);
    else done();
  });
  app.addHook('preValidation', async (request) => {
    request.body = cleanTexts(request.body);
  });

  await app.register(swagger, {
    openapi: {
      info: {
        title: 'Nailset',
        version: '1',
        description: 'Everything that the interface of Nailset does, over HTTP.',
      },
      components: { securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: sessionCookie } } },
      security: [{ session: [] }],
    },
  });
  await app.register(swaggerUi, { routePrefix: '/reference', staticCSP: true });

  app.get('/api/health', { config: { access: 'anyone', rateLimit: false }, schema: { hide: true } }, async () => {
    await database.execute('select 1');
    return { ok: true };
  });
  const house = { database, checker, settings };
  peopleRoutes(app, house);
  exerciseRoutes(app, house);
  benchRoutes(app, house);
  classSheetRoutes(app, house);
  await serveInterface(app);
  app.addHook('onClose', () => checker.close());
  return { app, checker };
}

/** Longest time for a request to arrive whole; what trickles in is cut off. */
const requestSeconds = 30;

/** Whether a request is for the API, by the route that it has reached, however its address was spelt. */
const isApi = ({ routeOptions }: FastifyRequest): boolean => routeOptions.url?.startsWith('/api/') ?? false;

/** What cannot even be read as a request, in our own words. */
function answerBrokenRequest(error: NodeJS.ErrnoException, socket: Socket): void {
  if (error.code === 'ECONNRESET' || !socket.writable) return;
  const { status, code, message } = new Refusal(error.code === 'ERR_HTTP_REQUEST_TIMEOUT' ? 'slow' : 'badRequest');
  const body = JSON.stringify({ error: { code, message } });
  socket.end(
    [
      `HTTP/1.1 ${status} ${status === 408 ? 'Request Timeout' : 'Bad Request'}`,
      'content-type: application/json; charset=utf-8',
      `content-length: ${Buffer.byteLength(body)}`,
      'connection: close',
      '',
      body,
    ].join('\r\n'),
  );
}

/** The built pages: files by their names, the start page for every other address. */
async function serveInterface(app: App): Promise<void> {
  const page = readFileSync(path.join(builtInterface, 'index.html'), 'utf8');
  await app.register(serveFiles, {
    root: path.join(builtInterface, 'assets'),
    prefix: '/assets/',
    immutable: true,
    maxAge: '1y',
    // Made by the build, beside the files themselves.
    preCompressed: true,
  });
  app.setNotFoundHandler((request, reply) => {
    if (request.method !== 'GET' || /^\/(api|assets)\//.test(decoded(request.url))) {
      throw new Refusal('notFound');
    }
    return reply
      .type('text/html; charset=utf-8')
      .header('cache-control', 'no-cache')
      .send(page.replaceAll('%NONCE%', reply.cspNonce.style));
  });
}

/** An address as it is meant; as it stands where it is no address. */
function decoded(url: string): string {
  try {
    return decodeURIComponent(url);
  } catch {
    return url;
  }
}

/** Every error as one of ours; what we do not know is logged and told as `internal`. */
function asRefusal(error: FastifyError | Refusal | Problem): Refusal {
  if (error instanceof Refusal) return error;
  if (error instanceof Problem) return refusalOf(error);
  if (error.validation) return new Refusal('badRequest', validationMessage(error));
  if (error.code === 'FST_ERR_CTP_BODY_TOO_LARGE') return new Refusal('tooLarge');
  if (error.code?.startsWith('FST_CSRF')) return new Refusal('wrongToken');
  if (isDatabaseAway(error)) return new Refusal('unavailable');
  if (error.statusCode && error.statusCode < 500) return new Refusal('badRequest', error.message);
  return new Refusal('internal');
}

/** The complaint about the innermost field, which is the one that a person can do something about. */
function validationMessage(error: FastifyError): string {
  const depth = (path: string): number => path.split('/').length;
  const [worst] = [...(error.validation ?? [])].sort((a, b) => depth(b.instancePath) - depth(a.instancePath));
  const field = worst?.instancePath ? worst.instancePath.slice(1).replaceAll('/', ' › ') : 'The request';
  return `${field}: ${worst?.message ?? error.message}.`;
}
