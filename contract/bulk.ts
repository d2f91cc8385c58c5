import { BULK_KINDS, type Step as AnyStep } from '@emporikon/core/bulk/types';
import { z } from 'zod';
import { Day, Id, IdParam, Line, routes, Time } from './common';
import { Tags } from './fields';
import { QueryIn } from './queries';
import { TermKey } from './terms';
import { Visibility } from './visibility';

/** One thing that is done to each of many records. */
const Step: z.ZodType<AnyStep, AnyStep> = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('owner'), to: Id.nullable() }),
  z.strictObject({ do: z.literal('standing'), to: TermKey }),
  z.strictObject({ do: z.literal('kind'), to: TermKey }),
  z.strictObject({ do: z.literal('reterm'), from: TermKey, to: TermKey }),
  z.strictObject({
    do: z.literal('status'),
    to: TermKey,
    parkedUntil: Day.optional(),
    dropReason: Line(300).optional(),
  }),
  z.strictObject({ do: z.literal('stage'), to: Id }),
  z.strictObject({ do: z.literal('source'), to: Line(80) }),
  z.strictObject({ do: z.literal('tag'), tags: Tags.min(1) }),
  z.strictObject({ do: z.literal('untag'), tags: Tags.min(1) }),
  z.strictObject({ do: z.literal('retag'), from: Line(60), to: Line(60).nullable() }),
  z.strictObject({
    do: z.literal('field'),
    key: z.string().regex(/^[a-z0-9_]{1,40}$/),
    to: z.string().max(500),
  }),
  z.strictObject({ do: z.literal('active'), to: z.boolean() }),
  z.strictObject({ do: z.literal('important'), to: z.boolean() }),
  z.strictObject({ do: z.literal('list'), to: Id }),
  z.strictObject({ do: z.literal('unlist'), to: Id }),
  z.strictObject({ do: z.literal('project'), to: Id }),
  z.strictObject({ do: z.literal('next move'), title: Line(200), due: Day }),
  z.strictObject({
    do: z.literal('visible'),
    to: Visibility,
    only: z.array(Id).max(50).optional().describe('the team for `team`, colleagues for `named`'),
  }),
  z.strictObject({
    do: z.literal('erase').describe('for good; stands alone, only for managers and admins, and has no undo'),
    note: z.string().trim().max(500),
  }),
]);

const Sample = z.object({ id: Id, name: z.string(), said: z.string() });
const BulkChange = z.object({
  id: Id,
  kind: z.enum(BULK_KINDS),
  steps: z.array(Step),
  label: z.string(),
  state: z.enum(['previewed', 'running', 'paused', 'done', 'undoing', 'undone', 'failed']),
  total: z.int(),
  done: z.int(),
  counts: z
    .object({ changed: z.int(), stayed: z.int(), refused: z.int(), kept: z.int() })
    .describe(
      'of those done: changed, so already, not possible; after an undo, changed since and left as they are',
    ),
  trouble: z.string(),
  by: z.string(),
  createdAt: Time,
  finishedAt: Time.nullable(),
});
export type BulkChange = z.infer<typeof BulkChange>;
const Preview = z.object({
  change: z.int(),
  stay: z.int(),
  refuse: z.array(z.object({ why: z.string(), count: z.int(), samples: z.array(Sample) })),
  samples: z.array(Sample),
  unseen: z
    .array(z.object({ id: Id, name: z.string(), count: z.int() }))
    .describe('colleagues who would no longer see so many of the first 2,000 of them'),
});
export type BulkPreview = z.infer<typeof Preview>;

export const bulkRoutes = routes({
  'POST /api/bulk-changes': {
    summary: 'Preview a change of many records: a selection, or all that meet a query',
    tag: 'bulk changes',
    status: 201,
    body: z.strictObject({
      kind: z.enum(BULK_KINDS),
      on: z.union([
        z.strictObject({ ids: z.array(Id).min(1).max(10_000) }),
        z.strictObject({ query: QueryIn }),
      ]),
      steps: z.array(Step).min(1).max(12),
    }),
    reply: z.object({ change: BulkChange, preview: Preview }),
  },
  'GET /api/bulk-changes': {
    summary: 'Your changes of many records, newest first; an administrator sees all',
    tag: 'bulk changes',
    query: z.object({ limit: z.coerce.number().int().min(1).max(100).default(30) }),
    reply: z.object({ items: z.array(BulkChange) }),
  },
  'GET /api/bulk-changes/:id': {
    summary: 'One change of many, with how far it has come',
    tag: 'bulk changes',
    params: IdParam,
    reply: BulkChange,
  },
  'GET /api/bulk-changes/:id/rows': {
    summary: 'What became of each record',
    tag: 'bulk changes',
    params: IdParam,
    query: z.object({
      outcome: z.enum(['changed', 'stayed', 'refused', 'kept', 'undone']).optional(),
      after: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(200).default(60),
    }),
    reply: z.object({
      items: z.array(
        z.object({
          row: z.int(),
          id: Id,
          name: z.string().nullable().describe('null where it is gone, or no longer yours to see'),
          outcome: z.string().nullable(),
          why: z.string(),
        }),
      ),
      next: z.int().nullable(),
    }),
  },
  'POST /api/bulk-changes/:id/start': {
    summary: 'Begin it, or go on with it',
    tag: 'bulk changes',
    params: IdParam,
    reply: BulkChange,
  },
  'POST /api/bulk-changes/:id/pause': {
    summary: 'Pause it',
    tag: 'bulk changes',
    params: IdParam,
    reply: BulkChange,
  },
  'POST /api/bulk-changes/:id/undo': {
    summary: 'Take all of it back, what was changed since apart',
    tag: 'bulk changes',
    params: IdParam,
    reply: BulkChange,
  },
});
