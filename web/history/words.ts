import type { FieldChange } from '@emporikon/contract/history';
import { calendarDay, day, clock, money } from '../shell/format';

/** A value of a field as the reader writes days, times and sums; a dash where there was none. */
export function valueWords(
  value: string | null,
  { type, currency }: Pick<FieldChange, 'type' | 'currency'>,
): string {
  if (value === null) return '–';
  if (type === 'time') return `${day(value)}, ${clock(value)}`;
  if (type === 'day' && /^\d{4}-\d{2}-\d{2}$/.test(value)) return calendarDay(value);
  if (type === 'money' && currency) return money(Number(value), currency);
  return value;
}

const PATHS: Record<FieldChange['record']['table'], string | null> = {
  people: '/people/',
  companies: '/companies/',
  leads: '/leads/',
  deals: '/deals/',
  projects: '/projects/',
  cases: '/cases/',
  tasks: null,
  contact_points: '/people/',
};
/** Where a record is; null where it has no page of its own. */
export function recordPath({ table, id }: FieldChange['record']): string | null {
  const path = PATHS[table];
  return path ? `${path}${id}` : null;
}
