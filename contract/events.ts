import { z } from 'zod';
import { Id, routes, Time } from './common';
import { ConsentState, Reach } from './consent';

/** The version of all public event types; a change that a reader could stumble over makes a new one. */
export const EVENT_VERSION = 2;

const Created = z.object({ id: Id });
const Changed = z.object({
  id: Id,
  fields: z.array(z.string()).min(1).describe('what changed, by the names of the API'),
});
const Owner = z.object({ id: Id, from: Id.nullable(), to: Id.nullable() });
const records = ['person', 'company', 'lead', 'deal', 'task'] as const;

type Lifecycle = Record<`${(typeof records)[number]}.created`, typeof Created> &
  Record<`${(typeof records)[number]}.changed`, typeof Changed> &
  Record<`${(typeof records)[number]}.removed`, typeof Created>;
const lifecycle = Object.fromEntries(
  records.flatMap((record) => [
    [`${record}.created`, Created],
    [`${record}.changed`, Changed],
    [`${record}.removed`, Created],
  ]),
) as Lifecycle;

/**
 * What happened, for orders, notices and webhooks: every type with the schema of its data. They say what happened to which
 * record and leave what it is like now to the API.
 */
export const eventData = {
  ...lifecycle,
  'lead.created': z.object({ id: Id, personId: Id }),
  'person.merged': z.object({ id: Id, into: Id }),
  'company.merged': z.object({ id: Id, into: Id }),
  'person.owner_changed': Owner,
  'company.owner_changed': Owner,
  'lead.owner_changed': Owner,
  'deal.owner_changed': Owner,
  'lead.status_changed': z.object({ id: Id, from: z.string(), to: z.string() }),
  'lead.converted': z.object({ id: Id, dealId: Id }),
  'deal.stage_changed': z.object({ id: Id, from: Id, to: Id }),
  'deal.closed': z.object({ id: Id, reason: z.string().nullable() }),
  'deal.reopened': Created,
  'task.done': z.object({ id: Id, at: Time }),
  'ledger.entered': z.object({
    id: Id,
    kind: z.string(),
    side: z.enum(['theirs', 'ours', 'within']),
    personIds: z.array(Id),
    companyIds: z.array(Id),
    leadIds: z.array(Id),
    dealIds: z.array(Id),
  }),
  'ledger.removed': Created,
  'capture.received': z.object({ id: Id, kind: z.string(), cameBy: z.string() }),
  'capture.filed': Created,
  'capture.set_aside': Created,
  'form.submitted': z.object({ id: Id, formId: Id, captureId: Id }),
  'call.changed': z.object({
    id: Id,
    direction: z.enum(['in', 'out']),
    state: z.string(),
    personId: Id.nullable(),
  }),
  'consent.changed': z.object({
    personId: Id,
    purposeId: Id,
    topicId: Id.nullable(),
    state: ConsentState,
    how: z.string(),
  }),
  'address.reach_changed': z.object({ personId: Id, contactId: Id, address: z.string(), reach: Reach }),
} as const;
export type EventType = keyof typeof eventData;

/** One public event of one type. */
export type PublicEvent<Type extends EventType = EventType> = {
  [One in Type]: {
    type: One;
    version: typeof EVENT_VERSION;
    /** The change it is part of; several public events may come of one. */
    eventId: string;
    at: string;
    actorId: string | null;
    causeId: string | null;
    depth: number;
    data: z.infer<(typeof eventData)[One]>;
  };
}[Type];

export const eventRoutes = routes({
  'GET /api/event-types': {
    summary: 'The types of public events, with the JSON Schema of their data',
    tag: 'events',
    reply: z.object({
      items: z.array(
        z.object({
          type: z.string(),
          version: z.int(),
          data: z.record(z.string(), z.unknown()).describe('JSON Schema, draft 2020-12'),
        }),
      ),
    }),
  },
});
