import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Version } from './common';

export const FieldKind = z.enum(['text', 'number', 'date', 'choice', 'yes or no']);
export const CustomField = z.object({
  id: Id,
  version: z.int(),
  key: z.string(),
  label: z.string(),
  kind: FieldKind,
  options: z.array(z.string()),
  active: z.boolean(),
  isPersonal: z.boolean().describe('stands with what is personal, beside the birthday'),
});
export type CustomField = z.infer<typeof CustomField>;
const Custom = z.templateLiteral(['custom:', z.string().regex(/^[a-z0-9_]{1,40}$/)]);
/** A field a claim can be about: a standard one, or `custom:` and the key of one of the house's own. */
export const ClaimField = z.union([z.enum(CLAIM_FIELDS), Custom]);
export type ClaimField = z.infer<typeof ClaimField>;
export const MappingTarget = z.union([z.enum(['own', 'background', 'nowhere']), Custom]);
export type MappingTarget = z.infer<typeof MappingTarget>;
export const FieldMapping = z.object({ field: ClaimField, target: MappingTarget });
export type FieldMapping = z.infer<typeof FieldMapping>;
export const Tags = z.array(Line(60)).max(30);

export const fieldRoutes = routes({
  'GET /api/fields': {
    summary: 'Your organisation’s own fields',
    tag: 'fields',
    reply: z.object({ items: z.array(CustomField) }),
  },
  'POST /api/fields': {
    summary: 'Add a field',
    tag: 'fields',
    status: 201,
    roles: ['manager', 'admin'],
    body: z.object({
      label: Line(80),
      kind: FieldKind.default('text'),
      options: z.array(Line(120)).max(60).default([]),
      isPersonal: z.boolean().default(false),
    }),
    reply: Done.extend({ field: CustomField }),
  },
  'PATCH /api/fields/:id': {
    summary: 'Change or retire a field',
    tag: 'fields',
    params: IdParam,
    roles: ['manager', 'admin'],
    body: z.object({
      version: Version,
      label: Line(80).optional(),
      options: z.array(Line(120)).max(60).optional(),
      active: z.boolean().optional(),
      isPersonal: z.boolean().optional(),
    }),
    reply: Done,
  },
  'GET /api/field-mappings': {
    summary: 'Which claim goes to which field',
    tag: 'fields',
    reply: z.object({ items: z.array(FieldMapping) }),
  },
  'PUT /api/field-mappings': {
    summary: 'Set where the claims of one field go',
    tag: 'fields',
    roles: ['manager', 'admin'],
    body: FieldMapping,
    reply: Done,
  },
  'GET /api/lists': {
    summary: 'Lists of people, and the tags in use',
    tag: 'fields',
    reply: z.object({
      items: z.array(Named.extend({ people: z.int() })),
      tags: z.array(z.object({ tag: z.string(), people: z.int() })),
    }),
  },
  'POST /api/lists': {
    summary: 'Add a list',
    tag: 'fields',
    status: 201,
    body: z.object({ name: Line(80) }),
    reply: Done.extend({ list: Named }),
  },
});
