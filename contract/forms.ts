import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Time, Version } from './common';
import { ClaimField, Tags } from './fields';
import { Delivery } from './outbox';

export const FormField = z.object({
  name: z.string().regex(/^[a-z][a-z0-9_]{0,40}$/),
  label: Line(120),
  field: ClaimField.nullable().describe('what it stands for; null for words of their own'),
  kind: z.enum(['line', 'text', 'choice', 'yes or no', 'date', 'number']),
  required: z.boolean().default(false),
  help: z.string().trim().max(300).default(''),
  options: z.array(Line(120)).max(60).default([]),
});
export type FormField = z.infer<typeof FormField>;
const Base = z.object({
  name: Line(120),
  slug: z.string().regex(/^[a-z0-9-]{1,60}$/, 'small letters, digits and dashes'),
  kind: z.enum(['public', 'desk']),
  recognise: z.enum(['email', 'phone', 'both', 'ask']),
  fields: z.array(FormField).min(1).max(60),
  consent: z.string().trim().max(1000).describe('asked with a box to tick; empty asks nothing'),
  purposeIds: z
    .array(Id)
    .max(50)
    .describe('what whoever ticks the box agrees to; the default purposes where it names none'),
  thanks: z.string().trim().max(1000),
  ownerId: Id.nullish(),
  listId: Id.nullish(),
  tags: Tags,
  source: Line(60),
  leadStatus: z
    .enum(['new', 'working', 'case', 'none'])
    .describe('what filing one creates: a lead and its status, a case, or neither'),
  filesItself: z.boolean(),
});
const { recognise, consent, purposeIds, thanks, tags, source, leadStatus, filesItself } = Base.shape;
export const FormInput = Base.extend({
  recognise: recognise.default('email'),
  consent: consent.default(''),
  purposeIds: purposeIds.default([]),
  thanks: thanks.default(''),
  tags: tags.default([]),
  source: source.default('form'),
  leadStatus: leadStatus.default('new'),
  filesItself: filesItself.default(false),
});
export const Form = Base.extend({
  id: Id,
  version: z.int(),
  active: z.boolean(),
  submissions: z.int(),
  owner: Named.nullable(),
  ownerId: Id.nullable(),
  listId: Id.nullable(),
});
export type Form = z.infer<typeof Form>;
export const Answers = z.record(z.string().max(60), z.string().max(5000));

export const formRoutes = routes({
  'GET /api/forms': {
    summary: 'The forms',
    tag: 'forms',
    reply: z.object({ items: z.array(Form) }),
  },
  'GET /api/forms/:id': { summary: 'One form', tag: 'forms', params: IdParam, reply: Form },
  'POST /api/forms': {
    summary: 'Design a form',
    tag: 'forms',
    status: 201,
    right: 'settings.channels',
    body: FormInput,
    reply: Done.extend({ form: Form }),
  },
  'PATCH /api/forms/:id': {
    summary: 'Change or retire a form',
    tag: 'forms',
    params: IdParam,
    right: 'settings.channels',
    body: Base.partial().extend({ version: Version, active: z.boolean().optional() }),
    reply: Done.extend({ form: Form }),
  },
  'POST /api/forms/:id/submissions': {
    summary: 'Fill in a form at the desk, for a known person or somebody new',
    tag: 'forms',
    status: 201,
    params: IdParam,
    body: z.object({
      answers: Answers,
      personId: z.union([Id, z.literal('new')]).optional(),
      agreed: z.boolean().default(false),
    }),
    reply: Done.extend({ captureId: Id, person: Named.nullable(), filed: z.boolean() }),
  },
  'GET /api/submissions': {
    summary: 'What was filled in by or for a person, or on a form',
    tag: 'forms',
    query: z.object({ personId: Id.optional(), formId: Id.optional() }),
    reply: z.object({
      items: z.array(
        z.object({
          id: Id,
          form: Named,
          captureId: Id,
          at: Time,
          by: z
            .string()
            .nullable()
            .describe('the colleague who filled it in; null for the person themselves'),
          answers: z.array(z.object({ label: z.string(), value: z.string() })),
          confirmedAt: Time.nullable(),
          delivery: Delivery.nullable().describe('what became of the mail that asks to confirm the address'),
        }),
      ),
    }),
  },
});
