import type { Task as TaskView } from '@emporikon/contract/tasks';
import { rankRound } from '@emporikon/core/ledger/round';
import { requireActor, type Context } from '../commands/context';
import { Task } from '../db/models/deals';
import { LedgerEntry, LedgerLink } from '../db/models/ledger';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { endOf } from './ends';
import { openTasks, taskById } from './queries';

async function shown(context: Context, id: string): Promise<TaskView> {
  const task = await taskById(context, id);
  if (!task) throw notFound('There is no such next move.');
  return task;
}

/**
 * A call or meeting that was done is something that happened: it goes into the ledger of all it concerns. A mail that was
 * to be sent is noted as done and not as sent: the mail itself enters the ledger when it is.
 */
async function enterDone(context: Context, task: Task): Promise<void> {
  if (task.kind === 'task' || !(task.personId || task.companyId || task.leadId || task.dealId)) return;
  const entry = await context.write.insert(LedgerEntry, {
    id: context.newId(),
    at: context.now(),
    ...(task.kind === 'mail'
      ? ({ side: 'within', kind: 'note', headline: `Done: ${task.title}` } as const)
      : ({ side: 'ours', kind: task.kind, headline: task.title } as const)),
    body: '',
    asks: [],
    captureId: null,
    actorId: requireActor(context).id,
    createdAt: context.now(),
  });
  for (const key of ['personId', 'companyId', 'leadId', 'dealId'] as const) {
    if (task[key])
      await context.write.insert(LedgerLink, {
        id: context.newId(),
        entryId: entry.id,
        personId: null,
        companyId: null,
        leadId: null,
        dealId: null,
        [key]: task[key],
      });
  }
}

/** It lasts as long as it did, at its new time. */
function moved(task: Task, dueAt: Date): { dueAt: Date; endsAt?: Date } {
  const lasts = task.endsAt ? task.endsAt.getTime() - task.dueAt.getTime() : 0;
  return { dueAt, ...(lasts ? { endsAt: new Date(dueAt.getTime() + lasts) } : {}) };
}

export const taskHandlers: Handlers = {
  'GET /api/tasks': async ({ query, context }) => {
    const assignee = query.assignee === 'all' ? null : (query.assignee ?? requireActor(context).id);
    return {
      items: rankRound(
        await openTasks(context, assignee),
        context.now().toISOString(),
        requireActor(context).timeZone,
      ),
    };
  },
  'POST /api/tasks': async ({ body, context }) => {
    const actor = requireActor(context);
    const task = await context.write.insert(Task, {
      id: context.newId(),
      title: body.title,
      kind: body.kind,
      dueAt: new Date(body.dueAt),
      allDay: body.allDay,
      endsAt: endOf(body),
      assigneeId: body.assigneeId ?? actor.id,
      personId: body.personId ?? null,
      companyId: body.companyId ?? null,
      leadId: body.leadId ?? null,
      dealId: body.dealId ?? null,
      createdBy: actor.id,
      createdAt: context.now(),
    });
    const eventId = await context.write.event('set next move', `Set “${task.title}”`, actor.id);
    return { eventId, task: await shown(context, task.id) };
  },
  'PATCH /api/tasks/:id': async ({ params, body, context }) => {
    const task = await Task.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!task) throw notFound('There is no such next move.');
    const { version, done, dueAt, ...patch } = body;
    const finishing = done === true && !task.doneAt;
    await context.write.update(
      task,
      {
        ...patch,
        ...(dueAt ? moved(task, new Date(dueAt)) : {}),
        ...(patch.allDay ? { endsAt: null } : {}),
        ...(done === undefined ? {} : { doneAt: done ? (task.doneAt ?? context.now()) : null }),
      },
      version,
    );
    if (finishing) await enterDone(context, task);
    const eventId = await context.write.event(
      finishing ? 'finish next move' : 'change next move',
      `${finishing ? 'Done' : 'Changed'}: ${task.title}`,
      requireActor(context).id,
    );
    return { eventId, task: await shown(context, task.id) };
  },
};
