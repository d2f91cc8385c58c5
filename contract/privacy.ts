import { z } from 'zod';
import { Id, IdParam, Named, Page, routes, Time, Version } from './common';

const ErasureCounts = z.object({
  contacts: z.int().describe('addresses, numbers and pages that go'),
  facts: z.int().describe('facts with their sources that go'),
  entries: z.int().describe('ledger entries whose text goes; their time and kind stay'),
  captures: z.int().describe('originals that go'),
  files: z.int(),
  calls: z.int().describe('calls with their texts'),
  openTasks: z.int().describe('open tasks that are only about them'),
  leads: z.int().describe('leads that stay, without a title and answers'),
  cases: z.int().describe('cases that stay, without their words'),
  deals: z.int().describe('deals that stay, without the name'),
  redacted: z.int().describe('texts of others in which the name, addresses and numbers go'),
});
export type ErasureCounts = z.infer<typeof ErasureCounts>;

const Erasure = z.object({
  id: Id,
  at: Time,
  by: Named.nullable().describe('null where it was done by a keeping time'),
  reason: z.enum(['asked', 'time']),
  note: z.string(),
  counts: ErasureCounts,
});
export type Erasure = z.infer<typeof Erasure>;

export const KEEPING_KINDS = ['set aside', 'call texts', 'strangers', 'quiet', 'import files'] as const;
const KeepingTime = z.object({
  kind: z.enum(KEEPING_KINDS),
  version: Version,
  months: z.int().nullable().describe('null keeps it'),
});
export type KeepingTime = z.infer<typeof KeepingTime>;
const Months = z.int().min(1).max(240);

/** The rights of the people in the records: everything about them, and to be forgotten. */
export const privacyRoutes = routes({
  'GET /api/people/:id/erasure': {
    summary: 'What erasing a person would take and keep; counted whether or not you may see each part',
    tag: 'privacy',
    params: IdParam,
    right: 'people.delete',
    reply: z.object({
      counts: ErasureCounts,
      obstacles: z.array(z.string()).describe('why it is not possible just now; empty when it is'),
    }),
  },
  'POST /api/people/:id/erasure': {
    summary: 'Erase a person for good; what is counted stays, and nothing brings it back',
    tag: 'privacy',
    params: IdParam,
    right: 'people.delete',
    body: z.object({
      note: z.string().trim().max(500).default('').describe('why; write nothing here that tells who it was'),
    }),
    reply: z.object({ counts: ErasureCounts }),
  },
  'GET /api/erasures': {
    summary: 'Who erased somebody, when and why, newest first; not whom',
    tag: 'privacy',
    query: Page,
    right: 'people.delete',
    reply: z.object({ items: z.array(Erasure), next: z.string().nullable() }),
  },
  'GET /api/keeping-times': {
    summary: 'After how many months which personal data goes',
    tag: 'privacy',
    reply: z.object({ items: z.array(KeepingTime) }),
  },
  'GET /api/keeping-times/preview': {
    summary: 'What would go now under a keeping time',
    tag: 'privacy',
    query: z.object({ kind: z.enum(KEEPING_KINDS), months: z.coerce.number().int().min(1).max(240) }),
    right: 'people.delete',
    reply: z.object({
      count: z.int().describe('1001 stands for more than 1,000'),
      oldest: Time.nullable(),
      samples: z.array(z.object({ id: Id, name: z.string(), since: Time })).describe('of those you may see'),
    }),
  },
  'PATCH /api/keeping-times': {
    summary: 'Set after how many months a kind of personal data goes; it begins the next night',
    tag: 'privacy',
    right: 'settings.data',
    body: z.object({ kind: z.enum(KEEPING_KINDS), version: Version, months: Months.nullable() }),
    reply: KeepingTime,
  },
});
