import type { Handlers } from '../http/mount';
import { addTerm, changeTerm, removeTerm } from './commands';
import { listTerms, usesOfTerm } from './queries';
import { retireTerm } from './retire';

export const termHandlers: Handlers = {
  'GET /api/terms': async ({ context }) => ({ items: await listTerms(context) }),
  'GET /api/terms/:id/uses': ({ params, context }) => usesOfTerm(context, params.id),
  'POST /api/terms': ({ body, context }) => addTerm(context, body),
  'PATCH /api/terms/:id': async ({ params, body, context }) => ({
    eventId: await changeTerm(context, params.id, body),
  }),
  'POST /api/terms/:id/retirement': ({ params, body, context }) => retireTerm(context, params.id, body.to),
  'DELETE /api/terms/:id': async ({ params, context }) => ({ eventId: await removeTerm(context, params.id) }),
};
