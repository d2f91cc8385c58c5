import type { Task as TaskView } from '@emporikon/contract/tasks';
import { rankRound } from '@emporikon/core/ledger/round';
import { requireActor, type Context } from '../commands/context';
import { Task } from '../db/models/deals';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { enter } from '../ledger/write';
import { addTask } from './add';
import { openTasks, taskById } from './queries';

async function shown(context: Context, id: string): Promise<TaskView> {
  const task = await taskById(context, id);
  if (!task) throw notFound('There is no such next move.');
  return task;
}

/**
 * What was done happened, and goes into the ledger of all it concerns. A mail that was to be sent is entered as done and
 * not as sent: the mail itself enters the ledger when it is.
 */
async function enterDone(context: Context, task: Task): Promise<void> {
  if (!(task.personId || task.companyId || task.leadId || task.dealId)) return;
  if (task.kind === 'mail' || task.kind === 'task')
    await enter(context, { side: 'within', kind: 'task', headline: `Done: ${task.title}` }, task);
  // What was to be said leaves nothing open.
  else await enter(context, { side: 'ours', kind: task.kind, headline: task.title }, task, { text: '' });
}

/** It lasts as long as it did, at its new time. */
function moved(task: Task, dueAt: Date): { dueAt: Date; endsAt?: Date } {
  const lasts = task.endsAt ? task.endsAt.getTime() - task.dueAt.getTime() : 0;
  return { dueAt, ...(lasts ? { endsAt: new Date(dueAt.getTime() + lasts) } : {}) };
}

export const taskHandlers: Handlers = {
  'GET /api/tasks': async ({ query, context }) => {
    const assignee = query.assignee === 'all' ? null : (query.assignee ?? requireActor(context).id);
    const open = await openTasks(context, assignee, query);
    return {
      ...open,
      items: rankRound(open.items, context.now().toISOString(), requireActor(context).timeZone),
    };
  },
  'POST /api/tasks': async ({ body, context }) => {
    const task = await addTask(context, body, body);
    const eventId = await context.write.event(
      'set next move',
      `Set “${task.title}”`,
      requireActor(context).id,
    );
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
