const DAY_MS = 86_400_000;

/** What a calendar shows at once. */
export type Span = 'day' | 'week' | 'month' | 'agenda';

/** A day (YYYY-MM-DD) so many days on. */
export const addDays = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);

/** ISO 8601: Monday is 1. */
const weekdayOf = (day: string): number => new Date(`${day}T00:00:00Z`).getUTCDay() || 7;

/** The first day of the week that a day is in. @param first the weekday weeks begin with; Monday is 1 */
export const startOfWeek = (day: string, first: number): string =>
  addDays(day, -((weekdayOf(day) - first + 7) % 7));

const startOfMonth = (day: string): string => `${day.slice(0, 7)}-01`;
function nextMonth(day: string, by: number): string {
  const [year = 0, month = 1] = day.split('-').map(Number);
  return new Date(Date.UTC(year, month - 1 + by, 1)).toISOString().slice(0, 10);
}

const AGENDA_DAYS = 14;

/** From which day until before which a calendar shows; a month with the weeks it begins and ends in. */
export function rangeOf(span: Span, day: string, first: number): { from: string; until: string } {
  if (span === 'day') return { from: day, until: addDays(day, 1) };
  if (span === 'agenda') return { from: day, until: addDays(day, AGENDA_DAYS) };
  if (span === 'week') {
    const from = startOfWeek(day, first);
    return { from, until: addDays(from, 7) };
  }
  const last = addDays(nextMonth(day, 1), -1);
  return { from: startOfWeek(startOfMonth(day), first), until: addDays(startOfWeek(last, first), 7) };
}

/** The day that a step forward or back leads to. */
export function stepFrom(span: Span, day: string, by: 1 | -1): string {
  if (span === 'month') return nextMonth(day, by);
  return addDays(day, by * { day: 1, week: 7, agenda: AGENDA_DAYS }[span]);
}

/** The weekday that weeks begin with where somebody lives; Monday is 1. */
export function firstWeekday(locale: string): number {
  try {
    const where = new Intl.Locale(locale) as Intl.Locale & {
      getWeekInfo?: () => { firstDay: number };
      weekInfo?: { firstDay: number };
    };
    return where.getWeekInfo?.().firstDay ?? where.weekInfo?.firstDay ?? 1;
  } catch {
    return 1;
  }
}
