import { BULK_KINDS } from '@emporikon/core/bulk/types';
import { z } from 'zod';
import { COUNTED, Done, Id, IdParam, Line, Named, routes } from './common';

export const TAG_MEANINGS = ['ours', 'theirs', 'waiting', 'warning'] as const;
const Meaning = z.enum(TAG_MEANINGS);
export type TagMeaning = z.infer<typeof Meaning>;
const Tag = z.object({
  tag: z.string(),
  people: z.int().describe('of those you may see'),
  deals: z.int().describe('of those you may see'),
  meaning: Meaning.nullable().describe('by which it is coloured; null for the colour of the text'),
});
export type Tag = z.infer<typeof Tag>;
export const Changes = Done.extend({
  changes: z
    .array(z.object({ id: Id, kind: z.enum(BULK_KINDS), total: z.int() }))
    .describe('the changes of many that were begun, each with its undo; they reach every record'),
  also: z.array(z.string()).describe('what else was changed: forms, rhythms, rules, views'),
});
const Uses = z.object({
  isThere: z.boolean().describe('whether something has the new name already, so that both become one'),
  uses: z.array(z.string()).describe('forms, rhythms, rules and views that name it'),
});

/** Tags, lists and sources of leads: renamed, made one, and taken away, with all that has them. */
export const tagRoutes = routes({
  'GET /api/tags': {
    summary: 'Tags in use, those of the most records first',
    tag: 'tags',
    reply: z.object({ items: z.array(Tag) }),
  },
  'GET /api/tags/uses': {
    summary: 'What names a tag, before it is renamed or taken away',
    tag: 'tags',
    query: z.object({ tag: Line(60), to: Line(60).optional() }),
    reply: Uses,
  },
  'POST /api/tags/changes': {
    summary: 'Rename a tag everywhere, make it one with another, or take it away (to: null)',
    tag: 'tags',
    status: 201,
    right: 'settings.fields',
    body: z.object({ tag: Line(60), to: Line(60).nullable() }),
    reply: Changes,
  },
  'PUT /api/tags/meaning': {
    summary: 'Say what a tag means, by which it is coloured',
    tag: 'tags',
    right: 'settings.fields',
    body: z.object({ tag: Line(60), meaning: Meaning.nullable() }),
    reply: Done,
  },
  'GET /api/sources': {
    summary: 'Sources of leads',
    tag: 'tags',
    reply: z.object({ items: z.array(z.object({ source: z.string(), leads: z.int().describe(COUNTED) })) }),
  },
  'GET /api/sources/uses': {
    summary: 'What names a source, before it is renamed',
    tag: 'tags',
    query: z.object({ source: z.string().min(1).max(120), to: Line(60).optional() }),
    reply: Uses,
  },
  'POST /api/sources/changes': {
    summary: 'Rename a source of leads everywhere, or make it one with another',
    tag: 'tags',
    status: 201,
    right: 'settings.fields',
    body: z.object({ source: z.string().min(1).max(120), to: Line(60) }),
    reply: Changes,
  },
  'PATCH /api/lists/:id': {
    summary: 'Rename a list',
    tag: 'tags',
    params: IdParam,
    right: 'settings.fields',
    body: z.object({ name: Line(80) }),
    reply: Done.extend({ list: Named }),
  },
  'POST /api/lists/:id/moves': {
    summary: 'Move everybody on a list to another one, or (toId: null) take them off it',
    tag: 'tags',
    status: 201,
    params: IdParam,
    right: 'settings.fields',
    body: z.object({ toId: Id.nullable() }),
    reply: Changes,
  },
  'DELETE /api/lists/:id': {
    summary: 'Remove a list that nobody is on and no form adds to',
    tag: 'tags',
    params: IdParam,
    right: 'settings.fields',
    reply: Done,
  },
});
