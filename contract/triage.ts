import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Time, Version } from './common';
import { MoveKind } from './moves';
import { Standing } from './people';
import { OwnTerm } from './terms';

export const Plan = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  kind: MoveKind,
  title: z.string(),
  days: z.int().describe('working days until it is due'),
  active: z.boolean(),
});
export type Plan = z.infer<typeof Plan>;
export const TriageCard = z.object({
  id: Id,
  name: z.string(),
  jobTitle: z.string().nullable(),
  company: Named.nullable(),
  firm: z.string().describe('industry, size and country in one line'),
  standing: Standing,
  standingTerm: OwnTerm,
  contacts: z.array(z.string()),
  address: z.string().nullable(),
  background: z.string().nullable(),
  tags: z.array(z.string()),
  last: z.object({ at: Time, headline: z.string() }).nullable(),
  work: z.array(z.string()).describe('leads and deals there are'),
  completeness: z.int(),
});
export type TriageCard = z.infer<typeof TriageCard>;
const Days = z.int().min(0).max(365);

export const triageRoutes = routes({
  'GET /api/triage': {
    summary: 'The next of a pile of people, each at a glance',
    tag: 'triage',
    right: 'people.see',
    query: z.object({
      list: Id.optional(),
      import: Id.optional(),
      tag: z.string().max(60).optional(),
      limit: z.coerce.number().int().min(1).max(60).default(20),
    }),
    reply: z.object({ left: z.int(), done: z.int(), items: z.array(TriageCard) }),
  },
  'POST /api/triage/:id': {
    summary: 'Decide what somebody is to us; a prospect gets a lead, and by a plan its first next move',
    tag: 'triage',
    params: IdParam,
    body: z.object({
      as: z.enum(['prospect', 'customer', 'partner', 'personal', 'drop']),
      planId: Id.optional(),
      source: Line(80).default('triage'),
    }),
    reply: Done.extend({ lead: Named.nullable() }),
  },
  'GET /api/plans': {
    summary: 'The plans a new prospect can follow',
    tag: 'triage',
    reply: z.object({ items: z.array(Plan) }),
  },
  'POST /api/plans': {
    summary: 'Add a plan',
    tag: 'triage',
    status: 201,
    right: 'settings.scoring',
    body: z.object({ name: Line(60), kind: MoveKind, title: Line(200), days: Days }),
    reply: Done,
  },
  'PATCH /api/plans/:id': {
    summary: 'Change or retire a plan',
    tag: 'triage',
    params: IdParam,
    right: 'settings.scoring',
    body: z.object({
      version: Version,
      name: Line(60).optional(),
      kind: MoveKind.optional(),
      title: Line(200).optional(),
      days: Days.optional(),
      active: z.boolean().optional(),
    }),
    reply: Done,
  },
});
