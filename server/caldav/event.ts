import { isSameFacts, mergeFacts } from '@emporikon/core/calendar/mergeFacts';
import { isTaskRule } from '@emporikon/core/calendar/recurrence';
import { durationOf } from '@emporikon/core/calendar/repeat';
import type { Occurrence } from '@emporikon/core/formats/calendarObject';
import { requireActor, type Context } from '../commands/context';
import type { CaldavEvent } from '../db/models/caldav';
import { TaskPerson } from '../db/models/meetings';
import { Task } from '../db/models/tasks';
import { factsOfTask, taskOfFacts } from './facts';
import { putAttendees } from './meeting';

/** Brings a task to what both calendars now say. A part that both changed differently stays as it is here, and is shown. */
export async function meet(
  context: Context,
  event: CaldavEvent,
  task: Task,
  there: Occurrence,
): Promise<void> {
  const { tx } = context;
  const here = factsOfTask(task, event.base);
  const { facts, clashes } = mergeFacts(event.base, here, there.facts);
  const zone = task.allDay ? task.zone : requireActor(context).timeZone;
  if (!isSameFacts(facts, here)) await context.write.update(task, taskOfFacts(facts, zone));
  if (!event.isOurs) await putAttendees(context, task, there);
  await event.update(clashes.length ? { clash: there.facts } : { base: there.facts, clash: null }, {
    transaction: tx,
  });
}

/** The rule of one of ours may be changed there; one that a task cannot repeat by is kept there only. */
export async function takeRule(
  context: Context,
  event: CaldavEvent,
  task: Task,
  rule: string | null,
): Promise<void> {
  if (!event.isOurs || rule === event.rule || (task.repeat && durationOf(task.repeat))) return;
  if (rule === null || isTaskRule(rule))
    await context.write.update(task, {
      repeat: rule,
      ...(rule
        ? { seriesId: task.seriesId ?? context.newId(), firstAt: task.dueAt, occursAt: task.dueAt }
        : { seriesId: null, firstAt: null, occursAt: null, leftOut: [] }),
    });
  const { seriesId = null } = task;
  const anchor = seriesId ? (event.anchor ?? event.base.start) : null;
  await event.update({ rule, seriesId, anchor }, { transaction: context.tx });
}

/** A meeting that went from the other calendar goes here, unless it was changed here since: then it is asked. */
export async function takeRemoval(context: Context, event: CaldavEvent): Promise<void> {
  const { tx } = context;
  const actor = requireActor(context);
  const task = await Task.findByPk(event.taskId, { transaction: tx, lock: true });
  if (!task || task.doneAt) return event.destroy({ transaction: tx });
  if (task.assigneeId !== actor.id) {
    const mine = await TaskPerson.findOne({ where: { taskId: task.id, userId: actor.id }, transaction: tx });
    if (mine) await context.write.update(mine, { answer: 'declined', answeredAt: context.now() });
    return event.destroy({ transaction: tx });
  }
  if (!isSameFacts(event.base, factsOfTask(task, event.base)))
    return void (await event.update({ clash: { ...event.base, isGone: true } }, { transaction: tx }));
  await context.write.remove(task);
  await event.destroy({ transaction: tx });
}
