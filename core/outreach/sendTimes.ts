import type { DateTime } from 'luxon';
import { NINE_TO_FIVE, type WorkingHours } from '../calendar/workingHours';
import { isWorkingDay, MONDAY_TO_FRIDAY, nextWorkingDay, type FreeDays } from '../calendar/workingDays';

/** A moment at which a letter could go out. */
export interface SendTime {
  name: 'next hour' | 'morning' | 'monday';
  at: DateTime;
}

const onTheHour = (day: DateTime, time: string): DateTime => {
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  return day.startOf('day').set({ hour, minute });
};

/**
 * When a letter could go out so that it arrives while they work, earliest first: later today where their day is not over, the next
 * working morning, and the next Monday that is one.
 * @param now in the zone of whoever gets it
 * @param free their weekend and holidays
 */
export function sendTimes(
  now: DateTime,
  { from, until }: WorkingHours = NINE_TO_FIVE,
  free: FreeDays = MONDAY_TO_FRIDAY,
): SendTime[] {
  const times: SendTime[] = [];
  if (isWorkingDay(now, free)) {
    const begins = onTheHour(now, from);
    const hour = now < begins ? begins : now.plus({ hours: 1 }).startOf('hour');
    if (hour < onTheHour(now, until)) times.push({ name: 'next hour', at: hour });
  }
  const morning = onTheHour(nextWorkingDay(now, free), from);
  times.push({ name: 'morning', at: morning });
  let monday = now.plus({ weeks: 1 }).startOf('week');
  while (!isWorkingDay(monday, free)) monday = nextWorkingDay(monday, free);
  const onMonday = onTheHour(monday, from);
  if (onMonday > morning) times.push({ name: 'monday', at: onMonday });
  return times;
}
