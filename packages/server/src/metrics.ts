import { timingSafeEqual } from 'node:crypto';
import { isIP } from 'node:net';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { Refusal } from './errors.js';
import type { App } from './routes/route.js';
import type { Database } from './store/database.js';
import { waitingChecks } from './store/jobs.js';

/** Figures of this process in Prometheus’ text format, for programs on this machine or with the token. */
export function serveMetrics(app: App, database: Database, token: string | undefined): void {
  const registers = [new Registry()];
  const [register] = registers as [Registry];
  collectDefaultMetrics({ register });
  const seconds = new Histogram({
    name: 'nailset_request_seconds',
    help: 'Time to answer, by route.',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30],
    registers,
  });
  new Gauge({
    name: 'nailset_checks_waiting',
    help: 'Checks that wait or run, of all servers.',
    registers,
    async collect() {
      this.set((await waitingChecks(database)).waiting);
    },
  });
  new Gauge({
    name: 'nailset_checks_oldest_seconds',
    help: 'How long the oldest of them has waited.',
    registers,
    async collect() {
      this.set((await waitingChecks(database)).oldestSeconds);
    },
  });
  const failures = new Counter({ name: 'nailset_failures_total', help: 'Answers that are our fault.', registers });

  app.addHook('onResponse', (request, reply, done) => {
    const { method, url: route = '(page)' } = request.routeOptions;
    seconds.observe(
      { method: String(method ?? request.method), route, status: reply.statusCode },
      reply.elapsedTime / 1000,
    );
    if (reply.statusCode >= 500) failures.inc();
    done();
  });

  app.get('/metrics', { config: { access: 'anyone' }, schema: { hide: true } }, async (request, reply) => {
    if (!isLoopback(request.socket.remoteAddress) && !holds(request.headers.authorization, token)) {
      throw new Refusal('notFound');
    }
    // Behind a proxy on this machine everybody comes from loopback: there, only who asks directly is here.
    if (request.headers['x-forwarded-for'] !== undefined && !holds(request.headers.authorization, token)) {
      throw new Refusal('notFound');
    }
    return reply.type(register.contentType).send(await register.metrics());
  });
}

const isLoopback = (address = ''): boolean =>
  isIP(address) !== 0 && (address === '::1' || address.replace('::ffff:', '').startsWith('127.'));

function holds(header: string | undefined, token: string | undefined): boolean {
  if (!token || !header) return false;
  const [sent, wanted] = [Buffer.from(header), Buffer.from(`Bearer ${token}`)];
  return sent.length === wanted.length && timingSafeEqual(sent, wanted);
}
