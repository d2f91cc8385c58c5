import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, Page, routes, Time, Version } from './common';
import { About } from './ledger';

const Raw = ['application/octet-stream'] as const;
/** What a file is called, without folders. */
const FileName = Line(200);
const State = z
  .enum(['kept', 'waiting', 'clean', 'infected'])
  .describe('kept: no scanner is set up; waiting: not scanned yet, and so not to be opened');

const FileVersion = z.object({
  number: z.int(),
  name: z.string(),
  size: z.int().describe('bytes'),
  mediaType: z.string(),
  preview: z.enum(['image', 'pdf', 'text']).nullable().describe('how it can be looked at in the page'),
  state: State,
  finding: z.string().describe('what a scanner found in it'),
  by: z.string().nullable().describe('null where it came by mail'),
  at: Time,
});
export const File = FileVersion.extend({
  id: Id,
  version: z.int(),
  entryId: Id.nullable(),
  task: Named.nullable(),
  people: z.array(Named),
  companies: z.array(Named),
  deals: z.array(Named),
});
export type File = z.infer<typeof File>;
export const FileDetail = File.extend({
  versions: z.array(FileVersion).describe('newest first'),
  text: z.string().nullable().describe('the beginning of the words of a text'),
  isMine: z.boolean().describe('whoever asks may remove it'),
});
export type FileDetail = z.infer<typeof FileDetail>;
export const FileLimits = z.object({
  version: z.int(),
  usedBytes: z.int(),
  mostBytes: z.int(),
  mostFileBytes: z.int(),
  refused: z.array(z.string()).describe('endings of names that are not taken'),
  scans: z.boolean().describe('whether a scanner is set up'),
  waiting: z.int().describe('files that were not scanned yet'),
});
export type FileLimits = z.infer<typeof FileLimits>;
const MEGABYTE = 1024 * 1024;

export const fileRoutes = routes({
  'GET /api/files': {
    summary: 'Files of a record, a task or everything, newest first; found by their names and words',
    tag: 'files',
    query: Page.extend({
      ...About.shape,
      taskId: Id.optional(),
      q: z.string().max(200).optional().describe('beginnings of words of its name or of what it says'),
    }),
    reply: z.object({ items: z.array(File), next: z.string().nullable() }),
  },
  'POST /api/files': {
    summary: 'Add a file to a record or a task',
    tag: 'files',
    right: 'ledger.add',
    status: 201,
    raw: Raw,
    query: About.extend({ taskId: Id.optional(), name: FileName }),
    reply: Done.extend({ id: Id }),
  },
  'GET /api/files/:id': {
    summary: 'One file with all its versions',
    tag: 'files',
    params: IdParam,
    reply: FileDetail,
  },
  'POST /api/files/:id/versions': {
    summary: 'Add a newer version of a file',
    tag: 'files',
    right: 'ledger.add',
    status: 201,
    params: IdParam,
    raw: Raw,
    query: z.object({ name: FileName.optional().describe('as the file is called already when left out') }),
    reply: Done.extend({ number: z.int() }),
  },
  'PATCH /api/files/:id': {
    summary: 'Rename a file',
    tag: 'files',
    right: 'ledger.change',
    params: IdParam,
    body: z.object({ version: Version.optional(), name: FileName }),
    reply: Done,
  },
  'DELETE /api/files/:id': {
    summary: 'Remove a file with all its versions',
    tag: 'files',
    right: 'ledger.delete',
    params: IdParam,
    reply: Done,
  },
  'GET /api/file-limits': {
    summary: 'How large and of what kind files may be, and how much of the allowance is used',
    tag: 'files',
    reply: FileLimits,
  },
  'PATCH /api/file-limits': {
    summary: 'Change how large and of what kind files may be',
    tag: 'files',
    right: 'settings.organisation',
    body: z.object({
      version: Version,
      mostBytes: z
        .int()
        .min(MEGABYTE)
        .max(1024 ** 5)
        .optional(),
      mostFileBytes: z
        .int()
        .min(1)
        .max(64 * MEGABYTE)
        .optional(),
      refused: z
        .array(
          z
            .string()
            .trim()
            .toLowerCase()
            .regex(/^\.?[\p{L}\p{N}_-]{1,12}$/u, 'an ending such as exe')
            .transform((ending) => ending.replace(/^\./, '')),
        )
        .max(200)
        .optional(),
    }),
    reply: Done,
  },
});
