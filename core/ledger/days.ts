import type { DateTime } from 'luxon';

/** The next working day (Monday to Friday) at local midnight. */
export function nextWorkingDay(now: DateTime): DateTime {
  let day = now.startOf('day').plus({ days: 1 });
  while (day.weekday > 5) day = day.plus({ days: 1 });
  return day;
}
