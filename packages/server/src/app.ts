import type { Socket } from 'node:net';
import compress from '@fastify/compress';
import cookie from '@fastify/cookie';
import csrf from '@fastify/csrf-protection';
import helmet from '@fastify/helmet';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { Problem } from '@nailset/core';
import Fastify, { type FastifyBaseLogger, type FastifyError, type FastifyRequest, LogController } from 'fastify';
import { nanoid } from 'nanoid';
import { guardAccess } from './access.js';
import { VerdictNews } from './checks/news.js';
import { Threads } from './checks/threads.js';
import { lazyCompilers } from './compilers.js';
import { Refusal, refusalOf } from './errors.js';
import { Limits } from './limits.js';
import { postBy } from './mail.js';
import { serveMetrics } from './metrics.js';
import { prepareForPasswords } from './passwords.js';
import { accountRoutes } from './routes/account.js';
import { benchRoutes } from './routes/bench.js';
import { classSheetRoutes } from './routes/classSheet.js';
import { correctionRoutes } from './routes/corrections.js';
import { courseRoutes } from './routes/courses.js';
import { dateRoutes } from './routes/dates.js';
import { exerciseRoutes } from './routes/exercises.js';
import { serveInterface } from './routes/interface.js';
import { learningRoutes } from './routes/learning.js';
import { markRoutes } from './routes/marks.js';
import { paperRoutes } from './routes/paper.js';
import { peopleRoutes } from './routes/people.js';
import { describeApi } from './routes/reference.js';
import type { App } from './routes/route.js';
import { sheetRoutes } from './routes/sheets.js';
import type { Settings } from './settings.js';
import { type Database, isDatabaseAway } from './store/database.js';
import { waitingChecks } from './store/jobs.js';
import { cleanTexts } from './texts.js';

/** The whole server, ready to listen. */
export async function buildApp(
  settings: Settings,
  database: Database,
  log: FastifyBaseLogger,
): Promise<{ app: App; threads: Threads }> {
  const { compilersFactory, compileRest } = lazyCompilers();
  const app = Fastify({
    schemaController: { compilersFactory },
    loggerInstance: log,
    logController: new LogController({ disableRequestLogging: true }),
    // Short enough to be read out on the telephone.
    genReqId: () => nanoid(10),
    // A document may carry four pictures and four tables.
    bodyLimit: 3 * 1024 * 1024,
    trustProxy: settings.trustedProxies.length > 0 ? [...settings.trustedProxies] : false,
    requestTimeout: requestSeconds * 1000,
    connectionTimeout: 2 * requestSeconds * 1000,
    clientErrorHandler: answerBrokenRequest,
    // Answers are taken as they are sent: nothing is coerced, dropped or filled in.
    ajv: {
      customOptions: {
        ...{ coerceTypes: false, removeAdditional: false, useDefaults: false },
        // To tidy what it writes takes Ajv longer than to write it, for microseconds at each request.
        code: { optimize: false },
      },
    },
  }).withTypeProvider<TypeBoxTypeProvider>();
  app.server.maxConnections = mostConnections;
  const threads = new Threads(settings.checks, settings.checkSeconds, app.log);
  const news = new VerdictNews(settings.databaseUrl, app.log);
  const limits = new Limits(database.$client);

  app.setErrorHandler((error: FastifyError, request, reply) => {
    const refusal = asRefusal(error);
    if (refusal.status >= 500) request.log.error({ err: error }, 'a request failed');
    const { code, message, details, status } = refusal;
    if (details.wait) void reply.header('retry-after', details.wait);
    const ours = status >= 500 ? { request: request.id } : {};
    return reply.status(status).send({ error: { code, message, ...details, ...ours } });
  });
  // One line a request: the route that it reached, never the address as it was typed.
  app.addHook('onResponse', (request, reply, done) => {
    const { method, routeOptions, person } = request;
    const route = routeOptions.url ?? '(page)';
    const ms = Math.round(reply.elapsedTime);
    request.log.info(
      { method, route, status: reply.statusCode, ms, ...(person ? { person: person.id } : {}) },
      'request',
    );
    done();
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
  app.addHook('onRequest', async (request) => {
    // Pages and their files are for everyone: a lecture hall opens them behind one address.
    const { limit = true } = request.routeOptions.config;
    if (!isApi(request) || !limit) return;
    if (request.person) await limits.takeOften('person', request.person.id, 1200, 60);
    else await limits.takeOften('address', request.ip, 6000, 60);
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

  await describeApi(app);

  app.get('/api/health', { config: { access: 'anyone', limit: false }, schema: { hide: true } }, async () => {
    const { waiting, oldestSeconds } = await waitingChecks(database);
    return { ok: true, checks: { waiting, oldestSeconds: Math.round(10 * oldestSeconds) / 10 } };
  });
  serveMetrics(app, database, settings.metricsToken);
  const house = { database, threads, news, limits, post: postBy(settings.smtpUrl, settings.mailFrom), settings };
  peopleRoutes(app, house);
  accountRoutes(app, house);
  exerciseRoutes(app, house);
  benchRoutes(app, house);
  classSheetRoutes(app, house);
  sheetRoutes(app, house);
  dateRoutes(app, house);
  correctionRoutes(app, house);
  markRoutes(app, house);
  courseRoutes(app, house);
  paperRoutes(app, house);
  learningRoutes(app, house);
  await serveInterface(app);
  news.start();
  app.addHook('preClose', () => news.stop());
  if (settings.warmUp) {
    app.addHook('onListen', () => {
      Promise.all([compileRest(), prepareForPasswords()]).then(
        () => log.info('warmed up'),
        (error: unknown) => log.error({ err: error }, 'warming up failed'),
      );
    });
  }
  return { app, threads };
}

/** Most open connections: a course of some hundreds with their browsers, and no more than the machine carries. */
const mostConnections = 4000;

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
