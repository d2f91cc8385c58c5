import { ruleFrom } from '@emporikon/core/calendar/recurrence';
import { durationOf } from '@emporikon/core/calendar/repeat';
import {
  occurrenceOn,
  readObject,
  type CalendarObject,
  type EventFacts,
} from '@emporikon/core/formats/calendarObject';
import { withFacts, withoutOccurrence, withSeriesEnd } from '@emporikon/core/formats/writeCalendarObject';
import { DateTime } from 'luxon';
import type { Context } from '../commands/context';
import { CaldavEvent, type CaldavObject } from '../db/models/caldav';
import { Task } from '../db/models/tasks';
import { endMovedTo } from '../tasks/ends';
import { factsOfTask, seriesSpanAt, timeName } from './facts';
import { currentName } from './series';

/** A task of its own that a later time of a series is. */
interface Own {
  task: Task;
  at: string;
  facts: EventFacts;
}

interface Said {
  stamp: string;
  zone: string;
}

/** The rule by which a task also repeats in other programs, from where it stands; one that counts from when it was done is nothing they know. */
export function ruleOf({ repeat, doneAt, firstAt, occursAt, zone }: Task): string | null {
  if (!repeat || doneAt || durationOf(repeat)) return null;
  if (!firstAt || !occursAt) return repeat;
  const start = DateTime.fromJSDate(firstAt, { zone }).toFormat("yyyy-MM-dd'T'HH:mm:ss");
  return ruleFrom({ rule: repeat, start, zone }, DateTime.fromJSDate(occursAt, { zone }));
}

/** What a task says as an event at the time that its rule has it. */
export function factsByRule(task: Task): EventFacts {
  const { occursAt, dueAt, kind, title, place, notes, allDay, zone, endsAt } = task;
  if (!occursAt || occursAt.getTime() === dueAt.getTime()) return factsOfTask(task, null);
  const at = { kind, title, place, notes, allDay, zone, dueAt: occursAt };
  return factsOfTask(
    Task.build({ ...at, endsAt: endMovedTo(occursAt, { dueAt, endsAt, allDay, zone }) } as Task),
    null,
  );
}

/** The tasks of their own that later times of a series are. */
const ownTasks = (context: Context, task: Task): Promise<Task[]> =>
  Task.findAll({
    where: { seriesId: task.seriesId ?? '', repeat: null, doneAt: null },
    transaction: context.tx,
  });

/**
 * The file of a series with what is otherwise at its later times here: left out, or tasks of their own.
 * @returns the file, and those of the tasks that are new in it
 */
export async function withExceptions(
  context: Context,
  raw: string,
  task: Task,
  known: ReadonlySet<string>,
  said: Said,
): Promise<{ raw: string; own: Own[] }> {
  const own = new Map(
    (await ownTasks(context, task)).map((one) => [timeName(task, one.occursAt ?? one.dueAt), one]),
  );
  const added: Own[] = [];
  let file = raw;
  for (const time of task.leftOut ?? []) {
    const at = timeName(task, time);
    const read = readObject(file, task.zone, seriesSpanAt(context.now()));
    const usual = read && occurrenceOn(read, at);
    const split = own.get(at);
    if (!usual || known.has(at) || time < context.now()) continue;
    const facts = split ? factsOfTask(split, null) : null;
    file =
      (facts ? withFacts(file, at, usual.facts, facts, said) : withoutOccurrence(file, at, said)) ?? file;
    if (split && facts) added.push({ task: split, at, facts });
  }
  return { raw: file, own: added };
}

const lengthOf = ({ start, end }: EventFacts): number => Date.parse(end) - Date.parse(start);
const endAfter = ({ start, allDay }: EventFacts, ms: number): string => {
  const end = new Date(Date.parse(start) + ms).toISOString();
  return allDay ? end.slice(0, 10) : end;
};

/** The file of a series in which its task is what it is here: its words and length at all its times, another time at this one only. */
function withCurrent(
  raw: string,
  read: CalendarObject,
  at: string,
  base: EventFacts,
  facts: EventFacts,
  said: Said,
): string {
  const { first } = read;
  const { title, place, notes } = facts;
  const lasts = lengthOf(facts);
  const all = { ...first.facts, title, place, notes };
  const master = lasts === lengthOf(base) ? all : { ...all, end: endAfter(first.facts, lasts) };
  const differs = (Object.keys(all) as (keyof EventFacts)[]).some((key) => master[key] !== first.facts[key]);
  const hasOwnWords = title !== base.title || place !== base.place || notes !== base.notes;
  let file = raw;
  if (differs && (hasOwnWords || lasts !== lengthOf(base)))
    file = withFacts(file, '', first.facts, master, said) ?? file;
  const isByHand = read.byHand.some((changed) => changed.at === at);
  if (isByHand || facts.start !== base.start) file = withFacts(file, at, base, facts, said) ?? file;
  return file;
}

/** Another way of writing a file than as it is, and what is noted once it was taken. */
export interface Rewrite {
  kind: 'rewrite';
  object: CaldavObject;
  raw: string;
  /** The tasks of their own that are new in it. */
  own: Own[];
  settle: (context: Context) => Promise<void>;
}

/** A series that is over here, or goes on otherwise, ends in its file where it stands; what was before stays. */
export function endSeries(object: CaldavObject, event: CaldavEvent, at: string, said: Said): Rewrite | null {
  const raw = withSeriesEnd(object.raw, at, said);
  if (!raw) return null;
  return {
    kind: 'rewrite',
    object,
    raw,
    own: [],
    async settle({ tx }) {
      const past = await Task.findAll({ where: { seriesId: event.seriesId ?? '' }, transaction: tx });
      const over = past.find(({ doneAt }) => doneAt);
      await CaldavEvent.destroy({ where: { objectId: object.id }, transaction: tx });
      if (!over) return;
      const { id, base } = event;
      await CaldavEvent.create(
        { id, objectId: object.id, occurrence: '', taskId: over.id, isOurs: true, base },
        { transaction: tx },
      );
    },
  };
}

/** What of a series the other calendar does not have yet, or has otherwise. */
export async function planSeries(
  context: Context,
  object: CaldavObject,
  event: CaldavEvent,
  task: Task,
  known: ReadonlySet<string>,
  said: Said,
): Promise<Rewrite | null> {
  const read = readObject(object.raw, said.zone, seriesSpanAt(context.now()));
  if (!read || event.clash) return null;
  const facts = factsOfTask(task, event.base);
  const current = withCurrent(object.raw, read, currentName(task), event.base, facts, said);
  const { raw, own } = await withExceptions(context, current, task, known, said);
  if (raw === object.raw) return null;
  return {
    kind: 'rewrite',
    object,
    raw,
    own,
    async settle({ tx, newId }) {
      await event.update({ base: facts }, { transaction: tx });
      for (const { task: split, at, facts: base } of own)
        await CaldavEvent.create(
          { id: newId(), objectId: object.id, occurrence: at, taskId: split.id, isOurs: true, base },
          { transaction: tx },
        );
    },
  };
}
