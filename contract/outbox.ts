import { z } from 'zod';
import { Done, Id, IdParam, Page, routes, Time } from './common';

/** What became of something that goes out: a mail, a call. */
export const Delivery = z.object({
  id: Id,
  state: z
    .enum(['waiting', 'sending', 'sent', 'failed', 'expired', 'unsure'])
    .describe('unsure: it may have gone out, and is not repeated without being asked for'),
  tries: z.int(),
  trouble: z.string().nullable().describe('what stood in the way last'),
  nextTryAt: Time.nullable(),
  deadline: Time.describe('after which it is not tried any more'),
});
export type Delivery = z.infer<typeof Delivery>;
export const OutboxItem = Delivery.extend({
  kind: z.string().describe('what goes out: `askConsent`, `placeCall`'),
  aboutTable: z.string(),
  aboutId: Id,
  createdAt: Time,
});
export type OutboxItem = z.infer<typeof OutboxItem>;

export const outboxRoutes = routes({
  'GET /api/outbox': {
    summary: 'What goes out and did not yet, or did not at all; newest first',
    tag: 'outbox',
    query: Page,
    reply: z.object({ items: z.array(OutboxItem), next: z.string().nullable() }),
  },
  'POST /api/outbox/:id/retry': {
    summary: 'Try again what did not go out, or may not have',
    tag: 'outbox',
    params: IdParam,
    reply: Done,
  },
});
