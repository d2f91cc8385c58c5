import { TERM_LISTS } from '@emporikon/core/lifecycle/terms';
import { z } from 'zod';
import { COUNTED, Done, Id, IdParam, Line, routes, Version } from './common';
import { Changes } from './tags';

/** A standing, lead status or kind of company, as a record names it. */
export const TermKey = Line(40).describe('the key of a term, built-in or your own: GET /api/terms');
/** Beside the built-in term of a record. */
export const OwnTerm = z
  .string()
  .nullable()
  .describe('the key of your own term that it is, which counts as the built-in one; null where it is none');

const Term = z.object({
  id: Id,
  version: z.int(),
  list: z.enum(TERM_LISTS),
  key: z.string().describe('stays the same when the term is renamed'),
  name: z.string(),
  countsAs: z.string().describe('the built-in term it counts as; a built-in one counts as itself'),
  isRetired: z.boolean().describe('records keep it, and it is not offered any more'),
});
export type Term = z.infer<typeof Term>;

/** Standings, lead statuses and kinds of companies: renamed, put in order, added, retired with what becomes of records. */
export const termRoutes = routes({
  'GET /api/terms': {
    summary: 'Standings, lead statuses and kinds of companies, each list in its order',
    tag: 'terms',
    reply: z.object({ items: z.array(Term) }),
  },
  'GET /api/terms/:id/uses': {
    summary: 'How many records have a term, and which views ask for it',
    tag: 'terms',
    params: IdParam,
    right: 'settings.fields',
    reply: z.object({
      records: z.int().describe(`of those you may see; ${COUNTED}`),
      uses: z.array(z.string()),
    }),
  },
  'POST /api/terms': {
    summary: 'Add a term of your own that counts as a built-in one',
    tag: 'terms',
    status: 201,
    right: 'settings.fields',
    body: z.object({ list: z.enum(TERM_LISTS), name: Line(40), countsAs: Line(40) }),
    reply: Done.extend({ id: Id, key: z.string() }),
  },
  'PATCH /api/terms/:id': {
    summary: 'Rename a term, move it in its list, or offer a retired one again',
    tag: 'terms',
    params: IdParam,
    right: 'settings.fields',
    body: z.object({
      version: Version,
      name: Line(40).optional(),
      position: z.int().min(1).max(200).optional().describe('its place in its list, from 1'),
      isRetired: z.literal(false).optional(),
    }),
    reply: Done,
  },
  'POST /api/terms/:id/retirement': {
    summary:
      'Stop offering a term of your own; records keep it, or become another one that counts as the same',
    tag: 'terms',
    status: 201,
    params: IdParam,
    right: 'settings.fields',
    body: z.object({ to: TermKey.nullable() }),
    reply: Changes,
  },
  'DELETE /api/terms/:id': {
    summary: 'Remove a term of your own that no record has',
    tag: 'terms',
    params: IdParam,
    right: 'settings.fields',
    reply: Done,
  },
});
