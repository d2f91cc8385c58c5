import type { FastifyRequest } from 'fastify';
import { forbidden } from './problems';

/**
 * Refuses a write that a page of another site started. Browsers send Origin (or Sec-Fetch-Site) with every write; a
 * script sends neither and carries no cookie of somebody's browser.
 */
export function requireSameOrigin(request: FastifyRequest): void {
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
