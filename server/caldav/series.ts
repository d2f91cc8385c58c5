import { isSameFacts } from '@emporikon/core/calendar/mergeFacts';
import { occurrenceOn, type CalendarObject, type Occurrence } from '@emporikon/core/formats/calendarObject';
import { DateTime } from 'luxon';
import { Op } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { CaldavEvent, type CaldavObject } from '../db/models/caldav';
import { Task } from '../db/models/tasks';
import { leaveOut, skipOccurrence, splitOccurrence } from '../tasks/series';
import { meet, takeRemoval, takeRule } from './event';
import { endOfFacts, factsOfTask, taskOfFacts, timeName, timeOfName } from './facts';

/** A series of ours in the other calendar: its file, the event that is its open task, and those that are tasks of their own. */
interface Series {
  object: CaldavObject;
  read: CalendarObject;
  series: CaldavEvent;
  events: readonly CaldavEvent[];
}

/** The name of the time at which a series stands here. */
export const currentName = (task: Task): string => timeName(task, task.occursAt ?? task.dueAt);

/**
 * The task that a series is now: the one its event is, or the one that came after that was done. Null where it is over or was
 * removed.
 */
export async function findCurrent(
  context: Context,
  event: CaldavEvent,
  read: CalendarObject,
): Promise<Task | null> {
  const { tx } = context;
  const known = await Task.findByPk(event.taskId, { transaction: tx, lock: true });
  if (known && !known.doneAt) return known;
  const next = await Task.findOne({
    where: { seriesId: event.seriesId ?? '', doneAt: null, repeat: { [Op.ne]: null } },
    transaction: tx,
    lock: true,
  });
  if (!next) return null;
  const base = occurrenceOn(read, currentName(next))?.facts ?? factsOfTask(next, null);
  await event.update({ taskId: next.id, base, clash: null }, { transaction: tx });
  return next;
}

/** A series that was moved there as a whole is moved here: its rule has all its times so much later or earlier. */
async function moveSeries(context: Context, { read, series, events }: Series, task: Task): Promise<void> {
  const { tx } = context;
  const [was, now] = [series.anchor ?? '', read.first.facts.start];
  if (was === now || !task.firstAt || !task.occursAt) return;
  const { zone } = task;
  const [from, to] = [was, now].map((iso) => DateTime.fromISO(iso, { zone })) as [DateTime, DateTime];
  const by = to.diff(from, ['days', 'hours', 'minutes', 'seconds']);
  const moved = (at: Date): Date => DateTime.fromJSDate(at, { zone }).plus(by).toJSDate();
  for (const event of events)
    if (event !== series) {
      const occurrence = timeName(task, moved(timeOfName(task, event.occurrence)));
      if (read.byHand.some(({ at }) => at === occurrence))
        await event.update({ occurrence }, { transaction: tx });
    }
  await context.write.update(task, {
    firstAt: moved(task.firstAt),
    occursAt: moved(task.occursAt),
    leftOut: (task.leftOut ?? []).map(moved),
  });
  await series.update({ anchor: now }, { transaction: tx });
}

/** The time at which it stands does not take place there: the series goes on to its next. */
async function takeSkipped(context: Context, { read, series }: Series, task: Task): Promise<void> {
  const { tx } = context;
  if (!isSameFacts(series.base, factsOfTask(task, series.base)))
    return void (await series.update({ clash: { ...series.base, isGone: true } }, { transaction: tx }));
  if (!(await skipOccurrence(context, task))) return takeRemoval(context, series);
  const base = occurrenceOn(read, currentName(task))?.facts ?? factsOfTask(task, null);
  await series.update({ base }, { transaction: tx });
}

/** A later time that was changed there by itself is a task of its own. */
async function takeChanged(
  context: Context,
  { object, events }: Series,
  task: Task,
  there: Occurrence,
): Promise<void> {
  const { tx } = context;
  const { timeZone } = requireActor(context);
  if (endOfFacts(there.facts, timeZone) <= context.now()) return;
  const event = events.find(({ occurrence }) => occurrence === there.at);
  const own = event && (await Task.findByPk(event.taskId, { transaction: tx, lock: true }));
  if (event && own) return own.doneAt ? undefined : meet(context, event, own, there);
  const occursAt = timeOfName(task, there.at);
  const isLeftOut = (task.leftOut ?? []).some((at) => at.getTime() === occursAt.getTime());
  // Removed here, and not changed there since.
  if (event ? isSameFacts(event.base, there.facts) : isLeftOut) return;
  await event?.destroy({ transaction: tx });
  const zone = there.facts.allDay ? task.zone : timeZone;
  const { id: taskId } = await splitOccurrence(context, task, occursAt, taskOfFacts(there.facts, zone));
  await CaldavEvent.create(
    {
      ...{ id: context.newId(), objectId: object.id, occurrence: there.at, taskId },
      ...{ isOurs: true, base: there.facts },
    },
    { transaction: tx },
  );
}

/** Those that are tasks of their own here and nothing of their own there any more: called off, or as their rule has them again. */
async function takeUnchanged(context: Context, { read, series, events }: Series): Promise<void> {
  const changed = new Set(read.byHand.filter(({ isCancelled }) => !isCancelled).map(({ at }) => at));
  for (const event of events) {
    if (event === series || changed.has(event.occurrence)) continue;
    const there = occurrenceOn(read, event.occurrence);
    const task = await Task.findByPk(event.taskId, { transaction: context.tx, lock: true });
    if (!there) await takeRemoval(context, event);
    else if (task && !task.doneAt) await meet(context, event, task, there);
  }
}

/** What had a time is of whole days now, or the other way: all of it begins anew. */
async function retime(context: Context, { read, series }: Series, task: Task): Promise<void> {
  await meet(context, series, task, read.first);
  if (task.allDay !== read.first.facts.allDay) return;
  const { dueAt } = task;
  await context.write.update(task, { firstAt: dueAt, occursAt: dueAt, leftOut: [] });
  await series.update({ anchor: read.first.facts.start }, { transaction: context.tx });
}

/** Takes the file of a series of ours as it now is. */
export async function takeSeries(context: Context, taken: Series): Promise<void> {
  const { read, series } = taken;
  const task = await findCurrent(context, series, read);
  if (!task) return;
  if (task.seriesId !== series.seriesId) {
    // It repeats otherwise here, which is written there next; what else was changed there is taken.
    const there = series.anchor === series.base.start ? read.first : occurrenceOn(read, series.base.start);
    return there ? meet(context, series, task, there) : undefined;
  }
  if (read.first.facts.allDay !== task.allDay) return retime(context, taken, task);
  await moveSeries(context, taken, task);
  const calledOff = read.byHand.flatMap(({ at, isCancelled }) => (isCancelled ? [at] : []));
  const later = (name: string): boolean => name > currentName(task);
  const hasTask = (name: string): boolean =>
    taken.events.some((event) => event !== series && event.occurrence === name);
  await leaveOut(
    context,
    task,
    [...read.leftOut, ...calledOff].filter(later).map((name) => timeOfName(task, name)),
  );
  const there = occurrenceOn(read, currentName(task));
  if (there) await meet(context, series, task, there);
  else await takeSkipped(context, taken, task);
  for (const changed of read.byHand)
    if (!changed.isCancelled && (later(changed.at) || hasTask(changed.at)))
      await takeChanged(context, taken, task, changed);
  await takeUnchanged(context, taken);
  if (there) await takeRule(context, series, task, read.rule);
}
