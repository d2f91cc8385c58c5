import { DEAL_ROLES } from '@emporikon/core/lifecycle/conversion';
import { LEAD_RATINGS, LEAD_STATUSES } from '@emporikon/core/lifecycle/statuses';
import { z } from 'zod';
import { Match } from './captures';
import {
  Currency,
  Day,
  Done,
  Id,
  IdParam,
  Line,
  Minor,
  Named,
  Page,
  routes,
  sortedBy,
  Span,
  Time,
  Version,
} from './common';
import { Intent } from './intents';
import { KnownCurrency } from './products';
import { Task } from './tasks';
import { OwnTerm, TermKey } from './terms';

export const LeadStatus = z.enum(LEAD_STATUSES);
export const LeadRow = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  person: Named,
  company: Named.nullable(),
  status: LeadStatus,
  statusTerm: OwnTerm,
  statusSince: Time,
  rating: z.enum(LEAD_RATINGS).nullable().describe('as somebody judged it; null: nobody did'),
  source: z.string(),
  owner: Named,
  nextMove: Task.nullable(),
  scores: z
    .object({ fit: z.int(), warmth: z.int(), completeness: z.int(), chance: z.number() })
    .nullable()
    .describe('as last scored, 0 to 100; the chance 0 to 1'),
  createdAt: Time,
});
export type LeadRow = z.infer<typeof LeadRow>;
const Source = z.object({ captureId: Id, span: Span });
const Answer = z.object({
  questionId: Id,
  label: z.string(),
  help: z.string(),
  answer: z.string(),
  version: z.int().nullable(),
  by: z.string().nullable(),
  at: Time.nullable(),
  suggestion: z.string().nullable().describe('the sentence of theirs that answers it'),
  from: Source.nullable().describe('where the suggestion stands'),
  evidence: Source.nullable().describe('where the answer was taken from; null where somebody typed it'),
});
export const LeadDetail = LeadRow.extend({
  moves: z.array(Task).describe('its open moves, those due first before; at most twenty'),
  parkedUntil: Day.nullable(),
  dropReason: z.string().nullable(),
  nextStatuses: z.array(TermKey),
  answers: z.array(Answer),
  intents: z.array(Intent),
  proposal: z.object({
    title: z.string(),
    amountMinor: z.int().nullable(),
    currency: Currency,
    expectedClose: Day.nullable(),
  }),
  deal: Named.nullable(),
  conversionEventId: Id.nullable(),
  captures: z.array(z.object({ id: Id, subject: z.string() })),
});
export type LeadDetail = z.infer<typeof LeadDetail>;

const Proposed = z.object({
  proposal: LeadDetail.shape.proposal,
  company: z.object({
    current: Named.nullable().describe('the company of the lead, or of its person'),
    name: z.string().describe('what it would be called if it were made'),
    matches: z.array(Match).describe('companies we know that it is or may be, with the reasons'),
  }),
  person: z.object({
    matches: z.array(Match).describe('people we know that the person of the lead is or may be'),
  }),
  openDeals: z.array(
    Named.extend({
      stage: z.string(),
      amountMinor: z.int().nullable(),
      currency: z.string(),
      owner: z.string(),
      why: z.string(),
    }),
  ),
  people: z.array(
    Named.extend({
      jobTitle: z.string().nullable(),
      role: z.enum(DEAL_ROLES),
      why: z.string(),
      isProposed: z.boolean(),
    }),
  ),
  carried: z.array(z.object({ what: z.string(), count: z.int(), names: z.array(z.string()) })),
});
export type ConversionProposal = z.infer<typeof Proposed>;

export const leadRoutes = routes({
  'GET /api/leads': {
    summary: 'Leads, open ones first',
    tag: 'leads',
    right: 'leads.see',
    query: Page.extend({
      status: TermKey.optional(),
      owner: Id.optional(),
      q: z.string().max(200).optional().describe('words of the title, the person or the company'),
      source: z.string().max(120).optional(),
      rating: z.enum(LEAD_RATINGS).optional(),
      ...sortedBy(['status', 'chance', 'title', 'fit', 'warmth', 'rating', 'created'], 'status'),
    }),
    reply: z.object({ items: z.array(LeadRow), next: z.string().nullable() }),
  },
  'POST /api/leads': {
    summary: 'Add a lead by hand',
    tag: 'leads',
    status: 201,
    body: z
      .object({
        title: Line(300),
        personId: Id.optional(),
        personName: Line(200).optional().describe('somebody new, where no personId is given'),
        companyId: Id.nullish(),
        companyName: Line(200).optional().describe('found by name or made, where no companyId is given'),
        source: Line(120).optional(),
        ownerId: Id.optional(),
      })
      .refine(({ personId, personName }) => personId ?? personName, {
        path: ['personId'],
        error: 'say whose lead it is',
      }),
    reply: Done.extend({ lead: LeadRow }),
  },
  'GET /api/leads/:id': {
    summary: 'One lead with its questions and what a conversion would make',
    tag: 'leads',
    right: 'leads.see',
    params: IdParam,
    reply: LeadDetail,
  },
  'PATCH /api/leads/:id': {
    summary: 'Change a lead or its status',
    tag: 'leads',
    params: IdParam,
    body: z.object({
      version: Version,
      title: Line(300).optional(),
      source: Line(120).optional(),
      rating: z.enum(LEAD_RATINGS).nullable().optional(),
      status: TermKey.optional(),
      ownerId: Id.optional(),
      parkedUntil: Day.nullable().optional(),
      dropReason: Line(300).nullable().optional(),
      because: Line(500).optional().describe('a sentence on why, for the ledger'),
    }),
    reply: Done.extend({ version: z.int() }),
  },
  'PUT /api/leads/:id/answers/:questionId': {
    summary: 'Answer a qualifying question',
    tag: 'leads',
    params: z.object({ id: Id, questionId: Id }),
    body: z.object({
      answer: z.string().trim().max(2000),
      version: Version.nullable().optional(),
      from: Source.nullish().describe('the words it was taken from'),
    }),
    reply: Done,
  },
  'GET /api/leads/:id/conversion': {
    summary: 'What a conversion would make and carry along, and what is already there',
    tag: 'leads',
    right: 'leads.see',
    params: IdParam,
    reply: Proposed,
  },
  'POST /api/leads/:id/conversion': {
    summary: 'Make the deal: person, company and deal linked in one transaction; twice makes no second',
    tag: 'leads',
    params: IdParam,
    status: 201,
    body: z
      .object({
        title: Line(300).optional(),
        amountMinor: Minor.nullable().optional(),
        currency: KnownCurrency.optional(),
        expectedClose: Day.nullable().optional(),
        stageId: Id.optional(),
        role: z.enum(DEAL_ROLES).optional().describe('of the person of the lead'),
        people: z
          .array(z.object({ personId: Id, role: z.enum(DEAL_ROLES) }))
          .max(100)
          .optional()
          .describe('others who have a part in it'),
        companyId: Id.nullable().optional().describe('a company we know; null for none'),
        companyName: Line(200).optional().describe('a company to find by its name, or make'),
        personId: Id.optional().describe('the person we know that the person of the lead is'),
        dealId: Id.optional().describe('the open deal it goes to, so that none is doubled'),
      })
      .optional(),
    reply: Done.extend({ deal: Named, created: z.boolean() }),
  },
});
