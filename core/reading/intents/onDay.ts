import type { DateTime } from 'luxon';

const valid = (day: DateTime): DateTime | null => (day.isValid ? day : null);

/** The next day that has this month and day of month; in the year given, or this one or the next. */
export function onDate(today: DateTime, day: number, month: number, year?: string): DateTime | null {
  if (month < 1 || month > 12 || day < 1 || day > 31) return null;
  const full = year ? Number(year.length === 2 ? `20${year}` : year) : today.year;
  const at = valid(today.set({ year: full, month, day: 1 }).plus({ days: day - 1 }));
  if (!at || at.month !== month) return null;
  return year || at >= today ? at : at.plus({ years: 1 });
}

/** The next day of this number, and of this weekday if one is named. */
export function onNumber(today: DateTime, day: number, weekday = 0): DateTime | null {
  for (let at = today, steps = 0; steps < 400; at = at.plus({ days: 1 }), steps++)
    if (at.day === day && (!weekday || at.weekday === weekday)) return at;
  return null;
}

export const onWeekday = (today: DateTime, weekday: number, weeks = 0): DateTime | null =>
  weekday ? today.plus({ days: ((weekday - today.weekday + 7) % 7 || 7) + weeks * 7 }) : null;

export const monday = (today: DateTime, weeks: number): DateTime =>
  today.minus({ days: today.weekday - 1 }).plus({ weeks });

/** A working day so many working days from now: Saturdays and Sundays do not count (common practice). */
export function workingDays(today: DateTime, count: number): DateTime {
  let day = today;
  for (let left = Math.min(count, 260); left > 0;) {
    day = day.plus({ days: 1 });
    if (day.weekday <= 5) left--;
  }
  return day;
}

/** The first day of a quarter that is not over yet, or its last day. */
export function onQuarter(today: DateTime, quarter: number, isEnd: boolean, year?: string): DateTime {
  const first = today.set({ year: year ? Number(year) : today.year, month: quarter * 3 - 2, day: 1 });
  const last = first.plus({ months: 3 }).minus({ days: 1 });
  const years = year || last >= today ? 0 : 1;
  return (isEnd ? last : first).plus({ years });
}

const NTH = ['first', 'second', 'third', 'fourth'];
const FIGURES = ['1st', '2nd', '3rd', '4th'];
/** The first, second, third or last of a weekday in a month that is not over. */
export function onNthWeekday(
  today: DateTime,
  which: string,
  weekday: number,
  month: number,
  year?: string,
): DateTime | null {
  const first = onDate(today.startOf('month'), 1, month, year);
  if (!first || !weekday) return null;
  const at = first.plus({
    days: (weekday - first.weekday + 7) % 7,
    weeks: Math.max(0, NTH.indexOf(which), FIGURES.indexOf(which)),
  });
  const last = first.endOf('month').startOf('day');
  const day = which === 'last' ? last.minus({ days: (last.weekday - weekday + 7) % 7 }) : at;
  return day.month === first.month ? day : null;
}
/** The Monday of a week by its number (ISO 8601), in this year or the next. */
export function onWeek(today: DateTime, week: number): DateTime | null {
  if (week < 1 || week > 53) return null;
  const at = today.set({ weekYear: today.weekYear, weekNumber: week, weekday: 1 });
  return at.plus({ days: 6 }) >= today
    ? at
    : today.set({ weekYear: today.weekYear + 1, weekNumber: week, weekday: 1 });
}
