import { z } from 'zod';
import { Done, Id, IdParam, Line, routes, Time, Version } from './common';

const Collection = z.object({ url: z.string(), name: z.string() });
const Facts = z.object({
  title: z.string(),
  start: z.string().describe('ISO 8601; a day where it takes the whole of it'),
  end: z.string(),
  allDay: z.boolean(),
  place: z.string(),
  notes: z.string(),
});
/** What a meeting says here and in another calendar, where both changed the same since they were last the same. */
export const CalendarClash = z.object({
  taskId: Id,
  title: z.string(),
  here: Facts,
  there: Facts.nullable().describe('null where it was removed there'),
  parts: z.array(z.enum(['title', 'time', 'place', 'notes'])).describe('which are different'),
});
export type CalendarClash = z.infer<typeof CalendarClash>;

export const CalendarLink = z.object({
  id: Id,
  version: z.int(),
  url: z.string(),
  username: z.string(),
  state: z
    .enum(['new', 'choose', 'current', 'down', 'refused', 'forgetful'])
    .describe(
      'choose: the account has several calendars; refused: it is not tried again until another password is given; forgetful: most events went at once, and none was removed here yet',
    ),
  trouble: z.string(),
  syncedAt: Time.nullable(),
  calendars: z.array(Collection),
  calendarUrl: z.string().nullable(),
  addressBooks: z.array(Collection),
  addressBookUrl: z.string().nullable().describe('where your people go, so that a phone knows who calls'),
  events: z.int().describe('that stand in both calendars'),
  cards: z.int(),
  clashes: z.array(CalendarClash).describe('at most 50'),
});
export type CalendarLink = z.infer<typeof CalendarLink>;

export const caldavRoutes = routes({
  'GET /api/calendar/links': {
    summary: 'Calendars elsewhere that mine is kept in step with',
    tag: 'calendar',
    reply: z.object({ items: z.array(CalendarLink) }),
  },
  'POST /api/calendar/links': {
    summary: 'Keep my calendar in step with one elsewhere over CalDAV, from now on',
    tag: 'calendar',
    status: 201,
    body: z.object({
      url: z.url({ protocol: /^https?$/ }).max(500),
      username: Line(320),
      password: z.string().min(1).max(500),
    }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/calendar/links/:id': {
    summary: 'Choose the calendar and the address book of an account, or give a new password',
    tag: 'calendar',
    params: IdParam,
    body: z.object({
      version: Version,
      calendarUrl: z.string().max(1000).optional(),
      addressBookUrl: z.string().max(1000).nullish(),
      password: z.string().min(1).max(500).optional(),
      mayRemove: z.literal(true).optional().describe('what went from the other calendar at once may go here'),
    }),
    reply: Done,
  },
  'DELETE /api/calendar/links/:id': {
    summary: 'Keep it in step no more; what stands in both calendars stays in both',
    tag: 'calendar',
    params: IdParam,
    reply: Done,
  },
  'POST /api/calendar/links/:id/sync': {
    summary: 'Bring it in step now',
    tag: 'calendar',
    params: IdParam,
    reply: z.object({ asked: z.literal(true) }),
  },
  'POST /api/tasks/:id/calendar': {
    summary: 'Decide what a meeting is that was changed here and in the other calendar',
    tag: 'calendar',
    params: IdParam,
    body: z.object({ keep: z.enum(['here', 'there']) }),
    reply: Done,
  },
});
