import type { DateTime } from 'luxon';

/** When nobody works: the days of the weekend (ISO 8601, Monday is 1), and single days (YYYY-MM-DD) by what they are. */
export interface FreeDays {
  weekend: readonly number[];
  closed: ReadonlyMap<string, string>;
}

/** Monday to Friday, and no holidays. */
export const MONDAY_TO_FRIDAY: FreeDays = { weekend: [6, 7], closed: new Map() };

/** A year in which every day is free is no calendar; nobody looks further than this for a working day. */
const FURTHEST = 366;

export const isWorkingDay = (day: DateTime, { weekend, closed }: FreeDays): boolean =>
  !weekend.includes(day.weekday) && !closed.has(day.toISODate() ?? '');

function stepToWorkingDay(from: DateTime, step: 1 | -1, free: FreeDays): DateTime {
  let day = from;
  for (let steps = 0; steps < FURTHEST && !isWorkingDay(day, free); steps++) day = day.plus({ days: step });
  return day;
}

/** The day itself where it is a working day, or else the first one after it; at local midnight. */
export const workingDayFrom = (day: DateTime, free = MONDAY_TO_FRIDAY): DateTime =>
  stepToWorkingDay(day.startOf('day'), 1, free);

/** The day itself where it is a working day, or else the last one before it; at local midnight. */
export const workingDayUntil = (day: DateTime, free = MONDAY_TO_FRIDAY): DateTime =>
  stepToWorkingDay(day.startOf('day'), -1, free);

/** The next working day after this one, at local midnight. */
export const nextWorkingDay = (now: DateTime, free = MONDAY_TO_FRIDAY): DateTime =>
  workingDayFrom(now.startOf('day').plus({ days: 1 }), free);

/** The start of the day so many working days on; none is today. */
export function workingDaysOn(now: DateTime, days: number, free = MONDAY_TO_FRIDAY): DateTime {
  let day = now.startOf('day');
  for (let left = days; left > 0; left--) day = nextWorkingDay(day, free);
  return day;
}

/** The last working day of the week, month, quarter or year a day is in. */
export const lastWorkingDayOf = (
  day: DateTime,
  unit: 'week' | 'month' | 'quarter' | 'year',
  free = MONDAY_TO_FRIDAY,
): DateTime => workingDayUntil(day.endOf(unit), free);
