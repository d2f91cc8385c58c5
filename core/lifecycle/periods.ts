export const PERIODS = {
  any: 'Any time',
  overdue: 'Overdue',
  month: 'This month',
  next: 'Next month',
  quarter: 'This quarter',
  later: 'After this quarter',
} as const;
export type Period = keyof typeof PERIODS;

/** The ISO day that is `day` of a month counted from the year's first (0); days and months beyond the ends roll over. */
const isoDay = (year: number, month: number, day: number): string =>
  new Date(Date.UTC(year, month, day)).toISOString().slice(0, 10);

/**
 * The days of a period, both ends included; an end that is left out is open.
 * @param today ISO day
 */
export function daysOf(period: Period, today: string): { from?: string; until?: string } {
  const year = Number(today.slice(0, 4));
  const month = Number(today.slice(5, 7)) - 1;
  const quarter = month - (month % 3);
  switch (period) {
    case 'overdue':
      return { until: isoDay(year, month, Number(today.slice(8, 10)) - 1) };
    case 'month':
      return { from: isoDay(year, month, 1), until: isoDay(year, month + 1, 0) };
    case 'next':
      return { from: isoDay(year, month + 1, 1), until: isoDay(year, month + 2, 0) };
    case 'quarter':
      return { from: isoDay(year, quarter, 1), until: isoDay(year, quarter + 3, 0) };
    case 'later':
      return { from: isoDay(year, quarter + 3, 1) };
    default:
      return {};
  }
}
