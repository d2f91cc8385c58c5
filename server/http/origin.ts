import type { FastifyInstance, FastifyRequest } from 'fastify';
import { isApiRoute } from './access';
import { forbidden, misdirected, signedOut } from './problems';

/** Names that only mean this machine: a page of another site cannot make its own name one of them. */
const LOOPBACK = /^(?:127\.0\.0\.1|localhost|\[::1\])(?::\d+)?$/i;

/** Where people reach us, as a browser writes it into Origin. */
const originOf = (publicUrl: string): string => new URL(publicUrl).origin;

/** Names this server goes by, so that a name of somebody else's that resolves to us finds nothing (DNS rebinding). */
export function requireOwnHost(app: FastifyInstance, publicUrl: string): void {
  const { host: ours } = new URL(publicUrl);
  app.addHook('onRequest', async (request) => {
    if (request.routeOptions.config.anyHost) return;
    const host = request.host.toLowerCase();
    if (host !== ours && !LOOPBACK.test(host))
      throw misdirected(`This server answers at ${publicUrl} only. Open that address.`);
  });
}

/**
 * Refuses a write that a page of another site started. Browsers send Origin (or Sec-Fetch-Site) with every write; a
 * script sends neither and carries no cookie of somebody's browser.
 */
export function requireSameOrigin(request: FastifyRequest, publicUrl: string): void {
  if (request.isClipper) return;
  const { origin } = request.headers;
  const site = request.headers['sec-fetch-site'];
  if (typeof origin === 'string') {
    const own = new Set([originOf(publicUrl)]);
    if (LOOPBACK.test(request.host)) own.add(`${request.protocol}://${request.host.toLowerCase()}`);
    if (!own.has(origin.toLowerCase())) throw forbidden('This request came from another site.');
  } else if (typeof site === 'string' && site !== 'same-origin' && site !== 'none')
    throw forbidden('This request came from another site.');
}

declare module 'fastify' {
  interface FastifyRequest {
    /** Comes from our browser companion with an access token; it carries no cookie that others could ride on. */
    isClipper: boolean;
  }
  interface FastifyContextConfig {
    /** Answers under any host name: health checks ask by address. */
    anyHost?: boolean;
  }
}

/**
 * Lets our browser companion call, and no other extension: by its origin, and only with an access token. Everybody else's
 * pre-flight goes unanswered, so that browsers keep their pages away.
 */
export function allowClipper(app: FastifyInstance, clipperOrigin: string): void {
  app.decorateRequest('isClipper', false);
  app.addHook('onRequest', async (request, reply) => {
    if (request.headers.origin !== clipperOrigin || !isApiRoute(request)) return;
    reply.header('access-control-allow-origin', clipperOrigin).header('vary', 'Origin');
    if (request.method === 'OPTIONS') return;
    request.isClipper = /^Bearer\s/i.test(request.headers.authorization ?? '');
    // The cookie of whoever is signed in beside it counts for nothing here.
    if (!request.isClipper) throw signedOut('Sign in with an access token first.');
  });
  app.options('/api/*', { schema: { hide: true }, config: { access: 'public' } }, async (request, reply) => {
    if (request.headers.origin !== clipperOrigin) return reply.code(403).send();
    return reply
      .code(204)
      .header('access-control-allow-headers', 'authorization, content-type, idempotency-key')
      .header('access-control-allow-methods', 'GET, POST, PATCH, PUT, DELETE')
      .header('access-control-max-age', '600')
      .send();
  });
}
