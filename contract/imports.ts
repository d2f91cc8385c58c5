import { z } from 'zod';
import { Done, Id, IdParam, Named, Page, PhoneType, routes, sortedBy, Time, Version } from './common';
import { ClaimField, Tags } from './fields';

export const ImportState = z.enum([
  'reading',
  'mapping',
  'previewing',
  'previewed',
  'running',
  'paused',
  'done',
  'undoing',
  'undone',
  'failed',
]);
export type ImportState = z.infer<typeof ImportState>;
const RecordField = z.enum([
  'recordId',
  'companyId',
  'domain',
  'country',
  'industry',
  'employees',
  'dealTitle',
  'amount',
  'currency',
  'stage',
  'expectedClose',
]);
export const ColumnTarget = z.union([ClaimField, z.enum(['tags', 'none']), RecordField]);
const Target = z.enum(['people', 'companies', 'deals']).describe('what the rows are');
export const ImportColumn = z.object({
  index: z.int(),
  heading: z.string(),
  field: ColumnTarget,
  type: PhoneType.nullable(),
  by: z.enum(['heading', 'content', 'nothing', 'hand']),
  samples: z.array(z.string()),
  filled: z.number(),
});
export const ImportReading = z.object({
  hasHead: z.boolean(),
  columns: z.array(ImportColumn),
  dates: z.enum(['day first', 'month first', 'year first']).nullable(),
  decimal: z.enum([',', '.']).nullable(),
  encoding: z.string(),
  separator: z.string().nullable(),
  remembered: z.boolean(),
  sheets: z.array(z.string()).optional().describe('the sheets of a workbook, by name'),
  companies: z.array(Id).optional().describe('the companies an import made'),
});
export type ImportReading = z.infer<typeof ImportReading>;
const Dates = z.enum(['day first', 'month first', 'year first']).nullable();
const Sheet = z.int().min(0).max(999).describe('which sheet of a workbook, from 0');
const Country = z
  .string()
  .regex(/^[A-Z]{2}$/)
  .nullable();
export const Mapping = z.object({
  columns: z.array(z.object({ index: z.int().min(0), field: ColumnTarget, type: PhoneType.nullable() })),
  hasHead: z.boolean(),
  dates: Dates,
  country: Country,
  sheet: Sheet.optional(),
  target: Target.optional(),
});
export type Mapping = z.infer<typeof Mapping>;
const MappingInput = z.object({
  columns: z
    .array(z.object({ index: z.int().min(0), field: ColumnTarget, type: PhoneType.nullable().default(null) }))
    .max(200),
  hasHead: z.boolean(),
  dates: Dates.default(null),
  country: Country.default(null),
  sheet: Sheet.default(0),
  target: Target.default('people'),
});
const Known = z.enum(['fill blanks', 'overwrite', 'skip']);
const Maybe = z.enum(['skip', 'as new']);
const GivenConsent = z.enum(['agreed', 'unconfirmed']).nullable();
export const ImportChoices = z.object({
  known: Known,
  maybe: Maybe,
  consent: GivenConsent,
  purposeIds: z.array(Id).max(50).describe('what they agreed to; the default purposes where it names none'),
  listId: Id.nullable(),
  tags: Tags,
  ownerId: Id.nullable(),
});
export type ImportChoices = z.infer<typeof ImportChoices>;
export const ChoicesInput = z.object({
  known: Known.default('fill blanks'),
  maybe: Maybe.default('skip'),
  consent: GivenConsent.default(null),
  purposeIds: z.array(Id).max(50).default([]),
  listId: Id.nullable().default(null),
  tags: Tags.default([]),
  ownerId: Id.nullable().default(null),
});
const Counts = z.record(z.string(), z.int());
export const ImportRow = z.object({
  id: Id,
  name: z.string(),
  kind: z.enum(['table', 'cards']),
  state: ImportState,
  total: z.int(),
  done: z.int(),
  counts: Counts,
  trouble: z.string(),
  by: Named,
  createdAt: Time,
  finishedAt: Time.nullable(),
});
export type ImportRow = z.infer<typeof ImportRow>;
export const ImportDetail = ImportRow.extend({
  version: z.int(),
  reading: ImportReading.nullable(),
  mapping: Mapping.nullable(),
  choices: ImportChoices,
  problems: z.array(z.object({ text: z.string(), rows: z.int() })),
});
export type ImportDetail = z.infer<typeof ImportDetail>;

const Raw = [
  'text/csv',
  'text/tab-separated-values',
  'text/vcard',
  'text/plain',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'application/octet-stream',
] as const;

export const importRoutes = routes({
  'GET /api/imports': {
    summary: 'Imports, newest first',
    tag: 'imports',
    query: Page.extend({
      q: z.string().max(200).optional().describe('part of the name of the file'),
      state: ImportState.optional(),
      ...sortedBy(['createdAt', 'name', 'total', 'state'], 'createdAt'),
    }),
    reply: z.object({ items: z.array(ImportRow), next: z.string().nullable() }),
  },
  'POST /api/imports': {
    summary: 'Upload a table or a file of cards to import',
    tag: 'imports',
    right: 'captures.add',
    status: 201,
    raw: Raw,
    query: z.object({ name: z.string().trim().min(1).max(200).default('pasted rows') }),
    reply: ImportDetail,
  },
  'GET /api/imports/:id': {
    summary: 'One import, its columns and counts',
    tag: 'imports',
    params: IdParam,
    reply: ImportDetail,
  },
  'POST /api/imports/:id/sheet': {
    summary: 'Take another sheet of the workbook',
    tag: 'imports',
    right: 'captures.add',
    params: IdParam,
    body: z.object({ version: Version, sheet: Sheet }),
    reply: ImportDetail,
  },
  'POST /api/imports/:id/target': {
    summary: 'Say what the rows are: people, companies or deals; the columns are told anew by their headings',
    tag: 'imports',
    right: 'captures.add',
    params: IdParam,
    body: z.object({ version: Version, target: Target }),
    reply: ImportDetail,
  },
  'PUT /api/imports/:id/mapping': {
    summary: 'Choose what the columns hold and how to import them; makes the preview',
    tag: 'imports',
    right: 'captures.add',
    params: IdParam,
    body: z.object({ version: Version, mapping: MappingInput, choices: ChoicesInput.prefault({}) }),
    reply: ImportDetail,
  },
  'GET /api/imports/:id/rows': {
    summary: 'Rows of the preview, by verdict',
    tag: 'imports',
    params: IdParam,
    query: z.object({
      verdict: z.enum(['new', 'same', 'maybe', 'unusable']).optional(),
      after: z.coerce.number().int().default(-1),
      limit: z.coerce.number().int().min(1).max(500).default(100),
    }),
    reply: z.object({
      items: z.array(
        z.object({
          row: z.int(),
          verdict: z.enum(['new', 'same', 'maybe', 'unusable']),
          outcome: z.string().nullable(),
          reason: z.string(),
          values: z.array(z.string()),
          person: Named.nullable(),
        }),
      ),
      next: z.int().nullable(),
    }),
  },
  'POST /api/imports/:id/start': {
    summary: 'Start, or continue after a pause',
    tag: 'imports',
    params: IdParam,
    reply: ImportDetail,
  },
  'POST /api/imports/:id/pause': {
    summary: 'Pause',
    right: 'captures.add',
    tag: 'imports',
    params: IdParam,
    reply: ImportDetail,
  },
  'POST /api/imports/:id/undo': {
    summary: 'Undo the whole import',
    tag: 'imports',
    params: IdParam,
    reply: ImportDetail,
  },
  'DELETE /api/imports/:id': {
    summary: 'Discard an import that was not started',
    tag: 'imports',
    right: 'captures.add',
    params: IdParam,
    reply: Done,
  },
});
