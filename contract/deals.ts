import { DEAL_ROLES } from '@emporikon/core/lifecycle/conversion';
import { z } from 'zod';
import { Currency, Day, Done, Id, IdParam, Line, Minor, Named, routes, Time, Version } from './common';
import { Turn } from './ledger';
import { Task } from './tasks';

export const Stage = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  position: z.int(),
  kind: z.enum(['open', 'won', 'lost']),
  probability: z.int(),
  typicalDays: z.int(),
});
export type Stage = z.infer<typeof Stage>;
export const DealRow = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  company: Named.nullable(),
  stageId: Id,
  stageSince: Time,
  days: z.int(),
  amountMinor: z.int().nullable(),
  currency: z.string(),
  probability: z.int(),
  probabilityByHand: z.boolean(),
  expectedClose: Day.nullable(),
  owner: Named,
  nextMove: Task.nullable(),
  turn: Turn,
});
export type DealRow = z.infer<typeof DealRow>;
const Sum = z.object({ currency: z.string(), plain: z.int(), weighted: z.int() });
export const Pipeline = z.object({
  stages: z.array(Stage.extend({ count: z.int(), sums: z.array(Sum) })),
  deals: z.array(DealRow),
  open: z.int(),
  sums: z.array(Sum),
});
export type Pipeline = z.infer<typeof Pipeline>;
export const DealDetail = DealRow.extend({
  stage: Stage,
  leadId: Id.nullable(),
  people: z.array(Named.extend({ role: z.enum(DEAL_ROLES), jobTitle: z.string().nullable() })),
});
export type DealDetail = z.infer<typeof DealDetail>;

export const dealRoutes = routes({
  'GET /api/deals': {
    summary: 'The pipeline: stages with their sums, and the deals in them',
    tag: 'deals',
    query: z.object({ owner: Id.optional(), company: Id.optional() }),
    reply: Pipeline,
  },
  'POST /api/deals': {
    summary: 'Add a deal by hand',
    tag: 'deals',
    status: 201,
    body: z.object({
      title: Line(300),
      companyId: Id.nullish(),
      personId: Id.nullish(),
      stageId: Id.optional(),
      amountMinor: Minor.nullish(),
      currency: Currency.optional(),
      expectedClose: Day.nullish(),
    }),
    reply: Done.extend({ deal: DealRow }),
  },
  'GET /api/deals/:id': { summary: 'One deal', tag: 'deals', params: IdParam, reply: DealDetail },
  'PATCH /api/deals/:id': {
    summary: 'Change or move a deal',
    tag: 'deals',
    params: IdParam,
    body: z.object({
      version: Version,
      title: Line(300).optional(),
      stageId: Id.optional(),
      amountMinor: Minor.nullable().optional(),
      currency: Currency.optional(),
      expectedClose: Day.nullable().optional(),
      ownerId: Id.optional(),
      probability: z
        .int()
        .min(0)
        .max(100)
        .nullable()
        .optional()
        .describe('null goes back to the usual one of the stage'),
    }),
    reply: Done.extend({ version: z.int() }),
  },
});
