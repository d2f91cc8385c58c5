import { FOLLOWS } from '@emporikon/core/outreach/tracking';
import { MERGE_KINDS } from '@emporikon/core/outreach/mergeFields';
import { z } from 'zod';
import { Done, Id, IdParam, Line, Page, routes, Time, Version } from './common';
import { About } from './ledger';
import { Outcome } from './outcome';
import { MoveKind } from './moves';

const Html = z
  .string()
  .max(200_000)
  .describe('what a letter may hold is kept; everything else in it is taken out');
const Subject = Line(300).or(z.literal(''));
const Address = z.email().max(320);

const Recipient = z.object({
  way: z.enum(['to', 'cc', 'bcc']),
  address: Address,
  name: Line(200).or(z.literal('')).default(''),
  personId: Id.nullable().default(null).describe('found by the address when left out'),
});
const FollowUp = z.object({
  title: Line(300),
  kind: MoveKind,
  dueAt: Time,
  allDay: z.boolean(),
  unlessAnswered: z.boolean().describe('it is dropped when they answer before'),
});
export type FollowUp = z.infer<typeof FollowUp>;

const LetterFile = z.object({ id: Id, name: z.string(), size: z.int() });
export const Letter = z.object({
  id: Id,
  version: z.int(),
  state: z
    .enum(['draft', 'waiting', 'sent', 'failed'])
    .describe('waiting: it goes out at `leavesAt` and can be taken back until then'),
  subject: z.string(),
  html: z.string(),
  recipients: z.array(Outcome.extend({ way: z.enum(['to', 'cc', 'bcc']) })),
  about: z.object({
    person: z.object({ id: Id, name: z.string() }).nullable(),
    companyId: Id.nullable(),
    leadId: Id.nullable(),
    dealId: Id.nullable(),
    projectId: Id.nullable(),
    caseId: Id.nullable(),
  }),
  answersId: Id.nullable().describe('the message that it answers or hands on'),
  templateId: Id.nullable(),
  files: z.array(LetterFile),
  followUp: FollowUp.nullable(),
  gaps: z.array(z.string()).describe('fields that are still to be filled in'),
  warnings: z.array(z.string()).describe('what speaks against sending it to one of them'),
  leavesAt: Time.nullable(),
  sentAt: Time.nullable(),
  trouble: z.string().describe('why it did not go out'),
  follows: z.enum(FOLLOWS).nullable().describe('what of its reading is recorded; null until it goes out'),
  updatedAt: Time,
});
export type Letter = z.infer<typeof Letter>;
const LetterLine = Letter.pick({
  id: true,
  state: true,
  subject: true,
  leavesAt: true,
  sentAt: true,
  trouble: true,
  updatedAt: true,
}).extend({ recipients: z.array(Outcome), beginning: z.string() });
export type LetterLine = z.infer<typeof LetterLine>;

const Shortcut = z
  .string()
  .regex(/^[\p{L}\p{N}_-]{1,30}$/u, 'one word of letters and digits')
  .nullable();
const Answered = z.object({
  sent: z.int(),
  answered: z.int(),
  low: z.number().describe('the 95 % interval of the share that was answered (Wilson)'),
  high: z.number(),
});
export const LetterTemplate = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  folder: z.string(),
  shared: z.boolean(),
  isMine: z.boolean(),
  owner: z.string(),
  shortcut: z.string().nullable().describe('typed behind a semicolon in a letter, it brings the template'),
  subject: z.string(),
  html: z.string(),
  answered: Answered.describe('letters of the last year made from it that were answered by mail'),
  updatedAt: Time,
});
export type LetterTemplate = z.infer<typeof LetterTemplate>;
const TemplateBody = z.object({
  name: Line(120),
  folder: Line(80).or(z.literal('')).default(''),
  shared: z.boolean().default(false),
  shortcut: Shortcut.default(null),
  subject: Subject.default(''),
  html: Html.default(''),
});

export const letterRoutes = routes({
  'GET /api/letters': {
    summary: 'My letters, newest first',
    tag: 'letters',
    query: Page.extend({
      state: z.enum(['draft', 'waiting', 'sent', 'failed']).optional(),
      ...About.shape,
    }),
    reply: z.object({ items: z.array(LetterLine), next: z.string().nullable() }),
  },
  'POST /api/letters': {
    summary: 'Begin a letter: to a record, as an answer to a message, or from a template',
    tag: 'letters',
    right: 'ledger.add',
    status: 201,
    body: z.object({
      about: About.default({}),
      recipients: z.array(Recipient).max(100).optional().describe('whoever the record is when left out'),
      toName: Line(100).optional().describe('first or full name of one of the people of the record'),
      answers: z
        .object({ captureId: Id, how: z.enum(['reply', 'reply all', 'forward']) })
        .optional()
        .describe('the message that it answers or hands on'),
      templateId: Id.optional(),
      subject: Subject.optional(),
      words: z.string().max(20_000).optional().describe('its first words, plain'),
    }),
    reply: Done.extend({ letter: Letter }),
  },
  'GET /api/letters/:id': {
    summary: 'One of my letters',
    tag: 'letters',
    params: IdParam,
    reply: Letter,
  },
  'PATCH /api/letters/:id': {
    summary: 'Change a draft; it is kept as it is written, and nobody else sees it',
    tag: 'letters',
    right: 'ledger.add',
    params: IdParam,
    body: z.object({
      version: Version,
      subject: Subject.optional(),
      html: Html.optional(),
      recipients: z.array(Recipient).max(100).optional(),
      followUp: FollowUp.nullable().optional(),
    }),
    reply: z.object({ letter: Letter }),
  },
  'DELETE /api/letters/:id': {
    summary: 'Discard a draft, or a letter that did not go out',
    tag: 'letters',
    params: IdParam,
    reply: Done,
  },
  'POST /api/letters/:id/template': {
    summary: 'Put a template into a draft, filled in for whom it is to',
    tag: 'letters',
    right: 'ledger.add',
    params: IdParam,
    body: z.object({ version: Version, templateId: Id }),
    reply: z.object({ letter: Letter }),
  },
  'GET /api/letters/:id/preview': {
    summary: 'A letter as it will arrive, with its signature, as HTML and as plain text',
    tag: 'letters',
    params: IdParam,
    reply: z.object({ from: z.string(), subject: z.string(), html: z.string(), text: z.string() }),
  },
  'GET /api/letters/:id/times': {
    summary: 'When it could go out so that it arrives while they work',
    tag: 'letters',
    params: IdParam,
    reply: z.object({
      zone: z.string().describe('on whose clock'),
      isTheirs: z.boolean().describe('their time zone is known; otherwise it is yours'),
      items: z.array(z.object({ name: z.enum(['next hour', 'morning', 'monday']), at: Time })),
    }),
  },
  'POST /api/letters/:id/sending': {
    summary: 'Send a letter, in ten seconds or later; until then it can be taken back',
    tag: 'letters',
    right: 'ledger.add',
    params: IdParam,
    body: z.object({
      version: Version,
      at: z.iso.datetime({ offset: true }).optional().describe('when, where that is later'),
      anyway: z.boolean().default(false).describe('although something speaks against it'),
    }),
    reply: Done.extend({ letter: Letter }),
  },
  'DELETE /api/letters/:id/sending': {
    summary: 'Take back a letter that has not gone out; it is a draft again',
    tag: 'letters',
    params: IdParam,
    reply: Done.extend({ letter: Letter }),
  },
  'POST /api/letters/:id/files': {
    summary: 'Attach a file to a draft',
    tag: 'letters',
    right: 'ledger.add',
    status: 201,
    params: IdParam,
    raw: ['application/octet-stream'],
    query: z.object({ name: Line(200) }),
    reply: z.object({ file: LetterFile }),
  },
  'DELETE /api/letter-files/:id': {
    summary: 'Take a file off a draft',
    tag: 'letters',
    params: IdParam,
    reply: z.object({ removed: z.literal(true) }),
  },
  'GET /api/letter-fields': {
    summary: 'The fields that templates can name',
    tag: 'letters',
    reply: z.object({
      items: z.array(z.object({ path: z.string(), label: z.string(), kind: z.enum(MERGE_KINDS) })),
    }),
  },
  'GET /api/letter-templates': {
    summary: 'My templates and those of the team, with how often letters made from them were answered',
    tag: 'letters',
    reply: z.object({ items: z.array(LetterTemplate) }),
  },
  'POST /api/letter-templates': {
    summary: 'Save a template',
    tag: 'letters',
    right: 'ledger.add',
    status: 201,
    body: TemplateBody,
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/letter-templates/:id': {
    summary: 'Change a template: your own, or one of the team',
    tag: 'letters',
    right: 'ledger.add',
    params: IdParam,
    body: z.object({
      version: Version,
      name: Line(120).optional(),
      folder: Line(80).or(z.literal('')).optional(),
      shared: z.boolean().optional(),
      shortcut: Shortcut.optional(),
      subject: Subject.optional(),
      html: Html.optional(),
    }),
    reply: Done,
  },
  'DELETE /api/letter-templates/:id': {
    summary: 'Delete a template; letters made from it stay',
    tag: 'letters',
    right: 'ledger.add',
    params: IdParam,
    reply: Done,
  },
  'POST /api/letter-templates/check': {
    summary: 'What is wrong with a template, and how it reads for one person',
    tag: 'letters',
    body: z.object({ subject: z.string().max(300), html: Html, about: About.default({}) }),
    reply: z.object({
      problems: z.array(z.string()),
      subject: z.string(),
      html: z.string(),
      missing: z.array(z.string()).describe('fields that are empty for this person'),
    }),
  },
});
