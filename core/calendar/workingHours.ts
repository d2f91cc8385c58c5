import type { DateTime } from 'luxon';
import { isWorkingDay, MONDAY_TO_FRIDAY, nextWorkingDay, type FreeDays } from './workingDays';

/** The hours in which somebody works on a working day, HH:MM on their own clock. */
export interface WorkingHours {
  from: string;
  until: string;
}
export const NINE_TO_FIVE: WorkingHours = { from: '09:00', until: '17:00' };

const at = (day: DateTime, time: string): DateTime => {
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  return day.startOf('day').set({ hour, minute });
};

/**
 * The moment after so many hours of work: what is left of today counts, nights, weekends and free days do not.
 * @param from in the zone of whoever works
 * @param hours more than none
 */
export function workingHoursOn(
  from: DateTime,
  hours: number,
  { from: begins, until: ends }: WorkingHours = NINE_TO_FIVE,
  free: FreeDays = MONDAY_TO_FRIDAY,
): DateTime {
  let left = hours * 60;
  let day = isWorkingDay(from, free) && from < at(from, ends) ? from : at(nextWorkingDay(from, free), begins);
  if (day < at(day, begins)) day = at(day, begins);
  for (;;) {
    const rest = at(day, ends).diff(day, 'minutes').minutes;
    if (left <= rest || rest <= 0) return day.plus({ minutes: left });
    left -= rest;
    day = at(nextWorkingDay(day, free), begins);
  }
}
