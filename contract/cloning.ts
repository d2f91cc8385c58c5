import { z } from 'zod';
import { Done, Id, Line, routes } from './common';

export const CLONE_KINDS = ['person', 'company', 'lead', 'deal', 'task', 'project', 'case'] as const;
export type CloneKind = (typeof CLONE_KINDS)[number];
/** What may come along beside the name. */
export const CLONE_PARTS = [
  'facts',
  'fields',
  'tags',
  'people',
  'lines',
  'answers',
  'lists',
  'notes',
  'tasks',
] as const;
export type ClonePart = (typeof CLONE_PARTS)[number];

const KindAndId = z.object({ kind: z.enum(CLONE_KINDS), id: Id });

export const cloningRoutes = routes({
  'GET /api/clones/:kind/:id': {
    summary: 'What of a record can come along when it is copied',
    tag: 'cloning',
    params: KindAndId,
    reply: z.object({
      name: z.string(),
      parts: z.array(z.object({ part: z.enum(CLONE_PARTS), count: z.int() })),
    }),
  },
  'POST /api/clones/:kind/:id': {
    summary: 'Copy a record under another name; what was said and done with it stays with the old one',
    tag: 'cloning',
    status: 201,
    params: KindAndId,
    body: z.object({
      name: Line(200),
      with: z.array(z.enum(CLONE_PARTS)).max(CLONE_PARTS.length).default([]),
    }),
    reply: Done.extend({ id: Id }),
  },
});
