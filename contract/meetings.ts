import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Time } from './common';
import { Outcome } from './ledger';
import { MoveKind } from './moves';
import { Answer, Task } from './tasks';

const Moment = z.iso.datetime({ offset: true });

/** A task where it stands in a calendar. */
export const CalendarItem = z.object({
  key: z.string().describe('the task, and the day for one that is still to come of a series'),
  taskId: Id,
  version: z.int(),
  title: z.string(),
  kind: MoveKind,
  start: Time,
  end: Time,
  allDay: z.boolean(),
  zone: z.string().describe('in which a whole day counts'),
  place: z.string(),
  isDone: z.boolean(),
  isExpected: z.boolean().describe('it comes by the repeat of the task, once that is done'),
  occursAt: Time.nullable().describe('of one that is still to come: the time by its repeat, which names it'),
  isOverdue: z.boolean(),
  assignee: Named,
  with: z.array(z.string()).describe('who comes, by name'),
  about: z.string().describe('the person, company, lead or deal it is about'),
  answer: Answer.nullable().describe('your own, where you are asked to come'),
});
export type CalendarItem = z.infer<typeof CalendarItem>;
const Stretch = z.object({ start: Time, end: Time });

export const meetingRoutes = routes({
  'GET /api/calendar': {
    summary: 'What has a day or a time between two moments, of one or several colleagues',
    tag: 'calendar',
    query: z.object({
      from: Moment,
      until: Moment.describe('at most 62 days later'),
      who: z
        .union([z.literal('team'), z.string().regex(/^[0-9a-f-]{36}(?:,[0-9a-f-]{36}){0,49}$/)])
        .optional()
        .describe('ids of colleagues, separated by commas, or all of them; yourself where nothing is said'),
    }),
    reply: z.object({
      items: z.array(CalendarItem).describe('at most two thousand'),
      busy: z
        .array(Stretch.extend({ who: Named }))
        .describe('times of colleagues that you may not see more of'),
    }),
  },
  'GET /api/calendar/free-times': {
    summary: 'When several colleagues are free at once, by plain words such as “next week, 45 min”',
    tag: 'calendar',
    query: z.object({
      with: z
        .string()
        .regex(/^[0-9a-f-]{36}(?:,[0-9a-f-]{36}){0,19}$/)
        .optional()
        .describe('ids of colleagues beside yourself, separated by commas'),
      wish: z.string().max(200).default(''),
      except: Id.optional().describe('a meeting that is to be moved, and so takes no time'),
    }),
    reply: z.object({
      minutes: z.int(),
      items: z.array(Stretch).describe('at most nine, the soonest first'),
    }),
  },
  'POST /api/tasks/:id/occurrences': {
    summary: 'Make a later time of a task that repeats a task of its own, at another time',
    tag: 'calendar',
    params: IdParam,
    body: z.object({
      at: Moment.describe('when its repeat has it'),
      dueAt: Moment,
      allDay: z.boolean().optional(),
      endAt: Moment.nullish(),
    }),
    reply: Done.extend({ task: Task }),
  },
  'DELETE /api/tasks/:id/occurrences/:at': {
    summary: 'Leave out a later time of a task that repeats',
    tag: 'calendar',
    params: IdParam.extend({ at: Moment.describe('when its repeat has it') }),
    reply: Done,
  },
  'POST /api/tasks/:id/answer': {
    summary: 'Say whether you come to a meeting that a colleague asked you to',
    tag: 'calendar',
    params: IdParam,
    body: z.object({ answer: Answer.exclude(['waiting']) }),
    reply: Done,
  },
  'POST /api/tasks/:id/held': {
    summary:
      'Say in plain words what came of a meeting, call or visit: it is done, entered, and what follows is set',
    tag: 'calendar',
    status: 201,
    params: IdParam,
    body: z.object({
      words: Line(2000),
      outcome: Outcome.optional().describe('spoke, where nothing is said'),
      leaveOut: z.array(z.enum(['nextMove', 'dealAmount'])).default([]),
    }),
    reply: Done.extend({ saved: z.array(z.string()) }),
  },
  'GET /api/calendar/feed': {
    summary: 'Whether you have an address at which calendar programs read your calendar',
    tag: 'calendar',
    reply: z.object({ madeAt: Time.nullable(), readAt: Time.nullable().describe('when it was read last') }),
  },
  'POST /api/calendar/feed': {
    summary:
      'Make a new secret address for calendar programs; it is shown this once, and the one before ends',
    tag: 'calendar',
    status: 201,
    body: z.object({}),
    reply: z.object({ url: z.string() }),
  },
  'DELETE /api/calendar/feed': {
    summary: 'End the address at which calendar programs read your calendar',
    tag: 'calendar',
    reply: z.object({ ended: z.boolean() }),
  },
});
