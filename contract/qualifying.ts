import { FIT_CONDITIONS, FIT_FIELDS, type FitField } from '@emporikon/core/qualifying/fit';
import { TOUCH_KINDS } from '@emporikon/core/qualifying/warmth';
import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Time, Version } from './common';

const Score = z.int().min(0).max(100);
const Chance = z.number().min(0).max(1);
const FIELDS = Object.keys(FIT_FIELDS) as [FitField, ...FitField[]];
export const FitRule = z.object({
  id: Id,
  version: z.int(),
  field: z.enum(FIELDS),
  condition: z.enum(FIT_CONDITIONS),
  value: z.string(),
  points: z.int(),
});
export type FitRule = z.infer<typeof FitRule>;
const When = z.object({
  field: z.enum(FIELDS),
  condition: z.enum(FIT_CONDITIONS),
  value: z.string().trim().max(300).default(''),
});
const isWhole = (one: z.infer<typeof When>): boolean => one.condition === 'is known' || one.value !== '';
const isNumber = (one: z.infer<typeof When>): boolean =>
  FIT_FIELDS[one.field].kind !== 'number' ||
  one.condition === 'is known' ||
  Number.isFinite(Number(one.value));
const WHOLE = { path: ['value'], error: 'say which value to compare with' };
const NUMBER = { path: ['value'], error: 'must be a number' };
const WhenRule = When.refine(isWhole, WHOLE).refine(isNumber, NUMBER);
const DraftRule = When.extend({ points: z.int().min(-100).max(100) })
  .refine(isWhole, WHOLE)
  .refine(isNumber, NUMBER);
export const FitSheet = z.array(DraftRule).max(60);
export const OwnerRule = z.object({
  id: Id,
  version: z.int(),
  field: z.enum(FIELDS).nullable().describe('null for the rule of all the rest'),
  condition: z.enum(FIT_CONDITIONS).nullable(),
  value: z.string(),
  owners: z.array(Named),
});
export type OwnerRule = z.infer<typeof OwnerRule>;
const DraftOwners = z
  .array(
    z.object({
      when: WhenRule.nullable().describe('null for all the rest'),
      owners: z.array(Id).min(1).max(60),
    }),
  )
  .max(30);
export const Judgement = z.object({
  fit: z.object({
    score: Score,
    points: z.int(),
    parts: z.array(
      z.object({
        ruleId: z.string(),
        words: z.string(),
        points: z.int(),
        outcome: z.enum(['holds', 'fails', 'not known']),
        found: z.string(),
      }),
    ),
  }),
  warmth: z.object({
    score: Score,
    points: z.number(),
    cooled: z.boolean(),
    parts: z.array(z.object({ kind: z.enum(TOUCH_KINDS), at: Time, words: z.string(), points: z.number() })),
  }),
  completeness: Score,
  chance: z.object({
    chance: Chance,
    reasons: z.array(z.object({ words: z.string(), points: z.number().describe('points of per cent') })),
    base: z
      .object({ low: Chance, high: Chance, closed: z.int(), won: z.int() })
      .nullable()
      .describe('the base rate, where too little was closed to learn from'),
  }),
});
export type Judgement = z.infer<typeof Judgement>;
export const WinModel = z.object({
  kind: z.enum(['learnt', 'base']),
  madeAt: Time.nullable(),
  closed: z.int(),
  won: z.int(),
  held: z
    .object({
      count: z.int(),
      brier: z.number(),
      baseBrier: z.number(),
      bins: z.array(z.object({ given: Chance, came: Chance, low: Chance, high: Chance, count: z.int() })),
    })
    .nullable(),
  features: z.array(z.object({ label: z.string(), weight: z.number() })),
});
export type WinModel = z.infer<typeof WinModel>;
const Ranked = z.object({
  lead: Named,
  person: z.string(),
  before: Score,
  after: Score,
  rankBefore: z.int(),
  rankAfter: z.int(),
});

export const qualifyingRoutes = routes({
  'GET /api/leads/:id/judgement': {
    summary: 'Fit, warmth, completeness and win chance of a lead, with every reason',
    tag: 'qualifying',
    right: 'leads.see',
    params: IdParam,
    reply: Judgement,
  },
  'GET /api/fit-rules': {
    summary: 'The rule sheet of fit',
    tag: 'qualifying',
    reply: z.object({ items: z.array(FitRule) }),
  },
  'PUT /api/fit-rules': {
    summary: 'Set the rule sheet of fit; `seen` are the rules it was made from',
    tag: 'qualifying',
    right: 'settings.scoring',
    body: z.object({
      rules: FitSheet,
      seen: z.array(z.object({ id: Id, version: Version })).max(60),
    }),
    reply: Done,
  },
  'POST /api/fit-rules/preview': {
    summary: 'How today’s leads would be ranked by another rule sheet',
    tag: 'qualifying',
    body: z.object({ rules: FitSheet }),
    reply: z.object({ items: z.array(Ranked), leads: z.int() }),
  },
  'GET /api/warmth-rules': {
    summary: 'What each thing somebody does is worth, and how fast it cools',
    tag: 'qualifying',
    reply: z.object({
      version: z.int(),
      halfLifeDays: z.int(),
      kinds: z.array(z.object({ kind: z.enum(TOUCH_KINDS), label: z.string(), points: z.int() })),
    }),
  },
  'PATCH /api/warmth-rules': {
    summary: 'Change what things are worth and how fast they cool',
    tag: 'qualifying',
    right: 'settings.scoring',
    body: z.object({
      version: Version,
      halfLifeDays: z.int().min(1).max(365).optional(),
      points: z.partialRecord(z.enum(TOUCH_KINDS), z.int().min(0).max(100)).optional(),
    }),
    reply: Done,
  },
  'POST /api/signals': {
    summary: 'Note that somebody opened a mail, followed a link, visited our site or came to a meeting',
    tag: 'qualifying',
    right: 'ledger.add',
    status: 201,
    body: z
      .object({
        personId: Id.optional(),
        email: z.email().optional(),
        kind: z.enum(['opened', 'clicked', 'visited', 'met']),
        at: z.iso.datetime({ offset: true }).optional(),
        words: Line(200).default('told by another program'),
      })
      .refine((one) => one.personId ?? one.email, { path: ['email'], error: 'say who' }),
    reply: z.object({ id: Id }),
  },
  'GET /api/win-model': {
    summary: 'What the win chance was learnt from, and how it did on what it had not seen',
    tag: 'qualifying',
    reply: WinModel,
  },
  'POST /api/win-model/training': {
    summary: 'Retrain the win chance in the background',
    tag: 'qualifying',
    right: 'settings.scoring',
    status: 201,
    reply: z.object({ asked: z.boolean() }),
  },
  'GET /api/owner-rules': {
    summary: 'Who gets new leads',
    tag: 'qualifying',
    reply: z.object({ items: z.array(OwnerRule) }),
  },
  'PUT /api/owner-rules': {
    summary: 'Set who gets new leads; without a rule it is whoever files them',
    tag: 'qualifying',
    right: 'settings.scoring',
    body: z.object({ rules: DraftOwners, seen: z.array(z.object({ id: Id, version: Version })).max(30) }),
    reply: Done,
  },
  'GET /api/figures/owners': {
    summary: 'How many new leads each was given or took, and how evenly (Jain’s index, 1 is even)',
    tag: 'figures',
    query: z.object({ since: z.iso.date().optional() }),
    reply: z.object({
      fairness: z.number(),
      owners: z.array(Named.extend({ leads: z.int(), byRule: z.int() })),
    }),
  },
  'GET /api/figures/drops': {
    summary: 'Why leads were dropped, with how many each',
    tag: 'figures',
    query: z.object({ since: z.iso.date().optional() }),
    reply: z.object({
      dropped: z.int(),
      closed: z.int(),
      reasons: z.array(z.object({ reason: z.string(), count: z.int() })),
    }),
  },
});
