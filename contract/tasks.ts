import { z } from 'zod';
import {
  COUNTED,
  Day,
  Done,
  Id,
  IdParam,
  Line,
  Named,
  Page,
  routes,
  Time,
  TimeOfDay,
  TimeZone,
  Version,
} from './common';
import { CalendarClash } from './caldav';
import { MoveKind } from './moves';

export const Answer = z.enum(['waiting', 'accepted', 'tentative', 'declined']);
export const Attendee = z.object({
  id: Id,
  name: z.string(),
  email: z.string().describe('empty where none is known; then nobody is invited by mail'),
  personId: Id.nullable(),
  userId: Id.nullable(),
  answer: Answer,
  answeredAt: Time.nullable(),
  comment: z.string(),
  proposes: z.object({ start: Time, end: Time }).nullable().describe('another time that they propose'),
  invited: z.enum(['no', 'on its way', 'yes']).describe('by mail'),
});
export type Attendee = z.infer<typeof Attendee>;
export const WantedPerson = z
  .object({
    personId: Id.optional(),
    userId: Id.optional(),
    email: z.string().trim().toLowerCase().max(320).pipe(z.email()).optional(),
    name: z.string().trim().max(200).optional(),
  })
  .describe('a person, a colleague, or anybody by their address');
const Moment = z.iso.datetime({ offset: true });
const Notes = z.string().trim().max(5000);
export const Priority = z.enum(['high', 'normal', 'low']);
export const CheckItem = z.object({ words: Line(200), isDone: z.boolean() });
export const Reminder = z
  .union([
    z.object({ days: z.int().min(0).max(60), at: TimeOfDay }),
    z.object({ minutes: z.int().min(0).max(20_160) }),
  ])
  .describe('so many days before at an hour, on the clock of whoever does it; or minutes before');
export const Repeat = z
  .string()
  .max(300)
  .regex(
    /^(?:FREQ=|P\d)[A-Z0-9=;,+-]+$/,
    'neither a rule such as FREQ=WEEKLY;BYDAY=MO nor a duration such as P3W',
  )
  .describe('an RRULE of RFC 5545 of days or longer, or an ISO 8601 duration after it was done (P3W)');

export const Task = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  kind: MoveKind,
  ownKind: Named.nullable().describe('a kind of your organisation’s own'),
  startAt: Time.nullable(),
  dueAt: Time,
  allDay: z.boolean(),
  endAt: Time.nullable(),
  zone: z.string().describe('in which its day counts'),
  priority: Priority,
  progress: z.int().describe('per cent'),
  repeat: z.string().nullable(),
  repeatWords: z.string().nullable(),
  assignee: Named,
  givenBy: Named.nullable().describe('who gave it to whoever does it'),
  declined: z.object({ by: z.string(), at: Time, why: z.string() }).nullable(),
  doneAt: Time.nullable(),
  doneBy: z.string().nullable(),
  person: Named.nullable(),
  company: Named.nullable(),
  lead: Named.nullable(),
  deal: Named.nullable(),
  project: Named.nullable(),
  case: Named.nullable(),
  state: z.enum(['overdue', 'today', 'later']),
});
export type Task = z.infer<typeof Task>;
export const TaskDetail = Task.extend({
  notes: z.string(),
  checklist: z.array(z.object({ words: z.string(), isDone: z.boolean() })),
  reminders: z.array(Reminder),
  watchers: z.array(Named),
  asked: z.string().nullable().describe('the sentence that asked for it'),
  entryId: Id.nullable(),
  place: z.string(),
  isInviting: z.boolean(),
  people: z.array(Attendee).describe('who comes, besides whoever does it'),
  clash: CalendarClash.nullable().describe('where it was changed in your other calendar as well'),
  messages: z
    .array(z.object({ id: Id, by: z.string(), at: Time, words: z.string(), isMail: z.boolean() }))
    .describe('the newest hundred, oldest first'),
});
export type TaskDetail = z.infer<typeof TaskDetail>;

const About = {
  personId: Id.nullish(),
  companyId: Id.nullish(),
  leadId: Id.nullish(),
  dealId: Id.nullish(),
  projectId: Id.nullish(),
  caseId: Id.nullish(),
};
const Details = {
  kindId: Id.nullish(),
  startAt: Moment.nullish(),
  zone: TimeZone.optional().describe('your own where nothing is said'),
  priority: Priority.optional(),
  progress: z.int().min(0).max(100).optional(),
  notes: Notes.optional(),
  checklist: z.array(CheckItem).max(100).optional(),
  reminders: z.array(Reminder).max(10).optional().describe('the day before at 08:00 where nothing is said'),
  watchers: z.array(Id).max(20).optional(),
  repeat: Repeat.nullish(),
  place: z.string().trim().max(300).optional(),
  isInviting: z
    .boolean()
    .optional()
    .describe('whoever comes is invited by mail, told of changes, and answers from their calendar'),
};
export const TaskInput = z.object({
  title: Line(300),
  kind: MoveKind.default('task'),
  dueAt: Moment,
  allDay: z.boolean().default(true),
  endAt: Moment.nullish().describe('where it ends; of whole days, when the day after the last begins'),
  assigneeId: Id.optional(),
  ...About,
  ...Details,
  people: z.array(WantedPerson).max(100).optional().describe('who comes, besides whoever does it'),
  entryId: Id.nullish().describe('the entry of the ledger whose words asked for it'),
  asked: z.string().trim().max(1000).nullish().describe('the sentence that asked for it'),
});
export const TaskKind = z.object({ id: Id, name: z.string(), actsAs: MoveKind });
export type TaskKind = z.infer<typeof TaskKind>;

const Handed = z.object({ tasks: z.int(), leads: z.int() });
export const Handover = z.object({
  id: Id,
  from: Named,
  to: Named,
  givenBy: z.string(),
  givenAt: Time,
  backOn: z.string().nullable(),
  returnedAt: Time.nullable(),
  ...Handed.shape,
});
export type Handover = z.infer<typeof Handover>;

export const taskRoutes = routes({
  'GET /api/tasks': {
    summary: 'Open tasks, overdue first',
    tag: 'tasks',
    right: 'tasks.see',
    query: Page.extend({ assignee: z.union([Id, z.literal('all')]).optional() }),
    reply: z.object({
      items: z.array(Task),
      next: z.string().nullable(),
      total: z.int().describe(COUNTED),
    }),
  },
  'GET /api/tasks/delegated': {
    summary: 'What you gave to others: open by when it is due, or done in the last thirty days, newest first',
    tag: 'tasks',
    right: 'tasks.see',
    query: Page.extend({ state: z.enum(['open', 'done']).default('open') }),
    reply: z.object({ items: z.array(Task), next: z.string().nullable() }),
  },
  'POST /api/tasks': {
    summary: 'Set a task',
    tag: 'tasks',
    body: TaskInput,
    reply: Done.extend({ task: Task }),
    status: 201,
  },
  'GET /api/tasks/:id': {
    summary: 'One task with all that belongs to it',
    tag: 'tasks',
    right: 'tasks.see',
    params: IdParam,
    reply: TaskDetail,
  },
  'PATCH /api/tasks/:id': {
    summary: 'Change a task, give it to somebody, or mark it done; one that repeats comes again then',
    tag: 'tasks',
    params: IdParam,
    body: z.object({
      version: Version.optional(),
      title: Line(300).optional(),
      kind: MoveKind.optional(),
      dueAt: Moment.optional(),
      allDay: z.boolean().optional(),
      endAt: Moment.nullish(),
      assigneeId: Id.optional(),
      ...About,
      ...Details,
      people: z.array(WantedPerson).max(100).optional(),
      done: z.boolean().optional(),
    }),
    reply: Done.extend({ task: Task }),
  },
  'DELETE /api/tasks/:id': {
    summary: 'Remove a task',
    tag: 'tasks',
    params: IdParam,
    reply: Done,
  },
  'POST /api/tasks/:id/decline': {
    summary: 'Decline a task that was given to you; it goes back to whoever gave it',
    tag: 'tasks',
    params: IdParam,
    body: z.object({ why: Line(500) }),
    reply: Done.extend({ task: Task }),
  },
  'POST /api/tasks/:id/reminder': {
    summary: 'Remind whoever does it of a task that you gave, at most once an hour',
    tag: 'tasks',
    params: IdParam,
    body: z.object({}),
    reply: Done,
  },
  'POST /api/tasks/:id/messages': {
    summary: 'Say something about a task to whoever has to do with it',
    tag: 'tasks',
    status: 201,
    params: IdParam,
    body: z.object({ words: z.string().trim().min(1).max(5000) }),
    reply: Done.extend({ id: Id }),
  },
  'GET /api/task-kinds': {
    summary: 'The kinds of tasks of your organisation’s own',
    tag: 'tasks',
    reply: z.object({ items: z.array(TaskKind) }),
  },
  'POST /api/task-kinds': {
    summary: 'Add a kind of task',
    tag: 'tasks',
    status: 201,
    right: 'settings.organisation',
    body: z.object({ name: Line(60), actsAs: MoveKind.default('task') }),
    reply: Done.extend({ id: Id }),
  },
  'DELETE /api/task-kinds/:id': {
    summary: 'Offer a kind of task no longer; tasks of it keep it',
    tag: 'tasks',
    params: IdParam,
    right: 'settings.organisation',
    reply: Done,
  },
  'GET /api/handovers': {
    summary: 'Work that was handed over and has not come back',
    tag: 'tasks',
    reply: z.object({ items: z.array(Handover) }),
  },
  'GET /api/handovers/preview': {
    summary: 'What would be handed over: a colleague’s open tasks and leads',
    tag: 'tasks',
    query: z.object({ from: Id }),
    reply: Handed.extend({
      first: z
        .array(z.object({ kind: z.enum(['task', 'lead']), id: Id, name: z.string() }))
        .describe('the first twenty of each'),
    }),
  },
  'POST /api/handovers': {
    summary: 'Hand over the open tasks and leads of somebody who is away, in one step',
    tag: 'tasks',
    status: 201,
    body: z.object({
      fromId: Id.describe('yourself; managers and admins may hand over anybody’s work'),
      toId: Id,
      backOn: Day.nullish().describe('when all of it comes back'),
      tasks: z.boolean().default(true),
      leads: z.boolean().default(true),
    }),
    reply: Done.extend({ handover: Handover }),
  },
  'POST /api/handovers/:id/return': {
    summary: 'Give back what is still open of the work that was handed over',
    tag: 'tasks',
    params: IdParam,
    body: z.object({}),
    reply: Done.extend({ handover: Handover }),
  },
});
