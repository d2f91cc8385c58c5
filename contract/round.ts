import { z } from 'zod';
import { Day, Done, Id, IdParam, Line, Named, routes, Time } from './common';
import { Urgency } from './cases';
import { Task } from './tasks';

export const CauseKind = z.enum(['turn', 'task', 'new', 'case', 'stuck', 'quiet']);
export const RoundCause = z.object({
  kind: CauseKind,
  key: z.string().describe('by which it is put off'),
  since: Time.describe('since when it waits, or when it was due'),
  because: z.string().describe('what they asked or we promised, where it is our turn'),
  task: Task.nullable(),
  isAsked: z.boolean().describe('to a meeting that a colleague holds'),
  case: Named.extend({ urgency: Urgency, late: z.enum(['answer', 'solution']).nullable() }).nullable(),
  days: z.int().nullable().describe('in its stage, or without a word'),
  usualDays: z.int().nullable().describe('what won deals took in this stage, or the rhythm'),
  stage: z.string().nullable(),
  hasNextMove: z.boolean(),
});
export type RoundCause = z.infer<typeof RoundCause>;
export const RoundLine = RoundCause.extend({
  besides: z.array(RoundCause).describe('what else is the case with the same person or deal'),
  person: Named.nullable(),
  company: Named.nullable(),
  lead: Named.nullable(),
  deal: Named.extend({ amountMinor: z.int().nullable(), currency: z.string() }).nullable(),
  owner: Named,
  isImportant: z.boolean(),
  usualWaitHours: z.number().nullable().describe('how long they usually wait for us'),
  phone: z.string().nullable(),
  email: z.string().nullable(),
  minutes: z.int().describe('that it usually takes'),
  points: z.int().describe('what waiting costs'),
  parts: z.array(z.object({ words: z.string(), points: z.number() })).describe('how it was calculated'),
});
export type RoundLine = z.infer<typeof RoundLine>;
export const RhythmRule = z.object({
  id: Id,
  kind: z.enum(['standing', 'tag']),
  value: z.string(),
  days: z.int(),
});
export type RhythmRule = z.infer<typeof RhythmRule>;
export const Days = z.int().min(1).max(1000);
/** How often we mean to be in touch with somebody. */
export const RhythmView = z.object({
  days: z.int().nullable(),
  from: z.enum(['person', 'company', 'tag', 'standing']).nullable(),
  quietAt: Time.nullable().describe('when they are going quiet'),
  proposed: z.int().nullable().describe('what the past shows'),
});

export const roundRoutes = routes({
  'GET /api/round': {
    summary: 'Everything that wants somebody today, in the order of what waiting costs',
    tag: 'round',
    query: z.object({
      whose: z.enum(['mine', 'team']).default('mine').describe('the team’s: for managers and admins'),
      kind: CauseKind.optional(),
    }),
    reply: z.object({
      items: z.array(RoundLine).describe('at most a hundred'),
      counts: z
        .object({ turn: z.int(), task: z.int(), new: z.int(), case: z.int(), stuck: z.int(), quiet: z.int() })
        .describe('lines by what wants one most; of each kind two hundred at most are ranked'),
      minutes: z.int().describe('that all of it usually takes'),
      total: z.int(),
    }),
  },
  'POST /api/round/later': {
    summary: 'Put something off in your round; a new word about it brings it back at once',
    tag: 'round',
    status: 201,
    body: z.object({
      key: z.string().regex(/^(?:turn|new|case|stuck|quiet|meeting):[0-9a-f-]{36}$/),
      until: Day,
    }),
    reply: Done,
  },
  'GET /api/rhythms': {
    summary: 'How often you mean to be in touch, by standing and tag',
    tag: 'round',
    reply: z.object({ items: z.array(RhythmRule) }),
  },
  'PUT /api/rhythms': {
    summary: 'Set how often you mean to be in touch with everybody of a standing or with a tag',
    tag: 'round',
    right: 'settings.organisation',
    body: z.object({ kind: RhythmRule.shape.kind, value: Line(60), days: Days }),
    reply: Done.extend({ id: Id }),
  },
  'DELETE /api/rhythms/:id': {
    summary: 'Remove a rhythm',
    tag: 'round',
    params: IdParam,
    right: 'settings.organisation',
    reply: Done,
  },
});
