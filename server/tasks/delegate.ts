import { fileRowsOf } from '../files/rows';
import { requireActor, type Context } from '../commands/context';
import type { Task } from '../db/models/tasks';
import { TaskPerson } from '../db/models/meetings';
import { TaskMessage } from '../db/models/tasks';
import { conflict, forbidden } from '../http/problems';
import { loadTask } from './change';

const HOUR_MS = 3_600_000;

/** Gives a task back to whoever gave it, with the reason. @throws 403 for what is somebody else's, 409 for what nobody gave */
export async function decline(context: Context, id: string, why: string): Promise<string | null> {
  const actor = requireActor(context);
  const task = await loadTask(context, id);
  if (task.assigneeId !== actor.id) throw forbidden('This task is not yours to decline.');
  if (!task.givenBy || task.givenBy === actor.id)
    throw conflict('Nobody gave you this task. Move it or give it to somebody else instead.');
  if (task.doneAt) throw conflict('This task is done.');
  await context.write.update(task, {
    assigneeId: task.givenBy,
    givenBy: null,
    declined: { by: actor.id, at: context.now().toISOString(), why },
  });
  return context.write.event('decline task', `Declined: ${task.title}`, actor.id);
}

/** Reminds whoever does it. @throws 403 where somebody else gave it, 409 where it is done or was asked after just now */
export async function askAfter(context: Context, id: string): Promise<string | null> {
  const actor = requireActor(context);
  const task = await loadTask(context, id);
  if ((task.givenBy ?? task.createdBy) !== actor.id || task.assigneeId === actor.id)
    throw forbidden('Only whoever gave a task to somebody reminds them of it.');
  if (task.doneAt) throw conflict('This task is done.');
  if (task.askedAfterAt && context.now().getTime() - task.askedAfterAt.getTime() < HOUR_MS)
    throw conflict('You reminded them within the last hour.');
  await context.write.update(task, { askedAfterAt: context.now() });
  return context.write.event('ask after task', `Reminded of ${task.title}`, actor.id);
}

/**
 * Says something about a task.
 * @param messageId of the mail it came by; the same mail is one message
 * @returns the message and the event; null where this mail was taken before
 */
export async function say(
  context: Context,
  id: string,
  words: string,
  messageId: string | null = null,
): Promise<{ id: string; eventId: string | null } | null> {
  const actor = requireActor(context);
  const task = await loadTask(context, id);
  if (messageId && (await TaskMessage.findOne({ where: { messageId }, transaction: context.tx })))
    return null;
  const message = await context.write.insert(TaskMessage, {
    id: context.newId(),
    taskId: task.id,
    userId: actor.id,
    at: context.now(),
    words,
    messageId,
  });
  const eventId = await context.write.event('say about task', `Wrote about ${task.title}`, actor.id);
  return { id: message.id, eventId };
}

/** Removes a task with all that was said about it, its files and who comes, so that undoing it brings all of it back. */
export const removeTask = async (context: Context, id: string): Promise<string | null> => {
  const task: Task = await loadTask(context, id);
  const parts = [
    ...(await TaskMessage.findAll({ where: { taskId: id }, transaction: context.tx })),
    ...(await TaskPerson.findAll({ where: { taskId: id }, transaction: context.tx })),
    ...(await fileRowsOf(context, { taskId: id })),
  ];
  for (const part of parts) await context.write.remove(part);
  await context.write.remove(task);
  return context.write.event('remove task', `Removed ${task.title}`, requireActor(context).id);
};
