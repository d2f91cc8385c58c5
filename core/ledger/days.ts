import type { DateTime } from 'luxon';

/** The next working day (Monday to Friday) at local midnight. */
export function nextWorkingDay(now: DateTime): DateTime {
  let day = now.startOf('day').plus({ days: 1 });
  while (day.weekday > 5) day = day.plus({ days: 1 });
  return day;
}

/** The start of the day so many working days on (Monday to Friday); none is today. */
export function workingDaysOn(now: DateTime, days: number): DateTime {
  let day = now.startOf('day');
  for (let left = days; left > 0; left--) day = nextWorkingDay(day);
  return day;
}
