import type { Handlers } from '../http/mount';
import { listOutbox } from './queries';
import { repeatDelivery } from './repeat';

export const outboxHandlers: Handlers = {
  'GET /api/outbox': async ({ query, context }) => listOutbox(context, query),
  'POST /api/outbox/:id/retry': async ({ params, context }) => ({
    eventId: await repeatDelivery(context, params.id),
  }),
};
