import type { QueryField } from '@emporikon/contract/queries';
import { toField } from '../shell/moment';

/** Whether a text says a month, YYYY-MM, of a year that can be shown. */
export const isMonth = (text: string): boolean => /^[1-9]\d{3}-(?:0[1-9]|1[0-2])$/.test(text);

/**
 * The day of a calendar that a value stands on.
 * @param value a day, a time, or a day that comes back every year (its last five characters are MM-DD)
 * @param range the days that are shown, the last of them left out
 * @returns YYYY-MM-DD; null where it says no day, or none of those shown
 */
export function dayIn(
  value: unknown,
  type: QueryField['type'],
  { from, until }: { from: string; until: string },
): string | null {
  if (typeof value !== 'string' || value.length < 5) return null;
  if (type === 'time') return toField(value, true);
  if (type === 'day') return value.slice(0, 10);
  const years = [...new Set([from.slice(0, 4), until.slice(0, 4)])];
  return years.map((year) => `${year}-${value.slice(-5)}`).find((day) => day >= from && day < until) ?? null;
}
