import { DEAL_ASK_KEYS } from '@emporikon/core/lifecycle/stages';
import { z } from 'zod';
import { Done, Id, IdParam, Line, routes, Version } from './common';
import { Stage } from './deals';

export const PipelineHead = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  position: z.int(),
  chances: z.enum(['given', 'measured']),
  active: z.boolean(),
  open: z.int(),
});
export type PipelineHead = z.infer<typeof PipelineHead>;
export const CloseReason = z.object({
  id: Id,
  version: z.int(),
  kind: z.enum(['won', 'lost']),
  words: z.string(),
  active: z.boolean(),
});
const Asks = z.array(z.enum(DEAL_ASK_KEYS)).max(DEAL_ASK_KEYS.length);

export const pipelineRoutes = routes({
  'GET /api/pipelines': {
    summary: 'The pipelines, in their order',
    tag: 'pipelines',
    reply: z.object({ items: z.array(PipelineHead) }),
  },
  'POST /api/pipelines': {
    summary: 'Add a pipeline; it begins with a first stage, one for won and one for lost',
    tag: 'pipelines',
    status: 201,
    right: 'settings.deals',
    body: z.object({ name: Line(60) }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/pipelines/:id': {
    summary: 'Rename, reorder or retire a pipeline, or say whether its chances are given or measured',
    tag: 'pipelines',
    params: IdParam,
    right: 'settings.deals',
    body: z.object({
      version: Version,
      name: Line(60).optional(),
      position: z.int().min(0).max(1000).optional(),
      chances: z.enum(['given', 'measured']).optional(),
      active: z.boolean().optional(),
    }),
    reply: Done,
  },
  'GET /api/stages': {
    summary: 'The stages of all pipelines, or of one, in their order',
    tag: 'pipelines',
    query: z.object({ pipeline: Id.optional() }),
    reply: z.object({ items: z.array(Stage) }),
  },
  'POST /api/stages': {
    summary: 'Add a stage, before the won and lost ones',
    tag: 'pipelines',
    status: 201,
    right: 'settings.deals',
    body: z.object({
      pipelineId: Id,
      name: Line(60),
      probability: z.int().min(0).max(100).default(50),
      typicalDays: z.int().min(1).max(999).default(14),
    }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/stages/:id': {
    summary: 'Change a stage',
    tag: 'pipelines',
    params: IdParam,
    right: 'settings.deals',
    body: z.object({
      version: Version,
      name: Line(60).optional(),
      position: z.int().min(0).max(1000).optional().describe('its place among the stages of the pipeline'),
      probability: z.int().min(0).max(100).optional(),
      typicalDays: z.int().min(1).max(999).optional(),
      asks: Asks.optional(),
    }),
    reply: Done,
  },
  'DELETE /api/stages/:id': {
    summary: 'Remove a stage. Deals in it go to the stage named; 409 when there are some and none is named',
    tag: 'pipelines',
    params: IdParam,
    right: 'settings.deals',
    query: z.object({ to: Id.optional() }),
    reply: Done.extend({ moved: z.int() }),
  },
  'GET /api/close-reasons': {
    summary: 'Why deals are won and lost',
    tag: 'pipelines',
    reply: z.object({ items: z.array(CloseReason) }),
  },
  'POST /api/close-reasons': {
    summary: 'Add a reason',
    tag: 'pipelines',
    status: 201,
    right: 'settings.deals',
    body: z.object({ kind: z.enum(['won', 'lost']), words: Line(120) }),
    reply: Done,
  },
  'PATCH /api/close-reasons/:id': {
    summary: 'Change or retire a reason; what deals were closed with stays',
    tag: 'pipelines',
    params: IdParam,
    right: 'settings.deals',
    body: z.object({ version: Version, words: Line(120).optional(), active: z.boolean().optional() }),
    reply: Done,
  },
  'GET /api/figures/closings': {
    summary: 'How often deals were won and lost, and why',
    tag: 'pipelines',
    right: 'deals.see',
    query: z.object({ pipeline: Id.optional() }),
    reply: z.object({
      won: z.int(),
      lost: z.int(),
      reasons: z.array(z.object({ kind: z.enum(['won', 'lost']), reason: z.string(), count: z.int() })),
    }),
  },
  'PATCH /api/users/:id': {
    summary: 'Which team somebody belongs to',
    tag: 'session',
    params: IdParam,
    roles: ['manager', 'admin'],
    body: z.object({ team: z.string().trim().max(60) }),
    reply: Done,
  },
});
