import { z } from 'zod';
import { Verdict } from './captures';
import { Currency, Day, Done, Id, IdParam, Line, Minor, Named, Page, routes, sortedBy, Time } from './common';
import { Tags } from './fields';
import { Turn } from './ledger';
import { Delivery } from './outbox';
import { MoveKind } from './moves';
import { Task } from './tasks';

const Number164 = z
  .string()
  .regex(/^\+[0-9]{6,15}$/, 'is no number in E.164; begin with + and the country code');
export const CallState = z
  .enum(['placing', 'failed', 'ringing', 'answered', 'ended', 'missed'])
  .describe('placing: asked for, the exchange has not taken it yet; failed: nobody was called');
/** Who may be calling, with all a rep needs in the first seconds. */
export const Caller = z.object({
  person: Named,
  jobTitle: z.string().nullable(),
  company: Named.nullable(),
  owner: z.string().nullable(),
  turn: Turn,
  lastWords: z
    .object({ at: Time, headline: z.string(), side: z.enum(['theirs', 'ours', 'within']) })
    .nullable(),
  deals: z.array(Named.extend({ stage: z.string(), amountMinor: z.int().nullable(), currency: z.string() })),
  leads: z.array(Named).describe('open leads that have no deal yet'),
  nextMove: Task.nullable(),
});
export type Caller = z.infer<typeof Caller>;
export const CallRow = z.object({
  id: Id,
  direction: z.enum(['in', 'out']),
  number: z.string().describe('theirs, E.164; empty when it was withheld'),
  written: z.string().describe('the same as people write it'),
  state: CallState,
  startedAt: Time,
  endedAt: Time.nullable(),
  person: Named.nullable(),
  rep: z.string().nullable(),
  saved: z.boolean(),
});
export type CallRow = z.infer<typeof CallRow>;
export const CallDetail = CallRow.extend({
  callers: z.array(Caller),
  transcript: z.string().nullable(),
  note: z.string(),
  captureId: Id.nullable(),
  delivery: Delivery.nullable().describe('what became of asking the exchange, where we called'),
});
export type CallDetail = z.infer<typeof CallDetail>;

const Move = z.object({
  title: Line(300),
  kind: MoveKind,
  dueAt: z.iso.datetime({ offset: true }),
  endAt: z.iso.datetime({ offset: true }).nullish(),
  allDay: z.boolean(),
});
const Optional = (longest: number) => z.string().trim().max(longest).nullish();
/** A call as it is saved: every part as the reader proposed it and a hand corrected it. */
export const CallSheet = z.object({
  callId: Id.nullish(),
  text: z.string().max(20_000),
  person: z.union([Id, z.literal('new')]),
  fullName: Optional(200),
  jobTitle: Optional(200),
  companyName: Optional(200),
  email: Optional(320),
  phone: Optional(60),
  address: Optional(400),
  background: z.string().trim().max(4000).default(''),
  said: z.string().trim().max(4000).default(''),
  direction: z.enum(['in', 'out']).default('out'),
  moves: z.array(Move).max(20).default([]),
  deal: z
    .object({
      id: Id.nullish().describe('an open deal; null for none of those there are'),
      leadId: Id.nullish().describe('an open lead that becomes the deal; null for none of those there are'),
      title: Line(200),
      amountMinor: Minor.nullable(),
      currency: Currency,
      expectedClose: Day.nullish(),
    })
    .nullish(),
  tags: Tags.default([]),
});
export type CallSheet = z.input<typeof CallSheet>;

export const callRoutes = routes({
  'GET /api/line': {
    summary: 'My phone line at the exchange',
    tag: 'calls',
    reply: z.object({ number: z.string().nullable(), exchange: z.enum(['connected', 'none', 'down']) }),
  },
  'PUT /api/line': {
    summary: 'Say which number is mine',
    tag: 'calls',
    body: z.object({ number: Number164 }),
    reply: Done,
  },
  'GET /api/calls': {
    summary: 'Calls of my line, newest first; ringing ones of the last minute with `ringing`',
    tag: 'calls',
    query: Page.extend({
      ringing: z.stringbool().default(false),
      q: z.string().max(200).optional().describe('part of a name or digits of a number'),
      way: z.enum(['in', 'out']).optional(),
      state: z.enum(['missed', 'unlogged']).optional(),
      ...sortedBy(['startedAt', 'person', 'state'], 'startedAt'),
    }),
    reply: z.object({ items: z.array(CallRow), next: z.string().nullable() }),
  },
  'POST /api/calls': {
    summary: 'Ask for a call: the exchange rings my line and theirs, at once or not at all',
    tag: 'calls',
    right: 'ledger.add',
    status: 201,
    body: z.object({ to: Number164, personId: Id.nullish() }),
    reply: Done.extend({ call: CallRow }),
  },
  'GET /api/calls/:id': {
    summary: 'One call with who it may be',
    tag: 'calls',
    params: IdParam,
    reply: CallDetail,
  },
  'PATCH /api/calls/:id': {
    summary: 'Keep what was typed while talking',
    tag: 'calls',
    right: 'ledger.add',
    params: IdParam,
    body: z.object({ note: z.string().max(20_000) }),
    reply: z.object({ kept: z.literal(true) }),
  },
  'POST /api/recognise': {
    summary: 'Who somebody may be, from what is known so far',
    tag: 'calls',
    body: z.object({
      fullName: z.string().max(200).default(''),
      companyName: z.string().max(200).default(''),
      emails: z.array(z.string().max(320)).max(10).default([]),
      phones: z.array(z.string().max(40)).max(10).default([]),
      profiles: z.array(z.string().max(500)).max(10).default([]),
      part: z
        .string()
        .max(100)
        .default('')
        .describe('a part of a name or number, for when nothing surer is known'),
    }),
    reply: z.object({
      person: Verdict,
      callers: z.array(Caller),
      byPart: z.boolean().describe('the callers were found by the part alone'),
    }),
  },
  'POST /api/call-sheets': {
    summary: 'Save a call with all that follows from it, in one transaction',
    tag: 'calls',
    right: 'ledger.add',
    status: 201,
    body: CallSheet,
    reply: Done.extend({ person: Named, company: Named.nullable(), deal: Named.nullable(), captureId: Id }),
  },
  'POST /api/exchange/events': {
    summary: 'What the exchange tells: Standard Webhooks, signed',
    tag: 'calls',
    open: true,
    raw: ['application/json'],
    reply: z.object({ received: z.literal(true) }),
  },
});
