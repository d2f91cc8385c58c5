import type { DateTime } from 'luxon';

const OPENS = 8;
const CLOSES = 18;

const isWorkday = (day: DateTime): boolean => day.weekday <= 5;

/**
 * A moment in working hours, Monday to Friday, eight to six, so that a demo loaded at night tells of calls by day. What
 * came earlier stays earlier: the day is drawn together to end at five, and nights and weekends fall into the hour after.
 */
export function officeTime(moment: DateTime): DateTime {
  const opening = moment.set({ hour: OPENS, minute: 0, second: 0, millisecond: 0 });
  if (isWorkday(moment) && moment.hour >= OPENS && moment.hour < CLOSES)
    return opening.plus({ minutes: Math.floor(moment.diff(opening).as('minutes') * 0.9) });
  let closed = opening.set({ hour: CLOSES }).minus({ days: moment.hour < OPENS ? 1 : 0 });
  while (!isWorkday(closed)) closed = closed.minus({ days: 1 });
  let opens = closed.plus({ days: 1 }).set({ hour: OPENS });
  while (!isWorkday(opens)) opens = opens.plus({ days: 1 });
  const share = moment.diff(closed).toMillis() / opens.diff(closed).toMillis();
  return closed.minus({ minutes: Math.ceil(60 * (1 - share)) });
}

/** A day so many days from another, moved on (or back, for days gone) to one on which people work. */
export function workday(from: DateTime, days: number): DateTime {
  let at = from.plus({ days });
  while (!isWorkday(at)) at = at.plus({ days: days > 0 ? 1 : -1 });
  return at;
}

/** On whose clock the firm works. */
export const ZONE = 'Europe/London';

/** The start of the day so many working days from another, before or after. */
export function officeDay(from: DateTime, days: number): DateTime {
  let day = from.startOf('day');
  for (let left = Math.abs(days); left > 0; left -= isWorkday(day) ? 1 : 0)
    day = day.plus({ days: Math.sign(days) });
  return day;
}
