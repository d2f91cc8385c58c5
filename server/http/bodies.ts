import type { FastifyInstance, FastifyRequest } from 'fastify';
import secureJson from 'secure-json-parse';
import { busy, invalid } from './problems';

/** All large bodies of one process together; a further one is asked to come again, so that many at once do not fill the memory. */
const MOST_IN_FLIGHT_BYTES = 160 * 1024 * 1024;
const COUNTED_FROM_BYTES = 1024 * 1024;
let inFlight = 0;

/** Bodies are counted by what they say of their size; one that says nothing counts as the route's limit would let it grow. */
export function limitBodiesInFlight(scope: FastifyInstance): void {
  scope.addHook('onRequest', async (request: FastifyRequest, reply) => {
    const told = Number(request.headers['content-length'] ?? request.routeOptions.bodyLimit);
    const size = Math.min(Number.isFinite(told) ? told : 0, request.routeOptions.bodyLimit);
    if (size < COUNTED_FROM_BYTES) return;
    if (inFlight + size > MOST_IN_FLIGHT_BYTES)
      throw busy(
        'Several large files are being read at this moment. Nothing was kept; send it again in a moment.',
        5,
      );
    inFlight += size;
    reply.raw.once('close', () => (inFlight -= size));
  });
}

/** Deeper than any body of ours, and far from where a walk through it would run out of stack. */
const DEEPEST = 64;

/**
 * Parses JSON after a look at how deep it is nested.
 * @throws 422 for what is not JSON, or is nested deeper than 64
 */
export function parseJson(text: string): unknown {
  let depth = 0;
  let isText = false;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (isText) {
      if (code === 0x5c) at++;
      else if (code === 0x22) isText = false;
    } else if (code === 0x22) isText = true;
    else if (code === 0x5b || code === 0x7b) {
      if (++depth > DEEPEST) throw invalid(`The JSON is nested deeper than ${DEEPEST}. Nothing was saved.`);
    } else if (code === 0x5d || code === 0x7d) depth--;
  }
  try {
    return secureJson.parse(text);
  } catch {
    throw invalid('The body is not valid JSON.');
  }
}

/** JSON bodies: as Fastify reads them, with a limit on their depth. An empty one is no body. */
export function readJsonBodies(app: FastifyInstance): void {
  app.removeContentTypeParser('application/json');
  app.addContentTypeParser<string>('application/json', { parseAs: 'string' }, (_request, body, done) => {
    try {
      done(null, body === '' ? undefined : parseJson(body));
    } catch (error) {
      done(error as Error);
    }
  });
}
