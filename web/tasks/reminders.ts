import type { TaskDetail } from '@emporikon/contract/tasks';

type Reminder = TaskDetail['reminders'][number];

const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? '' : 's'}`;

/** A reminder as a choice of a field holds it: "1 08:00", "30". */
export const keyOf = (reminder: Reminder): string =>
  'minutes' in reminder ? String(reminder.minutes) : `${reminder.days} ${reminder.at}`;

export const reminderOf = (key: string): Reminder => {
  const [first = '0', at] = key.split(' ');
  return at ? { days: Number(first), at } : { minutes: Number(first) };
};

/** "The day before at 08:00", "30 minutes before". */
export function reminderWords(reminder: Reminder): string {
  if ('minutes' in reminder) {
    const { minutes } = reminder;
    if (minutes === 0) return 'At the time';
    return minutes % 60 ? `${counted(minutes, 'minute')} before` : `${counted(minutes / 60, 'hour')} before`;
  }
  const day =
    reminder.days === 0
      ? 'On the day'
      : reminder.days === 1
        ? 'The day before'
        : `${counted(reminder.days, 'day')} before`;
  return `${day} at ${reminder.at}`;
}

const USUAL = ['0 08:00', '1 08:00', '2 08:00', '7 08:00', '0', '10', '30', '60', '120'];

/** What can be chosen: the usual ones, and those of the task. */
export const reminderChoices = (own: readonly Reminder[]): { value: string; title: string }[] =>
  [...new Set([...USUAL, ...own.map(keyOf)])].map((value) => ({
    value,
    title: reminderWords(reminderOf(value)),
  }));
