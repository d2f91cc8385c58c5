import { DateTime } from 'luxon';

/** When somebody is reminded: so many days before at an hour, or so many minutes before the time itself. */
export type Reminder = { days: number; at: string } | { minutes: number };

/** The day before at eight in the morning (common practice). */
export const DEFAULT_REMINDERS: readonly Reminder[] = [{ days: 1, at: '08:00' }];

interface Due {
  /** ISO 8601. */
  dueAt: string;
  allDay: boolean;
  /** IANA name of the zone in which its day counts. */
  zone: string;
}

/**
 * When somebody is reminded of a task, on their own clock; a time that a change of the clocks leaves out comes after it. Minutes
 * before a whole day count from nine in the morning, when work begins (common practice).
 * @param theirZone IANA name
 * @returns moments in order, each once
 */
export function reminderTimes(due: Due, reminders: readonly Reminder[], theirZone: string): DateTime[] {
  const day = DateTime.fromISO(due.dueAt, { zone: due.zone });
  // A whole day is the same date for everybody; a time is the same moment.
  const theirs = due.allDay
    ? DateTime.fromObject({ year: day.year, month: day.month, day: day.day }, { zone: theirZone })
    : day.setZone(theirZone);
  const times = reminders.map((reminder) => {
    if ('minutes' in reminder)
      return (due.allDay ? theirs.set({ hour: 9 }) : theirs).minus({ minutes: reminder.minutes });
    const [hour = 8, minute = 0] = reminder.at.split(':').map(Number);
    return theirs.startOf('day').minus({ days: reminder.days }).set({ hour, minute });
  });
  const once = new Map(times.map((time) => [time.toMillis(), time]));
  return [...once.values()].sort((a, b) => a.toMillis() - b.toMillis());
}
