import type { EventFacts, Span } from '@emporikon/core/formats/calendarObject';
import { DateTime } from 'luxon';
import type { Task } from '../db/models/tasks';
import { endsAtOf } from '../meetings/facts';

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

const lengthInDays = ({ start, end }: EventFacts): number =>
  Math.max(1, Math.round(DateTime.fromISO(end).diff(DateTime.fromISO(start), 'days').days));

/**
 * What a task says as an event.
 * @param base says how many days one of whole days takes, which a task does not know
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
  const day = DateTime.fromJSDate(task.dueAt, { zone: task.zone }).startOf('day');
  const end = day.plus({ days: base?.allDay ? lengthInDays(base) : 1 });
  return { ...said, start: day.toISODate() ?? '', end: end.toISODate() ?? '' };
}

/** The columns of a task that an event says. */
export function taskOfFacts(
  { title, place, notes, start, end, allDay }: EventFacts,
  zone: string,
): Pick<Task, 'title' | 'place' | 'notes' | 'dueAt' | 'endsAt' | 'allDay'> {
  const dueAt = DateTime.fromISO(start, { zone }).toJSDate();
  return { title, place, notes, allDay, dueAt, endsAt: allDay || end <= start ? null : new Date(end) };
}

/** When an event is over. */
export const endOfFacts = ({ end }: EventFacts, zone: string): Date =>
  DateTime.fromISO(end, { zone }).toJSDate();
