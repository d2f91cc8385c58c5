import { z } from 'zod';
import { Claim } from './captures';
import { Done, Id, IdParam, Line, Minor, Named, Page, routes, Time, Version } from './common';

const Subjects = z
  .object({
    people: z.array(Id).max(1000).default([]),
    companies: z.array(Id).max(1000).default([]),
    leads: z.array(Id).max(1000).default([]),
  })
  .refine((one) => one.people.length + one.companies.length + one.leads.length > 0, {
    path: ['people'],
    error: 'say who is to be looked up',
  })
  .refine((one) => one.people.length + one.companies.length + one.leads.length <= 1000, {
    path: ['people'],
    error: 'at most 1,000 at once',
  });
const Chance = z.number().min(0).max(1);
const Cost = z
  .number()
  .describe('minor units of your organisation’s currency; expected costs have fractions');
export const PlannedStep = z.object({
  source: z.string(),
  label: z.string(),
  gain: Cost,
  cost: Cost,
  price: Minor,
  net: Cost,
  fields: z.array(z.object({ about: z.enum(['person', 'company']), field: z.string(), chance: Chance })),
  after: z.string().nullable().describe('the question it waits for'),
  because: z.string(),
});
export type PlannedStep = z.infer<typeof PlannedStep>;
export const LookUpPlan = z.object({
  subjects: z.int(),
  steps: z.array(PlannedStep).describe('in their order, when one is looked up'),
  questions: z.array(z.object({ source: z.string(), label: z.string(), count: z.int(), cost: Cost })),
  expected: Cost,
  most: Minor.describe('what it costs if every question is charged'),
  left: Minor.describe('what is left of the allowance for whoever asks'),
  currency: z.string(),
});
export type LookUpPlan = z.infer<typeof LookUpPlan>;
export const LookUpRun = z.object({
  id: Id,
  total: z.int(),
  done: z.int(),
  filled: z.int(),
  suggested: z.int(),
  spent: Minor,
  state: z.enum(['running', 'done', 'stopped']),
  trouble: z.string().nullable(),
  createdAt: Time,
  finishedAt: Time.nullable(),
});
export type LookUpRun = z.infer<typeof LookUpRun>;
export const LookUpSource = z.object({
  key: z.string(),
  label: z.string(),
  active: z.boolean(),
  price: Minor,
  charges: z.enum(['answers', 'finds']),
  perSecond: z.number(),
  asked: z.int(),
  kept: z.int(),
  decided: z.int().describe('answers that were kept or not'),
  keptShare: Chance.describe('how often its answers were kept, shrunk to what was believed before'),
  fields: z.array(z.object({ field: z.string(), coverage: Chance, accuracy: Chance })),
  restsUntil: Time.nullable(),
  trouble: z.string().nullable(),
});
export type LookUpSource = z.infer<typeof LookUpSource>;
export const LookUpRules = z.object({
  version: z.int(),
  allowance: Minor.describe('minor units a month'),
  perUser: Minor.nullable(),
  pointWorth: z.int(),
  enough: z.int(),
  automatic: z.boolean(),
  fillBlanks: z.boolean(),
  keepDays: z.int(),
  currency: z.string(),
  month: z.string(),
  spent: Minor,
  spentByMe: Minor,
});
export type LookUpRules = z.infer<typeof LookUpRules>;
export const LookUpRow = z.object({
  id: Id,
  source: z.string(),
  question: z.record(z.string(), z.string()),
  state: z.enum(['asking', 'found', 'nothing', 'failed']),
  told: z.array(z.string()).describe('the fields it told of'),
  trouble: z.string().nullable(),
  price: Minor,
  by: Named.nullable().describe('null when it was asked automatically'),
  person: Named.nullable(),
  company: Named.nullable(),
  at: Time,
  tries: z.int(),
});
export type LookUpRow = z.infer<typeof LookUpRow>;
const Completeness = z.object({
  score: z.int(),
  missing: z.array(z.object({ field: z.string(), label: z.string(), points: z.int() })),
});
export const Suggestion = z.object({
  claim: Claim,
  about: z.enum(['person', 'company']),
  held: z.string().nullable(),
  heldSource: z.string().nullable().describe('who says what stands there'),
});
export type Suggestion = z.infer<typeof Suggestion>;
/** What is missing of somebody, what is suggested, and what can be worked out without asking. */
export const Gaps = z.object({
  person: Completeness.nullable(),
  company: Completeness.nullable(),
  score: z.int(),
  suggestions: z.array(Suggestion),
  likelyEmails: z.array(
    z.object({
      email: z.string(),
      probability: Chance,
      because: z.string(),
      known: z.int(),
      follow: z.int(),
    }),
  ),
  lookedUp: Time.nullable(),
});
export type Gaps = z.infer<typeof Gaps>;

export const lookUpRoutes = routes({
  'GET /api/look-ups': {
    summary: 'The look-up history: what was asked, who by and for how much, newest first',
    tag: 'look-ups',
    query: Page,
    reply: z.object({ items: z.array(LookUpRow), next: z.string().nullable() }),
  },
  'GET /api/look-ups/:id': {
    summary: 'One question with its answer',
    tag: 'look-ups',
    params: IdParam,
    reply: LookUpRow.extend({
      facts: z.array(z.object({ label: z.string(), value: z.string(), confidence: Chance })),
    }),
  },
  'POST /api/look-ups/plan': {
    summary: 'What a look-up would ask, in which order and why, and what it would cost',
    tag: 'look-ups',
    body: Subjects,
    reply: LookUpPlan,
  },
  'POST /api/look-ups': {
    summary: 'Look up people, companies or leads',
    tag: 'look-ups',
    status: 201,
    body: Subjects,
    reply: LookUpRun,
  },
  'GET /api/look-ups/runs/:id': {
    summary: 'How far a look-up is',
    tag: 'look-ups',
    params: IdParam,
    reply: LookUpRun,
  },
  'POST /api/look-ups/runs/:id/stop': {
    summary: 'Stop asking; what was found stays',
    tag: 'look-ups',
    params: IdParam,
    reply: LookUpRun,
  },
  'GET /api/look-ups/sources': {
    summary: 'The sources, what they cost and how often their answers were kept',
    tag: 'look-ups',
    reply: z.object({ items: z.array(LookUpSource) }),
  },
  'PATCH /api/look-ups/sources/:key': {
    summary: 'Turn a source on or off',
    tag: 'look-ups',
    params: z.object({ key: Line(40) }),
    right: 'settings.channels',
    body: z.object({ active: z.boolean() }),
    reply: Done,
  },
  'GET /api/look-ups/rules': {
    summary: 'The allowance of a month, what was spent of it, and what is looked up automatically',
    tag: 'look-ups',
    reply: LookUpRules,
  },
  'PATCH /api/look-ups/rules': {
    summary: 'Change the allowance and what is looked up automatically',
    tag: 'look-ups',
    right: 'settings.channels',
    body: z.object({
      version: Version,
      allowance: z.int().min(0).max(100_000_000).optional(),
      perUser: z.int().min(0).max(100_000_000).nullable().optional(),
      pointWorth: z.int().min(0).max(1000).optional(),
      enough: z.int().min(0).max(100).optional(),
      automatic: z.boolean().optional(),
      fillBlanks: z.boolean().optional(),
      keepDays: z.int().min(0).max(3650).optional(),
    }),
    reply: Done,
  },
  'GET /api/gaps': {
    summary: 'What is missing of a person or a company, what is suggested, and what can be worked out',
    tag: 'look-ups',
    right: 'people.see',
    query: z
      .object({ personId: Id.optional(), companyId: Id.optional() })
      .refine((one) => Boolean(one.personId) !== Boolean(one.companyId), {
        path: ['personId'],
        error: 'say a person or a company',
      }),
    reply: Gaps,
  },
  'POST /api/suggestions/:id/acceptance': {
    summary: 'Take a suggested value; what stood there is kept as superseded',
    tag: 'look-ups',
    right: 'people.change',
    params: IdParam,
    reply: Done,
  },
  'POST /api/suggestions/:id/refusal': {
    summary: 'Reject a suggested value; it is not suggested again',
    tag: 'look-ups',
    right: 'people.change',
    params: IdParam,
    reply: Done,
  },
});
