import { PlaceView } from './places';
import { STANDINGS } from '@emporikon/core/lifecycle/standing';
import { z } from 'zod';
import { Days, RhythmView } from './round';
import { Claim, Match } from './captures';
import { ConsentState, Reach } from './consent';
import {
  Day,
  Done,
  Id,
  IdParam,
  Line,
  Named,
  Page,
  PhoneType,
  routes,
  sortedBy,
  Time,
  TimeZone,
  Version,
} from './common';
import { MergeNote, ToldApart } from './lookAlikes';
import { FieldValue, FieldValues, Tags } from './fields';
import { Turn } from './ledger';
import { Task } from './tasks';
import { OwnTerm, TermKey } from './terms';

export const Standing = z.enum(STANDINGS);
export const Contact = z.object({
  id: Id,
  version: z.int(),
  kind: z.enum(['email', 'phone', 'url', 'profile']),
  value: z.string(),
  normalized: z.string(),
  type: PhoneType.nullable(),
  claim: Claim.nullable(),
  reach: Reach,
});
export type Contact = z.infer<typeof Contact>;
export const PersonRow = z.object({
  id: Id,
  fullName: z.string(),
  jobTitle: z.string().nullable(),
  company: Named.nullable(),
  standing: Standing,
  standingTerm: OwnTerm,
  inactive: z.boolean(),
  email: z.string().nullable(),
  phone: z.string().nullable(),
  owner: z.string().nullable(),
  updatedAt: Time,
  turn: Turn,
  spokenAt: Time.nullable().describe('when both sides had a word last'),
  touchedAt: Time.nullable().describe('when anything was said last, by us or by them'),
  daysQuiet: z.int().nullable().describe('whole days since both sides had a word; null where they never had'),
  nextMove: Task.pick({ id: true, title: true, dueAt: true, allDay: true, zone: true }).nullable(),
});
export type PersonRow = z.infer<typeof PersonRow>;
const LeadRef = Named.extend({ status: TermKey });
const DealRef = Named.extend({
  stage: z.string(),
  days: z.int(),
  amountMinor: z.int().nullable(),
  currency: z.string(),
  probability: z.int(),
});
/** A value on the card, with the claim that says so and the one that disagrees, if there is one. */
const Fact = z.object({
  value: z.string().nullable(),
  claim: Claim.nullable(),
  suggestion: Claim.nullable(),
});
export const Dossier = z.object({
  id: Id,
  place: PlaceView.nullable().describe('where its address is'),
  version: z.int(),
  turn: Turn,
  owner: Named.nullable(),
  since: Time,
  nextMove: Task.nullable(),
  moves: z.array(Task).describe('its open moves, those due first before; at most twenty'),
  leads: z.array(LeadRef),
  deals: z.array(DealRef),
});
export const PersonDossier = Dossier.extend({
  fullName: Fact,
  jobTitle: Fact,
  address: Fact,
  timeZone: z.string().nullable(),
  timeZoneClaim: Claim.nullable(),
  birthday: z.string().nullable(),
  background: Fact,
  tags: z.array(z.string()),
  lists: z.array(Named),
  custom: z.array(FieldValue.extend({ claim: Claim.nullable() })),
  company: Named.nullable(),
  companyClaim: Claim.nullable(),
  standing: Standing,
  standingTerm: OwnTerm,
  inactiveSince: Time.nullable(),
  rhythm: RhythmView,
  isImportant: z.boolean(),
  merged: z.array(MergeNote).describe('records that were made one with this one'),
  toldApart: z
    .array(ToldApart)
    .describe('namesakes, father or son: others that somebody said this one is not'),
  contacts: z.array(Contact),
  consents: z
    .array(z.object({ purpose: z.string(), state: ConsentState }))
    .describe('what they said of being written to, by purpose'),
  colleagues: z.array(Named),
});
export type PersonDossier = z.infer<typeof PersonDossier>;

export const peopleRoutes = routes({
  'GET /api/people': {
    summary: 'People, by name',
    tag: 'people',
    right: 'people.see',
    query: Page.extend({
      q: z.string().max(200).optional(),
      tag: z.string().max(60).optional(),
      list: Id.optional(),
      inactive: z.enum(['without', 'with', 'only']).default('without'),
      news: z
        .literal('mine')
        .optional()
        .describe('those on which colleagues entered something since you looked'),
      ...sortedBy(['name', 'jobTitle', 'company', 'standing'], 'name'),
    }),
    reply: z.object({ items: z.array(PersonRow), next: z.string().nullable() }),
  },
  'POST /api/people': {
    summary: 'Add a person by hand',
    tag: 'people',
    status: 201,
    body: z.object({
      fullName: Line(200),
      jobTitle: Line(200).nullish(),
      email: z.email().nullish(),
      phone: Line(60).nullish(),
      companyId: Id.nullish(),
      companyName: Line(200).nullish(),
      ownerId: Id.optional(),
      tags: Tags.optional(),
      consent: z
        .enum(['agreed', 'unconfirmed'])
        .nullish()
        .describe('whether they may be written to; it is noted as told to whoever adds them'),
      purposeIds: z
        .array(Id)
        .max(50)
        .optional()
        .describe('what they agreed to; the default purposes when left out'),
    }),
    reply: Done.extend({ person: PersonRow }),
  },
  'GET /api/people/:id': {
    summary: 'The dossier of a person',
    tag: 'people',
    right: 'people.see',
    params: IdParam,
    reply: PersonDossier,
  },
  'PATCH /api/people/:id': {
    summary: 'Change facts by hand; a stale version gets 409 with what stands there',
    tag: 'people',
    params: IdParam,
    body: z.object({
      version: Version,
      fullName: Line(200).optional(),
      jobTitle: Line(200).nullable().optional(),
      address: Line(400).nullable().optional(),
      timeZone: TimeZone.nullable().optional(),
      companyId: Id.nullable().optional(),
      standing: TermKey.optional(),
      active: z
        .boolean()
        .optional()
        .describe('false keeps them, but last in what is found and out of the lists'),
      ownerId: Id.nullable().optional(),
      birthday: z
        .union([Day, z.string().regex(/^--\d\d-\d\d$/)])
        .nullable()
        .optional(),
      background: z.string().trim().max(4000).nullable().optional(),
      tags: Tags.optional(),
      custom: FieldValues.optional(),
      because: Line(500).optional().describe('a sentence on why, for the ledger'),
      rhythmDays: Days.nullable().optional().describe('how often you mean to be in touch'),
      isImportant: z.boolean().optional().describe('weighs more in the round'),
    }),
    reply: Done.extend({ version: z.int() }),
  },
  'POST /api/people/find-or-create': {
    summary: 'Somebody by their keys, else by the verdict on what is told of them, made if there is nobody',
    tag: 'people',
    body: z
      .object({
        fullName: Line(200).optional(),
        email: z.email().optional(),
        emails: z.array(z.email()).max(10).default([]),
        phone: Line(60).optional(),
        phones: z.array(Line(60)).max(10).default([]),
        profiles: z
          .array(z.url({ protocol: /^https?$/ }).max(500))
          .max(10)
          .default([]),
        companyName: Line(200).optional(),
        jobTitle: Line(200).optional(),
        onMaybe: z
          .enum(['ask', 'create', 'reject'])
          .default('ask')
          .describe(
            'when it may be somebody we know: answer `maybe` with who, make them all the same, or 409',
          ),
      })
      .refine(
        (one) =>
          one.fullName ||
          one.email ||
          one.phone ||
          one.emails.length ||
          one.phones.length ||
          one.profiles.length,
        {
          path: ['fullName'],
          error: 'say a name, an address, a number or a page',
        },
      ),
    reply: Done.extend({
      outcome: z.enum(['found', 'created', 'maybe']),
      created: z.boolean(),
      person: PersonRow.nullable(),
      matches: z.array(Match).describe('who it may be, the likeliest first'),
    }),
  },
  'POST /api/people/:id/contacts': {
    summary: 'Add an address, number or link',
    tag: 'people',
    params: IdParam,
    status: 201,
    body: z.object({
      kind: z.enum(['email', 'phone', 'url', 'profile']),
      value: Line(300),
      type: PhoneType.optional(),
    }),
    reply: Done,
  },
  'PATCH /api/contacts/:id': {
    summary: 'Change an address, number or link',
    tag: 'people',
    params: IdParam,
    body: z.object({
      version: Version,
      value: Line(300).optional(),
      type: PhoneType.optional(),
      reach: z.literal('good').optional().describe('mail arrives there after all'),
    }),
    reply: Done,
  },
  'DELETE /api/contacts/:id': {
    summary: 'Remove an address, number or link',
    tag: 'people',
    params: IdParam,
    reply: Done,
  },
});
