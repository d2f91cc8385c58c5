import { CONSENT_STATES, CONSENT_WAYS, REACHES } from '@emporikon/core/outreach/consent';
import { areaProblem, MOST_CORNERS } from '@emporikon/core/places/area';
import { z } from 'zod';
import { COUNTED, Country, Done, Id, IdParam, Line, Named, Page, routes, Time, Version } from './common';

export const ConsentState = z.enum(CONSENT_STATES);
export const Reach = z.enum(REACHES).describe('whether mail arrives at an address, as servers said last');
const Words = z.string().trim().max(1000);
const Translations = z
  .record(
    z.string().regex(/^[a-z]{2}$/, 'a language of two letters'),
    z.object({ name: Line(80), words: Words }),
  )
  .describe('name and sentence by language (ISO 639-1)');
const Corners = z
  .array(z.number())
  .max(MOST_CORNERS * 2)
  .refine((corners) => areaProblem(corners) === null, 'takes an outline of three or more corners')
  .describe('longitude, latitude, longitude, … in degrees');
export const Places = z
  .object({
    codes: z.array(z.object({ country: Country, code: Line(12) })).max(50),
    areas: z.array(Id).max(50),
  })
  .describe('for which places somebody wants to hear of it; everywhere where nothing is named');
export type Places = z.infer<typeof Places>;

const Topic = z.object({
  id: Id,
  version: z.int(),
  purposeId: Id,
  name: z.string(),
  words: z.string(),
  byArea: z.boolean().describe('whoever subscribes says for which places'),
  translations: Translations,
  agreed: z.int().describe(COUNTED),
});
export type Topic = z.infer<typeof Topic>;
export const Purpose = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  words: z.string().describe('the sentence that people agree to'),
  isDefault: z.boolean().describe('meant where somebody agreed and nothing says to what'),
  translations: Translations,
  kind: z.enum(['mail', 'tracking']).describe('tracking: that opens and clicks of letters are recorded'),
  agreed: z.int().describe(COUNTED),
  topics: z.array(Topic),
});
export type Purpose = z.infer<typeof Purpose>;
const PurposeBody = z.object({
  name: Line(80),
  words: Words,
  isDefault: z.boolean(),
  translations: Translations,
});
const TopicBody = z.object({
  name: Line(80),
  words: Words,
  byArea: z.boolean(),
  translations: Translations,
});
const Area = z.object({ id: Id, version: z.int(), name: z.string(), corners: Corners });
export type Area = z.infer<typeof Area>;

const Holding = z.object({
  state: ConsentState.nullable().describe('null where they never said anything'),
  at: Time.nullable(),
  how: z.enum(CONSENT_WAYS).nullable(),
});
const Statement = z.object({
  id: Id,
  at: Time,
  purpose: z.string(),
  topic: z.string().nullable(),
  state: ConsentState,
  how: z.enum(CONSENT_WAYS),
  words: z.string().describe('what they were shown or said'),
  source: z.string(),
  address: z.string().nullable(),
  by: z.string().nullable().describe('the colleague who noted it; null where they said it themselves'),
});
export type Statement = z.infer<typeof Statement>;
export const PersonConsent = z.object({
  purposes: z.array(
    Holding.extend({
      id: Id,
      name: z.string(),
      topics: z.array(
        Holding.extend({ id: Id, name: z.string(), byArea: z.boolean(), places: Places.nullable() }),
      ),
    }),
  ),
  addresses: z.array(
    z.object({
      contactId: Id,
      version: z.int(),
      address: z.string(),
      reach: Reach,
      at: Time.nullable(),
      words: z.string().describe('what the mail server said'),
    }),
  ),
  history: z.array(Statement).describe('every statement, newest first; at most two hundred'),
  link: z.string().describe('the page on which they choose themselves'),
});
export type PersonConsent = z.infer<typeof PersonConsent>;

const TrackingRules = z.object({
  version: Version,
  opens: z.boolean(),
  clicks: z.boolean(),
  offCountries: z.array(Country).max(300),
});
export type TrackingRules = z.infer<typeof TrackingRules>;

export const consentRoutes = routes({
  'GET /api/purposes': {
    summary: 'What people can agree to be written to about, with its topics',
    tag: 'consent',
    reply: z.object({ items: z.array(Purpose) }),
  },
  'POST /api/purposes': {
    summary: 'Add a purpose',
    tag: 'consent',
    status: 201,
    right: 'settings.channels',
    body: PurposeBody.partial().extend({ name: Line(80) }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/purposes/:id': {
    summary: 'Change a purpose; what people agreed to stays with the words they were shown',
    tag: 'consent',
    right: 'settings.channels',
    params: IdParam,
    body: PurposeBody.partial().extend({ version: Version }),
    reply: Done,
  },
  'DELETE /api/purposes/:id': {
    summary: 'Retire a purpose: nobody is written to about it any more, and its statements are kept',
    tag: 'consent',
    right: 'settings.channels',
    params: IdParam,
    reply: Done,
  },
  'POST /api/topics': {
    summary: 'Add a topic of a purpose',
    tag: 'consent',
    status: 201,
    right: 'settings.channels',
    body: TopicBody.partial().extend({ purposeId: Id, name: Line(80) }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/topics/:id': {
    summary: 'Change a topic',
    tag: 'consent',
    right: 'settings.channels',
    params: IdParam,
    body: TopicBody.partial().extend({ version: Version }),
    reply: Done,
  },
  'DELETE /api/topics/:id': {
    summary: 'Retire a topic; its statements are kept',
    tag: 'consent',
    right: 'settings.channels',
    params: IdParam,
    reply: Done,
  },
  'GET /api/tracking-rules': {
    summary: 'What is recorded of how letters are read, and in which countries only with consent',
    tag: 'consent',
    reply: TrackingRules,
  },
  'PUT /api/tracking-rules': {
    summary: 'Change what is recorded of how letters are read',
    tag: 'consent',
    right: 'settings.channels',
    body: TrackingRules,
    reply: Done,
  },
  'GET /api/areas': {
    summary: 'Areas that people can choose for a topic',
    tag: 'consent',
    reply: z.object({ items: z.array(Area) }),
  },
  'POST /api/areas': {
    summary: 'Add an area',
    tag: 'consent',
    status: 201,
    right: 'settings.channels',
    body: z.object({ name: Line(80), corners: Corners }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/areas/:id': {
    summary: 'Rename or redraw an area',
    tag: 'consent',
    right: 'settings.channels',
    params: IdParam,
    body: z.object({ version: Version, name: Line(80).optional(), corners: Corners.optional() }),
    reply: Done,
  },
  'DELETE /api/areas/:id': {
    summary: 'Retire an area: it is no longer offered, and whoever chose it hears nothing for it',
    tag: 'consent',
    right: 'settings.channels',
    params: IdParam,
    reply: Done,
  },
  'GET /api/topics/:id/subscribers': {
    summary: 'Who wants to hear of a topic, of all places or of one',
    tag: 'consent',
    right: 'people.see',
    params: IdParam,
    query: Page.extend({
      country: Country.optional(),
      postCode: Line(12).optional().describe('with the country'),
      lon: z.coerce.number().min(-180).max(180).optional(),
      lat: z.coerce.number().min(-90).max(90).optional(),
    }),
    reply: z.object({
      items: z.array(
        Named.extend({ address: z.string().nullable(), places: Places.nullable(), since: Time }),
      ),
      next: z.string().nullable(),
    }),
  },
  'GET /api/people/:id/consent': {
    summary: 'What somebody agreed to, how and when, and which of their addresses work',
    tag: 'consent',
    right: 'people.see',
    params: IdParam,
    reply: PersonConsent,
  },
  'POST /api/people/:id/consent': {
    summary: 'Note what somebody said about being written to',
    tag: 'consent',
    status: 201,
    right: 'people.change',
    params: IdParam,
    body: z.object({
      purposeId: Id,
      topicId: Id.optional(),
      state: z.enum(['agreed', 'withdrawn']),
      words: Words.default('').describe('what they said and where; required where they agreed'),
      places: Places.optional(),
    }),
    reply: Done,
  },
  'POST /api/people/:id/consent-mail': {
    summary: 'Mail somebody the link to their own page, and ask them there for what they have not agreed to',
    tag: 'consent',
    status: 201,
    right: 'people.change',
    params: IdParam,
    body: z.object({ purposeIds: z.array(Id).max(50).default([]).describe('what they are asked for') }),
    reply: Done,
  },
});
