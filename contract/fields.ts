import { LONGEST_FORMULA, OWN_KINDS, OWN_RECORDS } from '@emporikon/core/fields/own';
import { LEVELS } from '@emporikon/core/fields/rights';
import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Version } from './common';

export const FieldKind = z.enum(OWN_KINDS);
export const FieldRecord = z.enum(OWN_RECORDS);
const Heading = z
  .string()
  .trim()
  .max(60)
  .regex(/^[^\p{Cc}\u2028\u2029]*$/u, 'must be one line');
const Options = z.array(Line(120)).max(200).describe('choices; of money its currency');
const OnlyFor = z
  .array(Line(60))
  .max(60)
  .describe('standings of people, kinds of companies or ids of pipelines of deals; all where empty');
/** What a field says of itself besides its label and its kind. */
const About = {
  options: Options,
  isPersonal: z.boolean().describe('stands with what is personal, beside the birthday'),
  tab: Heading.describe('the tab it stands in; the first where empty'),
  part: Heading.describe('the heading it stands under'),
  help: z.string().trim().max(300),
  isAsked: z.boolean().describe('worth asking for while it is empty'),
  preset: z.string().trim().max(500).describe('what new records begin with'),
  isUnique: z.boolean().describe('no two records have the same value'),
  onlyFor: OnlyFor,
  formula: z
    .string()
    .trim()
    .max(LONGEST_FORMULA)
    .describe('of a calculated field: from which others, by their keys'),
  seenBy: z.enum(LEVELS).describe('who may see it, of those who may see the record'),
  changedBy: z.enum(LEVELS).describe('who may change its values'),
};
export const CustomField = z.object({
  id: Id,
  version: z.int(),
  key: z.string(),
  record: FieldRecord,
  label: z.string(),
  kind: FieldKind,
  active: z.boolean(),
  ...About,
});
export type CustomField = z.infer<typeof CustomField>;
/** A field on one record. */
export const FieldValue = CustomField.pick({
  key: true,
  label: true,
  kind: true,
  options: true,
  isPersonal: true,
  tab: true,
  part: true,
  help: true,
  isAsked: true,
}).extend({
  value: z.string().describe('as it is kept: a day, minor units, an id, choices a line each; empty for none'),
  shown: z.string().nullable().describe('the name of what it points to, where it points to something'),
  why: z.string().nullable().describe('why a formula gives nothing'),
  mayChange: z.boolean(),
});
export type FieldValue = z.infer<typeof FieldValue>;
/** New values by the keys of fields; an empty one clears the field. */
export const FieldValues = z.record(z.string().max(40), z.string().trim().max(10_000));
const RecordParam = z.object({ record: FieldRecord, id: Id });
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
    query: z.object({ record: FieldRecord.optional() }),
    reply: z.object({ items: z.array(CustomField) }),
  },
  'POST /api/fields': {
    summary: 'Add a field',
    tag: 'fields',
    status: 201,
    right: 'settings.fields',
    body: z.object({
      record: FieldRecord.default('person'),
      label: Line(80),
      kind: FieldKind.default('text'),
      options: Options.default([]),
      isPersonal: z.boolean().default(false),
      tab: About.tab.default(''),
      part: About.part.default(''),
      help: About.help.default(''),
      isAsked: z.boolean().default(false),
      preset: About.preset.default(''),
      isUnique: z.boolean().default(false),
      onlyFor: OnlyFor.default([]),
      formula: About.formula.default(''),
      seenBy: About.seenBy.default('everybody'),
      changedBy: About.changedBy.default('everybody'),
    }),
    reply: Done.extend({ field: CustomField }),
  },
  'PATCH /api/fields/:id': {
    summary: 'Change or retire a field',
    tag: 'fields',
    params: IdParam,
    right: 'settings.fields',
    body: z.object({
      version: Version,
      label: Line(80).optional(),
      active: z.boolean().optional(),
      ...z.object(About).partial().shape,
      place: z.int().min(1).max(1000).optional().describe('among the fields of its kind of record'),
    }),
    reply: Done,
  },
  'GET /api/records/:record/:id/fields': {
    summary: 'Your own fields of one record, with its values',
    tag: 'fields',
    params: RecordParam,
    reply: z.object({ version: z.int(), items: z.array(FieldValue) }),
  },
  'PATCH /api/records/:record/:id/fields': {
    summary: 'Change values of your own fields on one record; those of a person are changed with the person',
    tag: 'fields',
    params: RecordParam.extend({ record: FieldRecord.exclude(['person']) }),
    body: z.object({ version: Version, values: FieldValues }),
    reply: Done.extend({ version: z.int() }),
  },
  'GET /api/field-mappings': {
    summary: 'Which claim goes to which field',
    tag: 'fields',
    reply: z.object({ items: z.array(FieldMapping) }),
  },
  'PUT /api/field-mappings': {
    summary: 'Set where the claims of one field go',
    tag: 'fields',
    right: 'settings.channels',
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
    right: 'people.change',
    status: 201,
    body: z.object({ name: Line(80) }),
    reply: Done.extend({ list: Named }),
  },
});
