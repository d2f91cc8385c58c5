import type { DateTime } from 'luxon';

/**
 * The working hour nearest before a moment, so that a demo loaded at night tells of calls by day: Monday to Friday,
 * eight to six. The minutes stay.
 */
export function officeTime(moment: DateTime): DateTime {
  let at = moment;
  if (at.hour >= 18) at = at.set({ hour: 9 + (at.hour % 8) });
  else if (at.hour < 8) at = at.minus({ days: 1 }).set({ hour: 9 + at.hour });
  while (at.weekday > 5) at = at.minus({ days: 1 });
  return at;
}

/** A day so many days from another, moved on (or back, for days gone) to one on which people work. */
export function workday(from: DateTime, days: number): DateTime {
  let at = from.plus({ days });
  while (at.weekday > 5) at = at.plus({ days: days > 0 ? 1 : -1 });
  return at;
}
