import { z } from 'zod';
import { Day, Id, Named, routes } from './common';

const Range = z.object({
  month: z.string(),
  low: z.int().describe('one run in ten came out below'),
  middle: z.int(),
  high: z.int().describe('one run in ten came out above'),
  mean: z.int(),
  error: z
    .number()
    .describe(
      'how far the shares below low, middle and high may be off from 0.1, 0.5, 0.9; with 95 in 100 sure',
    ),
});
const Sums = z.object({
  deals: z.int(),
  wonMinor: z.int(),
  committedMinor: z.int(),
  weightedMinor: z.int(),
  bestMinor: z.int(),
});
export const Forecast = z.object({
  currency: z.string(),
  basis: z.enum(['stage', 'win']),
  committedFrom: z.number(),
  months: z.array(Sums.extend({ month: z.string() })),
  cells: z.array(Sums.extend({ month: z.string(), owner: Named })),
  simulated: z.object({
    runs: z.int(),
    seed: z.int(),
    played: z.int().describe('open deals played through one by one; the rest come to a normal sum'),
    months: z.array(Range),
    total: Range,
  }),
  missing: z.array(z.string()).describe('currencies without a rate, whose deals are left out'),
});
export type Forecast = z.infer<typeof Forecast>;
export const BackTest = z.object({
  month: z.string(),
  committedMinor: z.int(),
  weightedMinor: z.int(),
  bestMinor: z.int(),
  low: z.int(),
  high: z.int(),
  wonMinor: z.int().describe('won in the month'),
  seenMinor: z.int().describe('the part of it that stood in the pipeline when the month began'),
  isWithin: z.boolean(),
});
export type BackTest = z.infer<typeof BackTest>;
const Query = z.object({
  pipeline: Id.optional(),
  owner: Id.optional(),
  team: z.string().max(60).optional(),
  basis: z.enum(['stage', 'win']).default('stage').describe('the chances of the stages, or the win chances'),
  seed: z.coerce.number().int().min(0).max(4_294_967_295).default(1),
  runs: z.coerce.number().int().min(100).max(20_000).default(10_000),
});

export const forecastRoutes = routes({
  'GET /api/forecast': {
    summary: 'What will be won, by month and owner: committed, weighted, best, and simulated',
    tag: 'forecast',
    right: 'deals.see',
    query: Query.extend({ from: Day.optional(), months: z.coerce.number().int().min(1).max(24).default(6) }),
    reply: Forecast,
  },
  'GET /api/forecast/back-test': {
    summary: 'What the forecast said on the first day of past months, beside what came',
    tag: 'forecast',
    right: 'deals.see',
    query: Query.omit({ basis: true }).extend({
      months: z.coerce.number().int().min(1).max(24).default(6),
    }),
    reply: z.object({ currency: z.string(), items: z.array(BackTest) }),
  },
});
