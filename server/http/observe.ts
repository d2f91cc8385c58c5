import type { FastifyInstance } from 'fastify';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { QueryTypes } from 'sequelize';
import type { Logger } from 'pino';
import type { Tools } from '../commands/context';

declare module 'fastify' {
  interface FastifyInstance {
    metrics: Registry;
  }
}

/** Every request gets an id, which its answer carries, and a line in the log. */
export function logRequests(app: FastifyInstance, log: Logger | undefined): void {
  const registry = new Registry();
  app.decorate('metrics', registry);
  const seconds = new Histogram({
    name: 'http_request_duration_seconds',
    help: 'How long requests took, by route and status',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10],
    registers: [registry],
  });
  app.addHook('onRequest', async (request, reply) => {
    reply.header('x-request-id', request.id);
  });
  app.addHook('onResponse', async (request, reply) => {
    // The pattern, not the address: ids would make a series of each record.
    const route = request.routeOptions.url ?? 'none';
    seconds.observe({ method: request.method, route, status: reply.statusCode }, reply.elapsedTime / 1000);
    const line = {
      requestId: request.id,
      method: request.method,
      route,
      status: reply.statusCode,
      ms: Math.round(reply.elapsedTime),
      user: request.actor?.id,
    };
    if (reply.statusCode >= 500) log?.warn(line, 'request');
    else log?.info(line, 'request');
  });
}

/** Figures for Prometheus, behind an access token of an admin. */
export function mountMetrics(app: FastifyInstance, { sequelize }: Tools): void {
  const registry = app.metrics;
  collectDefaultMetrics({ register: registry });
  new Gauge({
    name: 'job_queue_waiting',
    help: 'Jobs that wait, by what they do',
    labelNames: ['job'],
    registers: [registry],
    async collect() {
      const rows = await sequelize.query<{ job: string; waiting: number }>(
        'SELECT job, waiting FROM waiting_jobs()',
        { type: QueryTypes.SELECT },
      );
      this.reset();
      for (const { job, waiting } of rows) this.set({ job }, waiting);
    },
  });
  app.get(
    '/metrics',
    { schema: { hide: true }, config: { roles: ['admin'], anyHost: true } },
    async (_request, reply) => reply.type(registry.contentType).send(await registry.metrics()),
  );
}
