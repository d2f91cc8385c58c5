import { z } from 'zod';
import { Done, Id, Line, Named, routes, Time } from './common';
import { MoveKind } from './moves';

export const Entry = z.object({
  id: Id,
  at: Time,
  side: z.enum(['theirs', 'ours', 'within']),
  kind: z.enum(['mail', 'call', 'meeting', 'note', 'change', 'quote']),
  headline: z.string(),
  body: z.string(),
  actor: z.string().nullable(),
  outcome: z.enum(['spoke', 'no answer', 'voicemail']).nullable().describe('how a call ended'),
  captureId: Id.nullable(),
  people: z.array(Named),
});
export type Entry = z.infer<typeof Entry>;
export const Turn = z.object({
  turn: z.enum(['ours', 'theirs', 'nobody']),
  since: Time.nullable(),
  because: z.string(),
});
export type Turn = z.infer<typeof Turn>;
export const About = z.object({
  personId: Id.optional(),
  companyId: Id.optional(),
  leadId: Id.optional(),
  dealId: Id.optional(),
});
export type About = z.infer<typeof About>;

export const ComposerReading = z.object({
  nextMove: z
    .object({
      title: Line(300),
      kind: MoveKind,
      dueAt: Time,
      allDay: z.boolean(),
      assumedDate: z.boolean(),
      assigneeId: Id,
      assignee: z.string(),
    })
    .nullable(),
  entry: z
    .object({
      kind: z.enum(['note', 'call', 'mail', 'meeting']),
      side: z.enum(['theirs', 'ours', 'within']),
      headline: Line(2000),
      at: Time.nullable().describe('when it took place, where the line says so'),
      outcome: z.enum(['spoke', 'no answer', 'voicemail']).nullable(),
    })
    .nullable(),
  dealAmount: z
    .object({ dealId: Id, title: z.string(), minor: z.int(), currency: z.string(), was: z.int().nullable() })
    .nullable(),
  dealChoices: z
    .array(Named)
    .describe('the open deals a sum may be meant for, where there are several; name one as `about.dealId`'),
  lit: z.array(z.object({ start: z.int(), end: z.int() })),
});
export type ComposerReading = z.infer<typeof ComposerReading>;
const Parts = z.enum(['nextMove', 'entry', 'dealAmount']);

export const ledgerRoutes = routes({
  'GET /api/ledger': {
    summary: 'What happened with a person, company, lead or deal, newest first, and whose turn it is',
    tag: 'ledger',
    query: About.extend({
      kind: Entry.shape.kind.optional(),
      cursor: z.string().max(2000).optional(),
      limit: z.coerce.number().int().min(1).max(200).default(100),
    }),
    reply: z.object({ items: z.array(Entry), next: z.string().nullable(), turn: Turn }),
  },
  'POST /api/composer': {
    summary: 'What a line of plain words would save, without saving it',
    tag: 'ledger',
    body: z.object({ line: z.string().max(2000), about: About }),
    reply: ComposerReading,
  },
  'POST /api/ledger': {
    summary: 'Save a line of plain words: a note, what happened, a next move, a sum',
    tag: 'ledger',
    status: 201,
    body: z.object({ line: Line(2000), about: About, leaveOut: z.array(Parts).default([]) }),
    reply: Done.extend({ saved: z.array(z.string()) }),
  },
});
