import { z } from 'zod';
import { Done, Id, Line, Named, routes, Version } from './common';

export const Question = z.object({
  id: Id,
  version: z.int(),
  label: z.string(),
  help: z.string(),
  position: z.int(),
  active: z.boolean(),
});
export type Question = z.infer<typeof Question>;
const Health = z.object({ ok: z.boolean() });
export const SearchHit = z.object({
  kind: z.enum(['person', 'company', 'lead', 'deal', 'project', 'case', 'file']),
  id: Id,
  label: z.string(),
  hint: z.string(),
  inactive: z.boolean().describe('a person who is kept but no longer worked with'),
});
export type SearchHit = z.infer<typeof SearchHit>;
/** What the live feed says: what was done by whom, and which rows it touched. `resync` after a gap: read everything again. */
export const LiveEvent = z.object({
  id: Id.optional(),
  command: z.string().optional(),
  actorId: Id.nullable().optional(),
  touched: z
    .array(
      z.object({
        table: z.string(),
        id: z.string(),
        of: z.array(z.string()).optional().describe('the records the row belongs to'),
      }),
    )
    .optional(),
  presence: Id.optional().describe('the record where somebody came, went, or began or ended to edit'),
  resync: z.boolean().optional(),
  ended: z.boolean().optional().describe('the session is over, and this stream with it'),
  build: z.string().optional().describe('which build of the interface is served'),
});
export type LiveEvent = z.infer<typeof LiveEvent>;

/** `host:port`, or `host:*` for every port of it. */
const Host = z
  .string()
  .trim()
  .toLowerCase()
  .max(260)
  .regex(
    /^(?:\[[0-9a-f:.]+\]|[\p{L}\p{N}](?:[\p{L}\p{N}.-]*[\p{L}\p{N}])?):(?:\d{1,5}|\*)$/u,
    'a server such as mail.wharfside.example:993',
  )
  .transform((host) => host.replace(/^\[(.*)\]/, '$1'));

export const settingsRoutes = routes({
  'GET /api/admin/hosts': {
    summary: 'Servers on private addresses that may be reached all the same',
    tag: 'settings',
    roles: ['admin'],
    reply: z.object({
      items: z.array(z.object({ id: Id, host: z.string() })),
      always: z.array(z.string()).describe('set where the program was started'),
    }),
  },
  'POST /api/admin/hosts': {
    summary: 'Let pages and mailboxes on a private address be reached',
    tag: 'settings',
    status: 201,
    roles: ['admin'],
    body: z.object({ host: Host }),
    reply: Done.extend({ id: Id }),
  },
  'DELETE /api/admin/hosts/:id': {
    summary: 'Let a server be reached no longer',
    tag: 'settings',
    params: z.object({ id: Id }),
    roles: ['admin'],
    reply: Done,
  },
  'GET /api/questions': {
    summary: 'The qualifying questions',
    tag: 'settings',
    reply: z.object({ items: z.array(Question) }),
  },
  'POST /api/questions': {
    summary: 'Add a qualifying question',
    tag: 'settings',
    status: 201,
    right: 'settings.scoring',
    body: z.object({ label: Line(120), help: z.string().trim().max(300).default('') }),
    reply: Done,
  },
  'PATCH /api/questions/:id': {
    summary: 'Change, reorder or retire a qualifying question',
    tag: 'settings',
    params: z.object({ id: Id }),
    right: 'settings.scoring',
    body: z.object({
      version: Version,
      label: Line(120).optional(),
      help: z.string().trim().max(300).optional(),
      position: z.int().min(0).max(1000).optional(),
      active: z.boolean().optional(),
    }),
    reply: Done,
  },
  'GET /api/search': {
    summary: 'Find people, companies, leads, deals, projects, cases and files by any part',
    tag: 'search',
    query: z.object({
      q: z.string().max(200),
      kind: SearchHit.shape.kind.optional().describe('only records of this kind'),
      limit: z.coerce.number().int().min(1).max(50).default(12),
    }),
    reply: z.object({ items: z.array(SearchHit) }),
  },
  'GET /api/counts': {
    summary: 'The numbers beside the sections',
    tag: 'search',
    reply: z.object({
      arrivals: z.int(),
      round: z.int().describe('tasks that are due, and people to whom you owe an answer'),
      overdue: z.int(),
      leads: z.int(),
      deals: z.int(),
      notices: z.int().describe('unread'),
    }),
  },
  'POST /api/events/:id/undo': {
    summary: 'Undo a change; 409 with reasons when other changes depend on it',
    tag: 'events',
    params: z.object({ id: Id }),
    reply: z.object({ undone: z.string() }),
  },
  'GET /healthz': { summary: 'The process is alive', tag: 'health', open: true, reply: Health },
  'GET /readyz': { summary: 'The database answers', tag: 'health', open: true, reply: Health },
  'GET /api/history': {
    summary: 'What was done to a record, newest first',
    tag: 'events',
    query: z.object({
      table: z.enum(['people', 'companies', 'leads', 'deals', 'tasks', 'captures']),
      id: Id,
    }),
    reply: z.object({
      items: z.array(
        z.object({ id: Id, at: z.string(), actor: Named.nullable(), label: z.string(), undone: z.boolean() }),
      ),
    }),
  },
});
