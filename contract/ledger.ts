import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Time, Version } from './common';
import { MoveKind } from './moves';
import { Outcome as LetterOutcome } from './outcome';

export const EntryKind = z.enum([
  'mail',
  'call',
  'meeting',
  'visit',
  'form',
  'file',
  'task',
  'note',
  'change',
  'quote',
]);
export const Outcome = z.enum(['spoke', 'no answer', 'voicemail', 'moved']);
const SideOf = z.enum(['theirs', 'ours', 'within']);

export const Entry = z.object({
  id: Id,
  version: z.int(),
  at: Time,
  side: SideOf,
  kind: EntryKind,
  headline: z.string(),
  body: z.string(),
  hasMore: z.boolean().describe('more was said than headline and body show; ask for the entry itself'),
  actor: z.string().nullable(),
  isMine: z.boolean().describe('entered by whoever asks, and so theirs to change'),
  outcome: Outcome.nullable().describe('how a call or a meeting went'),
  captureId: Id.nullable(),
  tone: z
    .enum(['negative', 'neutral', 'positive'])
    .nullable()
    .describe('of a mail or a call, where its language is weighed'),
  people: z.array(Named),
  deals: z.array(Named),
  thread: z
    .object({ id: z.string(), count: z.int() })
    .nullable()
    .describe('the exchange it is the newest of, where that is folded into it'),
  files: z.array(z.object({ id: Id, name: z.string(), number: z.int() })).describe('that came with it'),
  letter: z
    .array(LetterOutcome)
    .describe('what became of a letter that was sent from here, address by address'),
  isPinned: z.boolean(),
  isNew: z.boolean().describe('entered by a colleague since whoever asks looked here last'),
  isAnnotated: z.boolean().describe('whoever asks wrote something beside it for themselves'),
  editedAt: Time.nullable(),
});
export type Entry = z.infer<typeof Entry>;
export const EntryDetail = Entry.extend({
  said: z.string().describe('the whole of it'),
  companies: z.array(Named),
  leads: z.array(Named),
  projects: z.array(Named),
  cases: z.array(Named),
  annotation: z.string().nullable().describe('your own, seen by nobody else'),
  proposed: z
    .array(
      z.object({ title: Line(300), kind: MoveKind, dueAt: Time, allDay: z.boolean(), asked: z.string() }),
    )
    .describe('tasks that it asks for and that nobody took yet, each with its sentence'),
  revisions: z
    .array(
      z.object({
        headline: z.string(),
        body: z.string(),
        kind: EntryKind,
        at: Time,
        outcome: Outcome.nullable(),
        until: Time,
      }),
    )
    .describe('what it said before, newest first'),
});
export type EntryDetail = z.infer<typeof EntryDetail>;
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
  projectId: Id.optional(),
  caseId: Id.optional(),
});
export type About = z.infer<typeof About>;
const Words = (longest: number) => z.string().trim().max(longest);
/** The kinds of entries that people write themselves. */
export const WrittenKind = EntryKind.extract(['note', 'call', 'mail', 'meeting', 'visit']);
const Written = z.object({
  kind: WrittenKind,
  side: SideOf,
  headline: Line(2000),
  body: Words(20_000),
  at: z.iso.datetime({ offset: true }),
  outcome: Outcome.nullable(),
});

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
      repeat: z.string().nullable().describe('as tasks have it'),
      repeatWords: z.string().nullable(),
      isUrgent: z.boolean(),
    })
    .nullable(),
  entry: z
    .object({
      kind: WrittenKind,
      side: SideOf,
      headline: Line(2000),
      at: Time.nullable().describe('when it took place, where the line says so'),
      outcome: Outcome.nullable(),
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

const Narrowed = {
  kind: EntryKind.optional(),
  with: Id.optional().describe('the person it was with'),
  by: Id.optional().describe('the colleague'),
  from: z.iso.datetime({ offset: true }).optional().describe('not before'),
  until: z.iso.datetime({ offset: true }).optional().describe('before, not at'),
  upTo: z
    .string()
    .regex(/^\d{4}-(?:0[1-9]|1[0-2])$/)
    .optional()
    .describe('this month of your own clock and what was before'),
  q: z.string().max(200).optional().describe('words that all stand in it, in any order'),
  thread: z.string().max(1000).optional().describe('one exchange, unfolded'),
  fold: z.enum(['yes', 'no']).optional().describe('no: every mail of an exchange, and not only the newest'),
  newSince: z.iso.datetime({ offset: true }).optional().describe('marks what colleagues entered since'),
};

export const ledgerRoutes = routes({
  'GET /api/ledger': {
    summary:
      'What happened with a person, company, lead, deal, project or case, newest first, and whose turn it is',
    tag: 'ledger',
    right: 'ledger.see',
    query: About.extend({
      ...Narrowed,
      cursor: z.string().max(2000).optional(),
      limit: z.coerce.number().int().min(1).max(200).default(100),
    }),
    reply: z.object({
      items: z.array(Entry),
      pinned: z.array(Entry).describe('what is pinned, on the first page only'),
      next: z.string().nullable(),
      turn: Turn,
    }),
  },
  'GET /api/ledger/months': {
    summary: 'The months in which something happened, newest first, and how much',
    tag: 'ledger',
    right: 'ledger.see',
    query: About.extend(Narrowed),
    reply: z.object({ items: z.array(z.object({ month: z.string(), count: z.int() })) }),
  },
  'GET /api/ledger/:id': {
    summary: 'One entry with all that was said, what it belongs to, and what it said before',
    tag: 'ledger',
    right: 'ledger.see',
    params: IdParam,
    reply: EntryDetail,
  },
  'POST /api/ledger/entries': {
    summary: 'Enter what happened, at any time in the past, on one record or several',
    tag: 'ledger',
    right: 'ledger.add',
    status: 201,
    body: Written.partial({ body: true, at: true, outcome: true }).extend({
      about: z.array(About).min(1).max(20),
    }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/ledger/:id': {
    summary: 'Change what you entered, pin it, or link it to more records',
    tag: 'ledger',
    right: 'ledger.change',
    params: IdParam,
    body: Written.omit({ side: true }).partial().extend({
      version: Version.optional(),
      isPinned: z.boolean().optional(),
      link: About.optional(),
      unlink: About.optional(),
    }),
    reply: Done.extend({ version: z.int() }),
  },
  'DELETE /api/ledger/:id': {
    summary: 'Remove what you entered yourself',
    tag: 'ledger',
    right: 'ledger.delete',
    params: IdParam,
    reply: Done,
  },
  'PUT /api/ledger/:id/annotation': {
    summary: 'Write something beside an entry for yourself alone; nothing removes it',
    tag: 'ledger',
    params: IdParam,
    body: z.object({ words: Words(5000) }),
    reply: Done,
  },
  'POST /api/ledger/:id/annotation/share': {
    summary: 'Make your own annotation a note that the team sees',
    tag: 'ledger',
    right: 'ledger.add',
    params: IdParam,
    status: 201,
    reply: Done.extend({ id: Id }),
  },
  'POST /api/ledger/answered': {
    summary: 'Say that nothing is left to answer: it is not our turn',
    tag: 'ledger',
    right: 'ledger.add',
    body: About,
    reply: Done,
  },
  'POST /api/looks': {
    summary: 'Note that you look at a record now',
    tag: 'ledger',
    body: z.object({ recordId: Id }),
    reply: z.object({ before: Time.nullable().describe('when you looked at it last') }),
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
