import { rankRound } from '@emporikon/core/ledger/round';
import { requireActor } from '../commands/context';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { addTask } from './add';
import { changeTask, loadTask } from './change';
import { askAfter, decline, removeTask, say } from './delegate';
import { giveBack, handOver, listHandovers, previewHandover } from './handover';
import { addKind, listKinds, retireKind } from './kinds';
import { delegatedTasks, openTasks, requireTask, taskDetail } from './queries';

export const taskHandlers: Handlers = {
  'GET /api/tasks': async ({ query, context }) => {
    const assignee = query.assignee === 'all' ? null : (query.assignee ?? requireActor(context).id);
    const open = await openTasks(context, assignee, query);
    return {
      ...open,
      items: rankRound(open.items, context.now().toISOString(), requireActor(context).timeZone),
    };
  },
  'GET /api/tasks/delegated': async ({ query, context }) =>
    delegatedTasks(context, requireActor(context).id, query),
  'POST /api/tasks': async ({ body, context }) => {
    const task = await addTask(context, body, body);
    const eventId = await context.write.event(
      'set next move',
      `Set “${task.title}”`,
      requireActor(context).id,
    );
    return { eventId, task: await requireTask(context, task.id) };
  },
  'GET /api/tasks/:id': async ({ params, context }) => {
    const task = await taskDetail(context, params.id);
    if (!task) throw notFound('There is no such task.');
    return task;
  },
  'PATCH /api/tasks/:id': async ({ params, body, context }) => {
    const { version, ...patch } = body;
    const eventId = await changeTask(context, await loadTask(context, params.id), patch, version);
    return { eventId, task: await requireTask(context, params.id) };
  },
  'DELETE /api/tasks/:id': async ({ params, context }) => ({ eventId: await removeTask(context, params.id) }),
  'POST /api/tasks/:id/decline': async ({ params, body, context }) => ({
    eventId: await decline(context, params.id, body.why),
    task: await requireTask(context, params.id),
  }),
  'POST /api/tasks/:id/reminder': async ({ params, context }) => ({
    eventId: await askAfter(context, params.id),
  }),
  'POST /api/tasks/:id/messages': async ({ params, body, context }) => {
    const said = await say(context, params.id, body.words);
    return { id: said?.id ?? params.id, eventId: said?.eventId ?? null };
  },
  'GET /api/task-kinds': async ({ context }) => ({ items: await listKinds(context) }),
  'POST /api/task-kinds': async ({ body, context }) => addKind(context, body),
  'DELETE /api/task-kinds/:id': async ({ params, context }) => ({
    eventId: await retireKind(context, params.id),
  }),
  'GET /api/handovers': async ({ context }) => ({ items: await listHandovers(context) }),
  'GET /api/handovers/preview': async ({ query, context }) => previewHandover(context, query.from),
  'POST /api/handovers': async ({ body, context }) => handOver(context, body),
  'POST /api/handovers/:id/return': async ({ params, context }) => giveBack(context, params.id),
};
