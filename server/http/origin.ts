import type { FastifyInstance, FastifyRequest } from 'fastify';
import { forbidden, signedOut } from './problems';

/**
 * Refuses a write that a page of another site started. Browsers send Origin (or Sec-Fetch-Site) with every write; a
 * script sends neither and carries no cookie of somebody's browser.
 */
export function requireSameOrigin(request: FastifyRequest): void {
  if (request.isClipper) return;
  const { origin, host } = request.headers;
  const site = request.headers['sec-fetch-site'];
  if (typeof origin === 'string') {
    let theirs: string;
    try {
      theirs = new URL(origin).host;
    } catch {
      theirs = '';
    }
    if (theirs !== host) throw forbidden('This request came from another site.');
  } else if (typeof site === 'string' && site !== 'same-origin' && site !== 'none')
    throw forbidden('This request came from another site.');
}

declare module 'fastify' {
  interface FastifyRequest {
    /** Comes from our browser companion with an access token; it carries no cookie that others could ride on. */
    isClipper: boolean;
  }
}

/**
 * Lets our browser companion call, and no other extension: by its origin, and only with an access token. Everybody else's
 * pre-flight goes unanswered, so that browsers keep their pages away.
 */
export function allowClipper(app: FastifyInstance, origin: string): void {
  app.decorateRequest('isClipper', false);
  app.addHook('onRequest', async (request, reply) => {
    if (request.headers.origin !== origin || !request.url.startsWith('/api/')) return;
    reply
      .header('access-control-allow-origin', origin)
      .header('vary', 'Origin')
      .header('access-control-allow-headers', 'authorization, content-type, idempotency-key')
      .header('access-control-allow-methods', 'GET, POST, PATCH, PUT, DELETE')
      .header('access-control-max-age', '600');
    if (request.method === 'OPTIONS') return reply.code(204).send();
    request.isClipper = /^Bearer\s/i.test(request.headers.authorization ?? '');
    // The cookie of whoever is signed in beside it counts for nothing here.
    if (!request.isClipper) throw signedOut('Sign in with an access token first.');
    return undefined;
  });
}
