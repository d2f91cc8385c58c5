import { z } from 'zod';
import { Day, Done, Id, IdParam, Line, routes } from './common';

export const FreeDays = z.object({
  weekend: z.array(z.int()).describe('days of the week, Monday is 1'),
  closed: z.array(z.object({ day: z.string(), name: z.string() })).describe('holidays and closed days'),
});
export type FreeDays = z.infer<typeof FreeDays>;

export const calendarRoutes = routes({
  'GET /api/calendar/free-days': {
    summary: 'The days on which you do not work, from last year to the year after next',
    tag: 'calendar',
    reply: FreeDays,
  },
  'GET /api/calendar/places': {
    summary: 'Countries and parts of them whose public holidays are known',
    tag: 'calendar',
    reply: z.object({ items: z.array(z.object({ code: z.string(), name: z.string() })) }),
  },
  'GET /api/closed-days': {
    summary: 'Days on which your whole organisation is closed',
    tag: 'calendar',
    reply: z.object({ items: z.array(z.object({ id: Id, day: z.string(), name: z.string() })) }),
  },
  'POST /api/closed-days': {
    summary: 'Close your organisation on a day',
    tag: 'calendar',
    status: 201,
    right: 'settings.organisation',
    body: z.object({ day: Day, name: Line(80) }),
    reply: Done.extend({ id: Id }),
  },
  'DELETE /api/closed-days/:id': {
    summary: 'Open your organisation on a day again',
    tag: 'calendar',
    params: IdParam,
    right: 'settings.organisation',
    reply: Done,
  },
});
