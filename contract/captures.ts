import { CAPTURE_KINDS, MAIL_NATURES } from '@emporikon/core/reading/types';
import { COMPANY_ONLY } from '@emporikon/core/lookups/facts';
import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, Page, PhoneType, routes, Span, Time } from './common';
import { FilingInput, Filed, CompanyFilingInput, CompanyFiled, ProposedMove } from './filing';
import { ClaimField, Tags } from './fields';
import { Intent } from './intents';
import { Turn } from './ledger';

export const Fate = z.enum(['current', 'proposed', 'superseded', 'rejected']);
export const Claim = z.object({
  id: Id,
  field: z.union([ClaimField, z.enum(COMPANY_ONLY)]),
  value: z.string(),
  normalized: z.string().nullable(),
  type: PhoneType.nullable(),
  confidence: z.number(),
  span: Span.nullable(),
  source: z.string(),
  byHand: z.boolean(),
  fate: Fate,
  captureId: Id.nullable(),
  lookUpId: Id.nullable().describe('the question to a source that it answers'),
  at: Time,
  actor: z.string().nullable(),
});
export type Claim = z.infer<typeof Claim>;

export const Match = z.object({
  id: Id,
  label: z.string(),
  probability: z.number(),
  reasons: z.array(z.object({ text: z.string(), weight: z.string(), bits: z.number() })),
});
export const Verdict = z.object({ kind: z.enum(['same', 'maybe', 'new']), matches: z.array(Match) });
export type Verdict = z.infer<typeof Verdict>;

const OpenWork = z
  .object({ personId: Id, kind: z.enum(['lead', 'deal']), id: Id, title: z.string() })
  .describe('the lead or deal a message of this person belongs to');
export type OpenWork = z.infer<typeof OpenWork>;

/** Somebody in a list, and whether we know them. */
export const ListedPerson = z.object({
  name: z.string(),
  url: z.string().nullable(),
  jobTitle: z.string(),
  companyName: z.string(),
  verdict: z.enum(['same', 'maybe', 'new']),
  person: Named.nullable(),
  owner: z.string().nullable(),
});
export type ListedPerson = z.infer<typeof ListedPerson>;
/** Somebody else on a message, and whether we know them. */
const OnMessage = z.object({
  name: z.string(),
  address: z.string(),
  verdict: z.enum(['same', 'maybe', 'new']),
  person: Named.nullable(),
});
export type OnMessage = z.infer<typeof OnMessage>;
/** What we have with somebody we know. */
const Known = z.object({
  person: Named,
  owner: z.string().nullable(),
  turn: Turn,
  nextMove: z.object({ title: z.string(), dueAt: Time, allDay: z.boolean() }).nullable(),
  tags: z.array(z.string()),
});
export const CaptureRow = z.object({
  id: Id,
  kind: z.enum(CAPTURE_KINDS),
  state: z.enum(['waiting', 'filed', 'set aside']),
  from: z.string(),
  subject: z.string(),
  receivedAt: Time,
  side: z.enum(['ours', 'theirs']),
  nature: z.enum(MAIL_NATURES).nullable().describe('null: a person wrote it'),
});
export type CaptureRow = z.infer<typeof CaptureRow>;
const Mailbox = z.object({ name: z.string(), address: z.string() });
export const CaptureDetail = CaptureRow.extend({
  version: z.int(),
  sha256: z.string(),
  cameBy: z.string(),
  sentAt: Time.nullable(),
  sender: Mailbox.nullable(),
  to: z.array(Mailbox),
  body: z.enum(['plain', 'html']),
  text: z.string(),
  attachments: z.array(z.object({ name: z.string(), mediaType: z.string(), href: z.string() })),
  notices: z.array(z.string()),
  digest: z.string(),
  tone: z.enum(['negative', 'neutral', 'positive']).nullable(),
  page: z
    .object({
      url: z.string(),
      kind: z.enum(['profile', 'company', 'list', 'messages', 'other']),
      conversation: z.array(
        z.object({ from: z.string(), at: z.string().nullable(), text: z.string(), filed: z.boolean() }),
      ),
    })
    .nullable(),
  listed: z.array(ListedPerson),
  known: Known.nullable().describe('who it is, when the verdict is sure'),
  onMessage: z
    .array(OnMessage)
    .describe('who else it is from or to, copies included, besides us and whom it is filed on first'),
  others: z.array(Id).describe('the other captures a file of several cards became'),
  claims: z.array(Claim),
  intents: z.array(Intent),
  verdict: z.object({
    person: Verdict,
    company: Verdict,
    companyName: z.string().nullable(),
    hidden: z.boolean().describe('whether it may be a record that you cannot see'),
  }),
  openWork: z.array(OpenWork),
  proposedMove: ProposedMove.nullable(),
  filedAs: z
    .object({
      person: Named.nullable(),
      company: Named.nullable(),
      lead: Named.nullable(),
      deal: Named.nullable(),
      case: Named.nullable(),
      project: Named.nullable(),
      eventId: Id.nullable(),
    })
    .nullable(),
});
export type CaptureDetail = z.infer<typeof CaptureDetail>;

const Chosen = z.object({ ids: z.array(Id).min(1).max(200) });

export const captureRoutes = routes({
  'GET /api/captures': {
    summary: 'Arrivals, newest first; or what sounds negative before the rest',
    tag: 'captures',
    right: 'captures.see',
    query: Page.extend({
      state: z.enum(['waiting', 'filed', 'set aside']).default('waiting'),
      first: z
        .enum(['newest', 'negative'])
        .default('newest')
        .describe('negative: what sounds so comes before the rest'),
    }),
    reply: z.object({
      items: z.array(CaptureRow),
      next: z.string().nullable(),
      waiting: z.int(),
      oldest: Time.nullable(),
    }),
  },
  'POST /api/captures': {
    summary: 'Capture a raw message or text; the same bytes give the same capture',
    tag: 'captures',
    right: 'captures.add',
    status: 201,
    raw: ['message/rfc822', 'text/plain', 'text/html', 'text/vcard', 'application/json'],
    query: z.object({
      by: z.enum(['upload', 'paste', 'api', 'clipper']).default('api'),
      url: z.string().max(2000).optional().describe('where a page was'),
    }),
    reply: CaptureDetail,
  },
  'POST /api/captures/fetch': {
    summary: 'Fetch a page by its address and capture it',
    tag: 'captures',
    right: 'captures.add',
    status: 201,
    body: z.object({ url: z.string().trim().min(1).max(2000) }),
    reply: CaptureDetail,
  },
  'POST /api/captures/:id/listed': {
    summary: 'File some of the people of a list, each with its own result',
    tag: 'captures',
    right: 'captures.change',
    params: IdParam,
    status: 201,
    body: z.object({
      rows: z.array(z.int().min(0)).min(1).max(200),
      as: z.enum(['person', 'lead']).default('person'),
      tags: Tags.default([]),
      ownerId: Id.optional(),
      listId: Id.optional(),
    }),
    reply: z.object({
      results: z.array(
        z.object({
          row: z.int(),
          outcome: z.enum(['filed', 'known', 'maybe', 'refused']),
          person: Named.nullable(),
          reason: z.string(),
        }),
      ),
    }),
  },
  'GET /api/captures/:id': {
    summary: 'One capture with its reading and verdict',
    tag: 'captures',
    right: 'captures.see',
    params: IdParam,
    reply: CaptureDetail,
  },
  'POST /api/captures/:id/filing': {
    summary: 'File it: person, company, lead, claims and ledger in one transaction',
    tag: 'captures',
    right: 'captures.change',
    params: IdParam,
    body: FilingInput.optional(),
    reply: Filed,
    status: 201,
  },
  'POST /api/captures/:id/company': {
    summary: 'File a company page on its company, found or made, without a person',
    tag: 'captures',
    right: 'captures.change',
    params: IdParam,
    body: CompanyFilingInput,
    reply: CompanyFiled,
  },
  'POST /api/captures/:id/set-aside': {
    summary: 'Not a lead: take it out of Arrivals',
    tag: 'captures',
    right: 'captures.change',
    params: IdParam,
    reply: Done,
  },
  'POST /api/captures/set-aside': {
    summary: 'Take several out of Arrivals without filing them',
    tag: 'captures',
    right: 'captures.change',
    body: Chosen,
    reply: Done,
  },
  'POST /api/captures/bring-back': {
    summary: 'Bring what was set aside back into Arrivals',
    tag: 'captures',
    right: 'captures.change',
    body: Chosen,
    reply: Done,
  },
  'POST /api/captures/:id/claims': {
    summary: 'Add a claim the reader missed',
    tag: 'captures',
    right: 'captures.change',
    params: IdParam,
    status: 201,
    body: z.object({ field: ClaimField, value: Line(500), type: PhoneType.optional() }),
    reply: Claim,
  },
  'PATCH /api/claims/:id': {
    summary: 'Correct, reject or restore a claim',
    tag: 'captures',
    right: 'captures.change',
    params: IdParam,
    body: z.object({
      value: Line(500).optional(),
      type: PhoneType.optional(),
      fate: z.enum(['proposed', 'rejected']).optional(),
    }),
    reply: Done.extend({ claim: Claim }),
  },
  'PATCH /api/intents/:id': {
    summary: 'Reject or restore an intent',
    tag: 'captures',
    right: 'captures.change',
    params: IdParam,
    body: z.object({ fate: z.enum(['proposed', 'rejected']) }),
    reply: Done,
  },
});
