import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { Right } from '@emporikon/core/rights/rights';
import { requireRight } from '../commands/rights';
import type { Actor } from '../commands/types';
import type { UserRole } from '../db/models/users';
import { codeFirst, forbidden, signedOut } from './problems';

declare module 'fastify' {
  interface FastifyContextConfig {
    /** `public` lets anybody in. A route that says nothing needs somebody signed in. */
    access?: 'public' | 'actor';
    /** Who may; everybody signed in when left out. */
    roles?: readonly UserRole[];
    /** What it takes; nothing when left out. */
    right?: Right;
    /** Part of the API: told from the pattern the route was registered under, never from what a request wrote. */
    isApi?: boolean;
  }
}

export const isApiRoute = (request: FastifyRequest): boolean => request.routeOptions.config.isApi === true;

/**
 * Whether an address that no route answers was meant for the API or for a built file. Only chooses the words of the
 * refusal: no access is decided by it.
 */
export function looksLikeApi(url: string): boolean {
  let path = url.replace(/^[a-z][a-z0-9+.-]*:\/\/[^/]*/i, '').split(/[?#]/)[0] ?? '';
  try {
    path = decodeURIComponent(path);
  } catch {
    return true;
  }
  return /^\/+(?:\.{1,2}\/+)*(?:api|assets)(?:\/|$)/i.test(path);
}

/** Notes on every route whether it is part of the API, and keeps API answers out of every cache. */
export function markApiRoutes(app: FastifyInstance): void {
  app.addHook('onRoute', (route) => {
    route.config = { ...route.config, isApi: /^\/api(?:\/|$)/.test(route.url) };
  });
  app.addHook('onSend', async (request, reply) => {
    if (isApiRoute(request) || request.is404)
      if (!reply.hasHeader('cache-control')) reply.header('cache-control', 'no-store');
  });
}

/** What somebody reaches who has to set up signing in with a code first: who they are, and that. */
const BEFORE_CODE = /^\/api\/session(?:\/second-step(?:\/.*)?)?$/;

/** Posted, and changes nothing. */
const READING = new Set([
  '/api/queries',
  '/api/queries/totals',
  '/api/queries/words',
  '/api/queries/map',
  '/api/queries/nearest',
]);

/** Whether a request is one that a token of narrower rights is for. Secrets of an account are not read by one either. */
function isWithin(rights: Actor['rights'], { method, routeOptions }: FastifyRequest): boolean {
  const url = routeOptions.url ?? '';
  if (!rights) return true;
  if (rights === 'capture') return method === 'POST' && url === '/api/captures';
  if (method === 'POST') return READING.has(url);
  return (method === 'GET' || method === 'HEAD') && !/^\/api\/(?:tokens|sessions|sign-ins|admin)\b/.test(url);
}

/**
 * Turns away whom the matched route does not let in, before its body is read. Nothing else decides access; an address
 * that matched no route has nothing to give and is answered by the not-found handler.
 */
export function requireAccess(app: FastifyInstance): void {
  app.addHook('onRequest', async (request) => {
    const { access, roles, right } = request.routeOptions.config;
    if (request.is404 || access === 'public') return;
    if (!request.actor) throw signedOut('Sign in first.');
    if (!isWithin(request.actor.rights, request))
      throw forbidden(
        request.actor.rights === 'read'
          ? 'This token may only read.'
          : 'This token may only hand in captures.',
      );
    if (roles && !roles.includes(request.actor.role))
      throw forbidden(`Only a ${roles.join(' or ')} may do this.`);
    if (right) requireRight(request, right);
    if (request.actor.mustAddCode && !BEFORE_CODE.test(request.routeOptions.url ?? '')) throw codeFirst();
  });
}
