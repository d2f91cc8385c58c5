import { DEAL_ROLES } from '@emporikon/core/lifecycle/conversion';
import { LEAD_STATUSES } from '@emporikon/core/lifecycle/statuses';
import { z } from 'zod';
import { Intent } from './captures';
import { Currency, Day, Done, Id, IdParam, Line, Minor, Named, Page, routes, Time, Version } from './common';
import { Task } from './tasks';

export const LeadStatus = z.enum(LEAD_STATUSES);
export const LeadRow = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  person: Named,
  company: Named.nullable(),
  status: LeadStatus,
  statusSince: Time,
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
const Answer = z.object({
  questionId: Id,
  label: z.string(),
  help: z.string(),
  answer: z.string(),
  version: z.int().nullable(),
  by: z.string().nullable(),
  at: Time.nullable(),
  suggestion: z.string().nullable(),
});
export const LeadDetail = LeadRow.extend({
  parkedUntil: Day.nullable(),
  dropReason: z.string().nullable(),
  nextStatuses: z.array(LeadStatus),
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

export const leadRoutes = routes({
  'GET /api/leads': {
    summary: 'Leads, open ones first',
    tag: 'leads',
    query: Page.extend({
      status: LeadStatus.optional(),
      owner: Id.optional(),
      sort: z.enum(['status', 'chance']).default('status'),
    }),
    reply: z.object({ items: z.array(LeadRow), next: z.string().nullable() }),
  },
  'POST /api/leads': {
    summary: 'Add a lead by hand',
    tag: 'leads',
    status: 201,
    body: z.object({ title: Line(300), personId: Id, companyId: Id.nullish() }),
    reply: Done.extend({ lead: LeadRow }),
  },
  'GET /api/leads/:id': {
    summary: 'One lead with its questions and what a conversion would make',
    tag: 'leads',
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
      status: LeadStatus.optional(),
      ownerId: Id.optional(),
      parkedUntil: Day.nullable().optional(),
      dropReason: Line(300).nullable().optional(),
    }),
    reply: Done.extend({ version: z.int() }),
  },
  'PUT /api/leads/:id/answers/:questionId': {
    summary: 'Answer a qualifying question',
    tag: 'leads',
    params: z.object({ id: Id, questionId: Id }),
    body: z.object({ answer: z.string().trim().max(2000), version: Version.nullable().optional() }),
    reply: Done,
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
        currency: Currency.optional(),
        expectedClose: Day.nullable().optional(),
        stageId: Id.optional(),
        role: z.enum(DEAL_ROLES).optional(),
      })
      .optional(),
    reply: Done.extend({ deal: Named, created: z.boolean() }),
  },
});
