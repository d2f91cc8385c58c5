import { DEAL_ROLES } from '@emporikon/core/lifecycle/conversion';
import { DEAL_ASK_KEYS } from '@emporikon/core/lifecycle/stages';
import { z } from 'zod';
import { Day, Done, Id, IdParam, Line, Minor, Named, Page, routes, sortedBy, Time, Version } from './common';
import { Tags } from './fields';
import { Turn } from './ledger';
import { DealLine, KnownCurrency, LineDraft, Totals } from './products';
import { Task } from './tasks';

const Ask = z.enum(DEAL_ASK_KEYS);
export const Stage = z.object({
  id: Id,
  version: z.int(),
  pipelineId: Id,
  name: z.string(),
  position: z.int(),
  kind: z.enum(['open', 'won', 'lost']),
  probability: z.int().describe('the chance it was given, per cent'),
  typicalDays: z.int().describe('the days it was given'),
  asks: z.array(Ask).describe('what should be known of a deal before it comes here'),
  usualChance: z.int().describe('what a deal that comes here gets: given, or measured'),
  usualDays: z.int().describe('how long won deals stay here: measured once enough were, else given'),
  measured: z
    .object({
      closed: z.int(),
      won: z.int(),
      share: z.number(),
      low: z.number(),
      high: z.number(),
      typicalDays: z.int().nullable(),
    })
    .nullable()
    .describe('what the closed deals that came here show, with the 95 per cent interval'),
});
export type Stage = z.infer<typeof Stage>;
export const DealRow = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  company: Named.nullable(),
  pipelineId: Id,
  stageId: Id,
  stageSince: Time,
  days: z.int(),
  amountMinor: z.int().nullable(),
  currency: z.string(),
  probability: z.int(),
  probabilityByHand: z.boolean(),
  expectedClose: z.string().nullable().describe('YYYY-MM-DD; an import of before may have left any day'),
  owner: Named,
  tags: z.array(z.string()),
  closedAt: Time.nullable(),
  closeReason: z.string().nullable(),
  winChance: z
    .number()
    .nullable()
    .describe('0 to 1, from what was learnt of its lead and from its stage; null for a closed one'),
  nextMove: Task.nullable(),
  turn: Turn,
  news: z
    .object({ count: z.int(), sentence: z.string().nullable() })
    .nullable()
    .describe(
      'what colleagues entered since whoever asks looked at it last, and the newest sentence on why it was changed',
    ),
});
export type DealRow = z.infer<typeof DealRow>;
const Filter = z.object({
  q: z.string().max(200).optional().describe('words of the title or the company'),
  pipeline: Id.optional(),
  stage: Id.optional(),
  owner: Id.optional(),
  team: z.string().max(60).optional(),
  tag: z.string().max(60).optional(),
  company: Id.optional(),
  from: Day.optional().describe('expected on or after; closed ones: closed on or after'),
  until: Day.optional(),
});
const Sum = z.object({ currency: z.string(), plain: z.int(), weighted: z.int() });
const Total = z.object({
  plain: z.int(),
  weighted: z.int(),
  currency: z.string(),
  missing: z.array(z.string()).describe('currencies without a rate, which are left out'),
});
export const Board = z.object({
  pipeline: Named,
  stages: z.array(
    Stage.extend({
      count: z.int(),
      sums: z.array(Sum),
      total: Total,
      next: z.string().nullable().describe('for the further cards of its lane; null where all are here'),
    }),
  ),
  deals: z.array(DealRow).describe('the first cards of each lane, newest in their stage first'),
  open: z.int(),
  sums: z.array(Sum),
  total: Total.describe('all currencies, converted to your organisation’s at today’s rates'),
  tags: z.array(z.string()),
  teams: z.array(z.string()),
});
export type Board = z.infer<typeof Board>;
export const DealDetail = DealRow.extend({
  stage: Stage,
  moves: z.array(Task).describe('its open moves, those due first before; at most twenty'),
  leadId: Id.nullable(),
  people: z.array(Named.extend({ roleId: Id, role: z.enum(DEAL_ROLES), jobTitle: z.string().nullable() })),
  lines: z.array(DealLine),
  totals: Totals,
  notKnown: z.array(Ask).describe('what its stage asks for and is not known'),
});
export type DealDetail = z.infer<typeof DealDetail>;

export const dealRoutes = routes({
  'GET /api/deals': {
    summary: 'Deals, newest in their stage first',
    tag: 'deals',
    right: 'deals.see',
    query: Page.extend({
      ...Filter.shape,
      state: z.enum(['open', 'won', 'lost', 'all']).default('all'),
      ...sortedBy(['since', 'title', 'amount', 'expectedClose'], 'since'),
    }),
    reply: z.object({ items: z.array(DealRow), next: z.string().nullable() }),
  },
  'GET /api/pipelines/:id/board': {
    summary: 'The pipeline: stages with their sums, the open deals in them, and what was won this month',
    tag: 'deals',
    right: 'deals.see',
    params: IdParam,
    query: Filter.omit({ pipeline: true, stage: true }),
    reply: Board,
  },
  'GET /api/pipelines/:id/board/:stageId': {
    summary: 'The further cards of one lane',
    tag: 'deals',
    right: 'deals.see',
    params: z.object({ id: Id, stageId: Id }),
    query: Page.extend(Filter.omit({ pipeline: true, stage: true }).shape),
    reply: z.object({ items: z.array(DealRow), next: z.string().nullable() }),
  },
  'POST /api/deals': {
    summary: 'Add a deal by hand',
    tag: 'deals',
    status: 201,
    body: z.object({
      title: Line(300),
      companyId: Id.nullish(),
      companyName: Line(200).optional().describe('found by name or made, where no companyId is given'),
      personId: Id.nullish(),
      stageId: Id.optional(),
      amountMinor: Minor.nullish(),
      currency: KnownCurrency.optional(),
      expectedClose: Day.nullish(),
      tags: Tags.optional(),
      ownerId: Id.optional(),
    }),
    reply: Done.extend({ deal: DealRow }),
  },
  'GET /api/deals/:id': {
    summary: 'One deal',
    right: 'deals.see',
    tag: 'deals',
    params: IdParam,
    reply: DealDetail,
  },
  'PATCH /api/deals/:id': {
    summary: 'Change or move a deal',
    tag: 'deals',
    params: IdParam,
    body: z.object({
      version: Version,
      title: Line(300).optional(),
      stageId: Id.optional(),
      amountMinor: Minor.nullable().optional(),
      currency: KnownCurrency.optional(),
      expectedClose: Day.nullable().optional(),
      ownerId: Id.optional(),
      companyId: Id.nullable().optional(),
      tags: Tags.optional(),
      closeReason: Line(120)
        .nullable()
        .optional()
        .describe('why it was won or lost; asked for, never forced'),
      probability: z
        .int()
        .min(0)
        .max(100)
        .nullable()
        .optional()
        .describe('null goes back to the usual one of the stage'),
      because: Line(500).optional().describe('a sentence on why, for the ledger'),
    }),
    reply: Done.extend({
      version: z.int(),
      notKnown: z.array(Ask).describe('what the stage it came to asks for and is not known'),
    }),
  },
  'PUT /api/deals/:id/people': {
    summary: 'Who has a part in a deal, each with a role; those left out leave it',
    tag: 'deals',
    params: IdParam,
    body: z.object({ people: z.array(z.object({ personId: Id, role: z.enum(DEAL_ROLES) })).max(100) }),
    reply: Done,
  },
  'PUT /api/deals/:id/lines': {
    summary: 'What they buy, line by line; the amount of the deal is the net of its lines',
    tag: 'deals',
    params: IdParam,
    body: z.object({ version: Version, lines: z.array(LineDraft).max(200) }),
    reply: Done.extend({ version: z.int(), totals: Totals }),
  },
  'POST /api/totals': {
    summary: 'Calculate lines without saving them',
    tag: 'deals',
    body: z.object({ lines: z.array(LineDraft).max(200) }),
    reply: Totals,
  },
});
