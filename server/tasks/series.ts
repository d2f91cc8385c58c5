import type { Parsed } from '@emporikon/contract';
import { dueAgain, isLaterTime } from '@emporikon/core/calendar/repeat';
import type { DateTime } from 'luxon';
import { freeDaysFor } from '../calendar/free';
import { requireActor, type Context } from '../commands/context';
import { Task } from '../db/models/tasks';
import { invalid } from '../http/problems';
import { copyPeople } from '../meetings/people';
import { endMovedTo, endOf } from './ends';

/** When a series comes after one of its times; null once it is over. */
async function nextOf(
  context: Context,
  task: Task,
  doneAt: Date,
): Promise<{ occursAt: DateTime; dueAt: DateTime } | null> {
  if (!task.repeat || !task.firstAt || !task.occursAt) return null;
  return dueAgain(
    {
      repeat: task.repeat,
      occursAt: task.occursAt.toISOString(),
      firstAt: task.firstAt.toISOString(),
      doneAt: doneAt.toISOString(),
      zone: task.zone,
      leftOut: (task.leftOut ?? []).map((at) => at.toISOString()),
    },
    await freeDaysFor(context, task.assigneeId),
  );
}

/** The columns that say when a task is, once it is due at another time. */
function movedTo(task: Task, dueAt: Date): Pick<Task, 'dueAt' | 'endsAt' | 'startsAt'> {
  const by = dueAt.getTime() - task.dueAt.getTime();
  const startsAt = task.startsAt ? new Date(task.startsAt.getTime() + by) : null;
  return { dueAt, endsAt: endMovedTo(dueAt, task), startsAt };
}

/** The same task once more, with the same people, of whom nobody has answered yet. */
async function addAlike(context: Context, task: Task, otherwise: Partial<Task>): Promise<Task> {
  const { title, kind, kindId, allDay, zone, assigneeId, givenBy, priority, notes, checklist, reminders } =
    task;
  const { watchers, repeat, seriesId, firstAt, personId, companyId, leadId, dealId, createdBy } = task;
  const { visibility, visibleTo, place, isInviting, projectId, caseId, dueAt } = task;
  const again = await context.write.insert(Task, {
    ...{ title, kind, kindId, allDay, zone, assigneeId, givenBy, priority, notes, reminders, watchers },
    ...{ repeat, seriesId, firstAt, personId, companyId, leadId, dealId, createdBy, dueAt },
    ...(visibility ? { visibility, visibleTo } : {}),
    ...{ place, isInviting, projectId, caseId },
    id: context.newId(),
    checklist: (checklist ?? []).map(({ words }) => ({ words, isDone: false })),
    createdAt: context.now(),
    ...otherwise,
  });
  await copyPeople(context, task.id, again.id);
  return again;
}

const leftOutAfter = (task: Task, at: Date): Date[] => (task.leftOut ?? []).filter((one) => one > at);

/** The next of a series, once this one is done. */
export async function addNext(context: Context, task: Task): Promise<void> {
  const next = await nextOf(context, task, context.now());
  if (!next) return;
  const occursAt = next.occursAt.toJSDate();
  const leftOut = leftOutAfter(task, occursAt);
  await addAlike(context, task, { ...movedTo(task, next.dueAt.toJSDate()), occursAt, leftOut });
}

/** Leaves out later times of a series. */
export async function leaveOut(context: Context, task: Task, times: readonly Date[]): Promise<void> {
  const known = new Set((task.leftOut ?? []).map((at) => at.getTime()));
  const added = times.filter((at) => !known.has(at.getTime()));
  if (added.length) await context.write.update(task, { leftOut: [...(task.leftOut ?? []), ...added] });
}

/** @throws 422 for what is no later time of it */
function requireLaterTime(task: Task, at: Date): void {
  const { repeat, firstAt, occursAt, zone, leftOut = [] } = task;
  const isTime =
    repeat &&
    firstAt &&
    occursAt &&
    !task.doneAt &&
    isLaterTime(
      {
        ...{ repeat, zone, occursAt: occursAt.toISOString(), firstAt: firstAt.toISOString() },
        leftOut: leftOut.map((time) => time.toISOString()),
      },
      at.toISOString(),
    );
  if (!isTime)
    throw invalid('The task does not repeat at this time any more. Reload the page.', {
      fields: { at: 'is no later time of it' },
    });
}

/** Puts one later time of a series elsewhere. @throws 422 for what is no later time of it */
export async function moveOccurrence(
  context: Context,
  task: Task,
  { at, dueAt, endAt, allDay = task.allDay }: Parsed<'POST /api/tasks/:id/occurrences', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  const occursAt = new Date(at);
  requireLaterTime(task, occursAt);
  const due = new Date(dueAt);
  const endsAt =
    endAt === undefined && allDay === task.allDay
      ? endMovedTo(due, task)
      : endOf({ dueAt, endAt, allDay, zone: task.zone });
  const { id } = await splitOccurrence(context, task, occursAt, { ...movedTo(task, due), endsAt, allDay });
  const eventId = await context.write.event(
    'move occurrence',
    `Moved one time of “${task.title}”`,
    requireActor(context).id,
  );
  return { id, eventId };
}

/** Leaves out one later time of a series. @throws 422 for what is no later time of it */
export async function omitOccurrence(
  context: Context,
  task: Task,
  at: string,
): Promise<{ eventId: string | null }> {
  requireLaterTime(task, new Date(at));
  await leaveOut(context, task, [new Date(at)]);
  return {
    eventId: await context.write.event(
      'leave out occurrence',
      `Left out one time of “${task.title}”`,
      requireActor(context).id,
    ),
  };
}

/**
 * Makes a later time of a series a task of its own.
 * @param occursAt when its rule has it
 */
export async function splitOccurrence(
  context: Context,
  task: Task,
  occursAt: Date,
  changed: Partial<Task>,
): Promise<Task> {
  await leaveOut(context, task, [occursAt]);
  return addAlike(context, task, {
    ...movedTo(task, occursAt),
    ...changed,
    occursAt,
    repeat: null,
    firstAt: null,
  });
}

/** Goes on to the next time of a series without this one. @returns whether there is one */
export async function skipOccurrence(context: Context, task: Task): Promise<boolean> {
  const next = task.occursAt && (await nextOf(context, task, task.occursAt));
  if (!next) return false;
  const occursAt = next.occursAt.toJSDate();
  const leftOut = leftOutAfter(task, occursAt);
  await context.write.update(task, { ...movedTo(task, next.dueAt.toJSDate()), occursAt, leftOut });
  return true;
}
