import type { EventFacts, Span } from '@emporikon/core/formats/calendarObject';
import { DateTime } from 'luxon';
import type { Task } from '../db/models/tasks';
import { datesOf, endsAtOf } from '../meetings/facts';
import { endAfterDays, lengthInDays } from '../tasks/ends';

/** What is over for longer is left alone; what is further ahead is not laid out. */
const [DAYS_BACK, DAYS_ON, SERIES_DAYS_ON] = [2, 366, 60];

/** The stretch of a calendar that is kept in step. */
export const spanAt = (now: Date): Span => ({
  from: DateTime.fromJSDate(now).minus({ days: DAYS_BACK }).toUTC().toISO() ?? '',
  until: DateTime.fromJSDate(now).plus({ days: DAYS_ON }).toUTC().toISO() ?? '',
});
/** The stretch for which each occurrence of a series is a meeting of its own. */
export const seriesSpanAt = (now: Date): Span => ({
  ...spanAt(now),
  until: DateTime.fromJSDate(now).plus({ days: SERIES_DAYS_ON }).toUTC().toISO() ?? '',
});

/**
 * What a task says as an event.
 * @param base says whether it is a moment, which a task does not know
 */
export function factsOfTask(task: Task, base: EventFacts | null): EventFacts {
  const { title, place = '', notes = '', allDay } = task;
  const said = { title: title.slice(0, 300), place: place.trim(), notes: notes.trim(), allDay };
  if (!allDay) {
    // A moment there stays one here, although here it takes as long as its kind usually does.
    const isMoment = base !== null && !base.allDay && base.start === base.end && !task.endsAt;
    const end = isMoment ? task.dueAt : endsAtOf(task);
    return { ...said, start: task.dueAt.toISOString(), end: end.toISOString() };
  }
  return { ...said, ...datesOf(task) };
}

/** How a time of a series is named in its file: a moment, or a day. */
export const timeName = ({ allDay, zone }: Task, at: Date): string =>
  allDay ? (DateTime.fromJSDate(at, { zone }).toISODate() ?? '') : at.toISOString();

/** The time of a series that a file names. */
export function timeOfName({ allDay, zone, firstAt }: Task, name: string): Date {
  if (!allDay || !firstAt) return new Date(name);
  const { hour, minute, second } = DateTime.fromJSDate(firstAt, { zone });
  return DateTime.fromISO(name, { zone }).set({ hour, minute, second }).toJSDate();
}

/** The columns of a task that an event says. */
export function taskOfFacts(
  { title, place, notes, start, end, allDay }: EventFacts,
  zone: string,
): Pick<Task, 'title' | 'place' | 'notes' | 'dueAt' | 'endsAt' | 'allDay'> {
  const [dueAt, ends] = [start, end].map((iso) => DateTime.fromISO(iso, { zone }).toJSDate()) as [Date, Date];
  const timed = ends > dueAt ? ends : null;
  const endsAt = allDay ? endAfterDays(dueAt, lengthInDays({ dueAt, endsAt: timed, zone }), zone) : timed;
  return { title, place, notes, allDay, dueAt, endsAt };
}

/** When an event is over. */
export const endOfFacts = ({ end }: EventFacts, zone: string): Date =>
  DateTime.fromISO(end, { zone }).toJSDate();
