import type { FastifyInstance } from 'fastify';
import type { LiveFeed } from './live';

const HEARTBEAT_MS = 20_000;
const QUEUE_BYTES = 256 * 1024;

/** Server-sent events: every change by anybody on this database, as it is committed. */
export function mountLive(app: FastifyInstance, live: LiveFeed): void {
  app.get(
    '/api/events',
    {
      schema: {
        summary: 'Live changes as server-sent events',
        tags: ['events'],
        produces: ['text/event-stream'],
      },
    },
    (request, reply) => {
      reply.hijack();
      const { raw } = reply;
      raw.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        connection: 'keep-alive',
        'x-accel-buffering': 'no',
      });
      raw.write('retry: 1000\n\ndata: {"hello":true}\n\n');
      const unsubscribe = live.subscribe((payload) => {
        if (raw.writableLength > QUEUE_BYTES) raw.destroy();
        else raw.write(`data: ${payload}\n\n`);
      });
      const heartbeat = setInterval(() => raw.write(': here\n\n'), HEARTBEAT_MS);
      request.raw.on('close', () => {
        clearInterval(heartbeat);
        unsubscribe();
      });
    },
  );
}
