import type { FastifyInstance } from 'fastify';
import { invalid } from './problems';

/** Half of a surrogate pair, which is no character: Unicode 15, D84 (ill-formed code unit sequence); and NUL, which PostgreSQL keeps in no text. */
const ILL_FORMED = /\p{Surrogate}|\0/u;

/** Where in a parsed JSON body text stands that is no text, e.g. `deal.title`; null when all of it is well-formed. */
function illFormedAt(value: unknown, path = ''): string | null {
  if (typeof value === 'string') return ILL_FORMED.test(value) ? path || 'body' : null;
  if (typeof value !== 'object' || value === null || Buffer.isBuffer(value)) return null;
  for (const [key, one] of Object.entries(value)) {
    const at = path ? `${path}.${key}` : key;
    const found = ILL_FORMED.test(key) ? at : illFormedAt(one, at);
    if (found) return found;
  }
  return null;
}

/** Refuses text that cannot be kept before any command sees it. */
export function refuseIllFormed(app: FastifyInstance): void {
  app.addHook('preValidation', async (request) => {
    const field = illFormedAt(request.body) ?? illFormedAt(request.query) ?? illFormedAt(request.params);
    if (field)
      throw invalid('Nothing was saved: there is a character in it, or half of one, that cannot be kept.', {
        fields: { [field]: 'is not well-formed text' },
      });
  });
}
