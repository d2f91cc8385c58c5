import { z } from 'zod';
import { Done, Id, Named, Page, routes, Time } from './common';

export const ChangedRecord = z.enum([
  'people',
  'companies',
  'leads',
  'deals',
  'projects',
  'cases',
  'tasks',
  'contact_points',
]);
export const FieldChange = z.object({
  key: z.string().describe('of this line'),
  eventId: Id,
  at: Time,
  actor: Named.nullable().describe('null for the program itself'),
  source: z.string().describe('the change it was part of: by hand, an import, a look-up, a filing, an undo'),
  isUndone: z.boolean(),
  record: z.object({ table: ChangedRecord, id: Id, name: z.string() }),
  field: z.string().describe('by the name of the API; of your own fields `custom.KEY`'),
  caption: z.string(),
  type: z.enum(['text', 'time', 'day', 'money']).describe('how from and to are written'),
  from: z.string().nullable(),
  to: z.string().nullable(),
  currency: z.string().nullable().describe('of money, whose from and to are minor units'),
  canRestore: z.boolean().describe('whether the value before can be put back'),
});
export type FieldChange = z.infer<typeof FieldChange>;
const Moment = z.iso.datetime({ offset: true });
const Asked = {
  recordId: Id.optional().describe('of one record; of everything else where nothing is said'),
  by: Id.optional().describe('the colleague'),
  table: ChangedRecord.optional(),
  from: Moment.optional(),
  until: Moment.optional(),
  q: z.string().trim().max(200).optional().describe('words in the field, the values or the source'),
};

export const historyRoutes = routes({
  'GET /api/changes': {
    summary:
      'Who changed what, field by field, newest first: of a record for everybody who sees it; over everything for managers, and for anybody else what they changed themselves',
    tag: 'history',
    query: Page.extend(Asked),
    reply: z.object({
      items: z.array(FieldChange),
      next: z
        .string()
        .nullable()
        .describe('there may be more although a page is short: it looks through so many changes at once'),
    }),
  },
  'POST /api/changes/restore': {
    summary: 'Put the value of a field back that stood there before a change',
    tag: 'history',
    body: z.object({ eventId: Id, recordId: Id, field: z.string().max(80) }),
    reply: Done,
  },
});
