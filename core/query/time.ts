import { DateTime } from 'luxon';
import type { Asking, Unit, When } from './types';

/** The day it is for whoever asks (YYYY-MM-DD). */
export const todayOf = ({ now, zone }: Pick<Asking, 'now' | 'zone'>): string =>
  DateTime.fromISO(now, { zone }).toISODate() ?? now.slice(0, 10);

export const FIRST_DAY = '1000-01-01';
const AFTER_ALL = '9999-12-31';
const asDay = (at: DateTime): string => {
  const day = at.toISODate() ?? '';
  if (at.year < 1000) return FIRST_DAY;
  return at.year > 9999 ? AFTER_ALL : day;
};

/**
 * The days a stretch holds: the first of them, and the first day after it. Weeks begin on Monday (ISO 8601).
 * @param today YYYY-MM-DD
 */
export function daysOf(when: When, today: string): { from: string; to: string } {
  const now = DateTime.fromISO(today, { zone: 'utc' });
  if ('away' in when) {
    const day = now.plus({ [when.unit]: when.away });
    return { from: asDay(day), to: asDay(day.plus({ day: 1 })) };
  }
  if (!('unit' in when)) {
    const day = DateTime.fromISO(when.day, { zone: 'utc' });
    return { from: when.day, to: asDay(day.plus({ day: 1 })) };
  }
  const within =
    'day' in when ? DateTime.fromISO(when.day, { zone: 'utc' }) : now.plus({ [when.unit]: when.shift });
  const start = within.startOf(when.unit);
  return { from: asDay(start), to: asDay(start.plus({ [when.unit]: 1 })) };
}

/** The instant at which a day begins in a zone, in ISO 8601 (UTC). */
export const startOfDay = (day: string, zone: string): string =>
  DateTime.fromISO(day, { zone }).startOf('day').toUTC().toISO() ?? `${day}T00:00:00.000Z`;

/** The first day of the unit that holds a day. */
export const startOfUnit = (day: string, unit: Unit): string =>
  asDay(DateTime.fromISO(day, { zone: 'utc' }).startOf(unit));

/** The day an instant falls on in a zone. */
export const dayOf = (instant: string, zone: string): string => asDay(DateTime.fromISO(instant, { zone }));

/** Month and day of days that come back every year, as ranges that do not pass the end of a year, both ends counted. */
export function yearlyRanges({ from, to }: { from: string; to: string }): [string, string][] {
  const [first, end] = [DateTime.fromISO(from, { zone: 'utc' }), DateTime.fromISO(to, { zone: 'utc' })];
  const days = end.diff(first, 'days').days;
  if (days <= 0) return [];
  if (days >= 366) return [['01-01', '12-31']];
  const last = end.minus({ days: 1 });
  const [a, b] = [from.slice(5), (last.toISODate() ?? '').slice(5)];
  return first.year === last.year
    ? [[a, b]]
    : [
        [a, '12-31'],
        ['01-01', b],
      ];
}
