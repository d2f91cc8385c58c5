import { z } from 'zod';
import { MoveKind } from './moves';
import { COUNTED, Done, Id, IdParam, Line, Named, Page, routes, Time, Version } from './common';

export const Task = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  kind: MoveKind,
  dueAt: Time,
  allDay: z.boolean(),
  endAt: Time.nullable(),
  assignee: Named,
  doneAt: Time.nullable(),
  person: Named.nullable(),
  company: Named.nullable(),
  lead: Named.nullable(),
  deal: Named.nullable(),
  state: z.enum(['overdue', 'today', 'later']),
});
export type Task = z.infer<typeof Task>;
export const TaskInput = z.object({
  title: Line(300),
  kind: MoveKind.default('task'),
  dueAt: z.iso.datetime({ offset: true }),
  allDay: z.boolean().default(true),
  endAt: z.iso.datetime({ offset: true }).nullish().describe('where a time from and to is set'),
  assigneeId: Id.optional(),
  personId: Id.nullish(),
  companyId: Id.nullish(),
  leadId: Id.nullish(),
  dealId: Id.nullish(),
});
export const taskRoutes = routes({
  'GET /api/tasks': {
    summary: 'The round: open next moves, overdue first',
    tag: 'tasks',
    query: Page.extend({ assignee: z.union([Id, z.literal('all')]).optional() }),
    reply: z.object({
      items: z.array(Task),
      next: z.string().nullable(),
      total: z.int().describe(COUNTED),
    }),
  },
  'POST /api/tasks': {
    summary: 'Set a next move',
    tag: 'tasks',
    body: TaskInput,
    reply: Done.extend({ task: Task }),
    status: 201,
  },
  'PATCH /api/tasks/:id': {
    summary: 'Change a next move, or mark it done',
    tag: 'tasks',
    params: IdParam,
    body: z.object({
      version: Version.optional(),
      title: Line(300).optional(),
      dueAt: z.iso.datetime({ offset: true }).optional(),
      allDay: z.boolean().optional(),
      assigneeId: Id.optional(),
      done: z.boolean().optional(),
    }),
    reply: Done.extend({ task: Task }),
  },
});
