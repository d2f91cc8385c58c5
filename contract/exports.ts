import { EXPORT_FORMATS } from '@emporikon/core/outgoing/formats';
import { RECORD_KINDS } from '@emporikon/core/query/types';
import { z } from 'zod';
import { Id, IdParam, Line, routes, Time } from './common';
import { QueryIn } from './queries';

export const ExportFormat = z.enum(EXPORT_FORMATS);
const DateField = z
  .string()
  .max(80)
  .optional()
  .describe('the field of the dates of a calendar; the first one shown when left out');
/** What is handed over as a file. */
export const ExportIn = z.strictObject({
  query: QueryIn,
  format: ExportFormat,
  dateField: DateField,
  name: Line(120).optional().describe('what the file is called; the kind of its records when left out'),
});

const Export = z.object({
  id: Id,
  label: z.string(),
  kind: z.enum(RECORD_KINDS),
  format: ExportFormat,
  state: z.enum(['running', 'done', 'failed']),
  total: z.int(),
  done: z.int(),
  size: z.int().describe('of the file in bytes; 0 until it is there'),
  trouble: z.string(),
  createdAt: Time,
  finishedAt: Time.nullable(),
  expiresAt: Time.describe('when the file is deleted'),
});
export type Export = z.infer<typeof Export>;

export const exportRoutes = routes({
  'POST /api/exports': {
    summary: 'Make a file of what a query shows, in the background',
    tag: 'exports',
    status: 201,
    body: ExportIn,
    reply: Export,
  },
  'GET /api/exports': {
    summary: 'My exports, newest first',
    tag: 'exports',
    reply: z.object({ items: z.array(Export) }),
  },
  'GET /api/exports/:id': {
    summary: 'How far an export is',
    tag: 'exports',
    params: IdParam,
    reply: Export,
  },
  'DELETE /api/exports/:id': {
    summary: 'Stop an export, and delete its file',
    tag: 'exports',
    params: IdParam,
    reply: z.object({ ok: z.literal(true) }),
  },
});
