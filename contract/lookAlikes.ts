import { z } from 'zod';
import { Done, Id, IdParam, Named, routes, Time } from './common';

export const RecordKind = z.enum(['person', 'company']);
const Member = Named.extend({ hint: z.string() });
const LookAlike = z.object({
  id: Id,
  kind: RecordKind,
  probability: z.number().describe('0 to 1, that all of them are one'),
  members: z.array(Member),
});
export type LookAlike = z.infer<typeof LookAlike>;

const HeldValue = z.object({
  recordId: Id,
  value: z.string().nullable().describe('as it is shown; null where the record says nothing'),
  source: z.string().nullable(),
  at: Time.nullable(),
  byHand: z.boolean(),
  confidence: z.number().nullable(),
  captureId: Id.nullable(),
});
export const ComparedField = z.object({
  field: z.string(),
  label: z.string(),
  values: z.array(HeldValue),
  choice: z.boolean().describe('false where all values are kept side by side'),
  proposed: z.string().nullable().describe('the record whose value stays, `both` where they are joined'),
  why: z.string(),
});
export type ComparedField = z.infer<typeof ComparedField>;
const Work = z
  .object({
    ledger: z.int(),
    leads: z.int(),
    deals: z.int(),
    tasks: z.int(),
    contacts: z.int(),
    people: z.int(),
    lists: z.int(),
    tags: z.int(),
    files: z.int(),
    claims: z.int(),
  })
  .describe('how much hangs on a record');
const Comparison = z.object({
  kind: RecordKind,
  records: z.array(Named.extend({ hint: z.string(), since: Time, version: z.int(), work: Work })),
  survivorId: Id.describe('whose id is proposed to stay'),
  fields: z.array(ComparedField),
  moves: Work.describe('what moves to the survivor when all become one'),
  reasons: z
    .array(
      z.object({
        text: z.string(),
        weight: z.string(),
        isAgainst: z.boolean(),
        pairs: z.array(z.tuple([Id, Id])).describe('the pairs it was found of'),
      }),
    )
    .describe('what speaks for their being one and what against it, the strongest first'),
  probability: z.number().describe('0 to 1, of the least likely pair among them'),
});
export type Comparison = z.infer<typeof Comparison>;

const Ids = z.array(Id).min(2).max(10);
const Apart = z
  .enum(['different', 'namesakes', 'fatherAndSon'])
  .describe('`different` is asked again when the facts have changed; the others hold');
export const ToldApart = z.object({
  id: Id,
  how: Apart,
  other: Named.extend({ hint: z.string() }),
  at: Time,
  actor: Named.nullable(),
});
export type ToldApart = z.infer<typeof ToldApart>;

const Since = z.object({
  table: z.string(),
  key: z.string(),
  what: z.string().describe('in words'),
  at: Time.nullable(),
  belongs: z.enum(['survivor', 'merged', 'ask']),
  why: z.string(),
});
export const MergeNote = z.object({
  id: Id,
  kind: RecordKind,
  survivorId: Id,
  mergedId: Id,
  label: z.string(),
  at: Time,
  actor: Named.nullable(),
  unmergedAt: Time.nullable(),
});
export type MergeNote = z.infer<typeof MergeNote>;
const Choices = z.record(z.string().max(80), z.union([Id, z.literal('both')]));

export const lookAlikeRoutes = routes({
  'GET /api/look-alikes': {
    summary: 'Records that may be the same, surest first',
    tag: 'look-alikes',
    query: z.object({
      kind: RecordKind.default('person'),
      cursor: z.string().max(2000).optional(),
      limit: z.coerce.number().int().min(1).max(200).default(50),
      from: z.coerce.number().min(0).max(1).default(0).describe('no less likely than this'),
    }),
    reply: z.object({
      items: z.array(LookAlike),
      next: z.string().nullable(),
      total: z.int(),
      run: z
        .object({
          startedAt: Time,
          finishedAt: Time.nullable(),
          records: z.int(),
          groups: z.int(),
          trouble: z.string(),
        })
        .nullable(),
    }),
  },
  'POST /api/look-alikes/run': {
    summary: 'Compare all records again, in the background',
    tag: 'look-alikes',
    right: 'people.change',
    body: z.object({ kind: RecordKind.default('person') }),
    reply: z.object({ started: z.boolean() }),
  },
  'POST /api/look-alikes/:id/different': {
    summary: 'They are not the same; not asked again unless the facts change',
    tag: 'look-alikes',
    right: 'people.change',
    params: IdParam,
    body: z.object({
      ids: z.array(Id).max(10).optional().describe('only these of the group differ from the rest'),
      as: Apart.default('different'),
    }),
    reply: Done,
  },
  'POST /api/told-apart': {
    summary: 'Records somebody compared are not the same; remembered and shown on each',
    tag: 'look-alikes',
    right: 'people.change',
    status: 201,
    body: z.object({ kind: RecordKind, ids: Ids, as: Apart.default('different') }),
    reply: Done,
  },
  'DELETE /api/told-apart/:id': {
    summary: 'Takes such an answer back; the records may be found alike again',
    tag: 'look-alikes',
    right: 'people.change',
    params: IdParam,
    reply: Done,
  },
  'POST /api/look-alikes/:id/related': {
    summary: 'Companies that belong together without being one: branches of the first',
    tag: 'look-alikes',
    right: 'people.change',
    params: IdParam,
    body: z.object({ parentId: Id }),
    reply: Done,
  },
  'POST /api/look-alikes/preview': {
    summary: 'What merging several groups as proposed would do',
    tag: 'look-alikes',
    body: z.object({ ids: z.array(Id).min(1).max(50) }),
    reply: z.object({
      items: z.array(
        z.object({
          id: Id,
          kind: RecordKind,
          survivor: Named,
          merged: z.array(Named),
          probability: z.number(),
          moves: Work,
          changed: z.array(
            z.object({ label: z.string(), from: z.string().nullable(), to: z.string().nullable() }),
          ),
        }),
      ),
    }),
  },
  'POST /api/look-alikes/merge': {
    summary: 'Merge several groups as proposed, each in a transaction of its own',
    tag: 'look-alikes',
    body: z.object({ ids: z.array(Id).min(1).max(50) }),
    reply: z.object({
      merged: z.array(z.object({ id: Id, survivorId: Id, eventId: Id.nullable() })),
      left: z.array(z.object({ id: Id, reason: z.string() })),
    }),
  },
  'POST /api/merges/compare': {
    summary: 'Records side by side, with what is proposed and what would move',
    tag: 'merges',
    body: z.object({ kind: RecordKind, ids: Ids }),
    reply: Comparison,
  },
  'POST /api/merges': {
    summary: 'Make several records one; nothing is lost, old ids lead to the survivor',
    tag: 'merges',
    status: 201,
    body: z.object({
      kind: RecordKind,
      survivorId: Id,
      mergedIds: z.array(Id).min(1).max(9),
      choices: Choices.default({}).describe(
        'by field the record whose value stays; what is not named as proposed',
      ),
    }),
    reply: Done.extend({ id: Id, mergeIds: z.array(Id) }),
  },
  'GET /api/merges': {
    summary: 'What was merged into a record, newest first',
    tag: 'merges',
    query: z.object({ recordId: Id }),
    reply: z.object({ items: z.array(MergeNote) }),
  },
  'GET /api/merges/:id/unmerge': {
    summary: 'What undoing a merge would do, and what happened since with where it belongs',
    tag: 'merges',
    params: IdParam,
    reply: z.object({ merge: MergeNote, survivor: z.string(), since: z.array(Since) }),
  },
  'POST /api/merges/:id/unmerge': {
    summary: 'Undo a merge; 409 with reasons while somebody has to say where something belongs',
    tag: 'merges',
    params: IdParam,
    body: z.object({
      choices: z
        .record(z.string().max(200), z.enum(['survivor', 'merged']))
        .default({})
        .describe('by `table:key` of what happened since'),
    }),
    reply: Done.extend({ id: Id }),
  },
});
