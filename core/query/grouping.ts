import { compareText, firstLetter } from './text';
import { dayOf, startOfUnit } from './time';
import type { Asking, Field, Group, GroupTotals, KindSpec, PlainValue, Query } from './types';

/** Which band a number is in: how many of the edges it has reached. */
const bandOf = (value: number, edges: readonly number[]): string =>
  String(edges.filter((edge) => value >= edge).length);

/**
 * What a value is grouped under: a day by the first day of its unit, a yearly day by its month, a text by its letter, a
 * number by its band. Null where there is none.
 */
export function groupKey(value: PlainValue, field: Field, { by }: Group, { zone }: Asking): string | null {
  if (field.type === 'flag') return String(value === true);
  if (value === null) return null;
  switch (field.type) {
    case 'day':
    case 'time': {
      const day = field.type === 'time' ? dayOf(String(value), zone) : String(value);
      return startOfUnit(day, typeof by === 'string' && by !== 'letter' ? by : 'day');
    }
    case 'yearly':
      return String(value).slice(-5, -3);
    case 'number':
    case 'money':
      return typeof by === 'object' ? bandOf(Number(value), by.bands) : String(value);
    default:
      return by === 'letter' ? firstLetter(String(value)) : String(value);
  }
}

/** Puts two values in order; what has few fixed values goes by their order, and what is missing comes last either way. */
export function compareValues(
  a: PlainValue,
  b: PlainValue,
  { type, options }: Pick<Field, 'type' | 'options'>,
  direction: 'asc' | 'desc',
): number {
  if (type === 'flag') return (direction === 'asc' ? 1 : -1) * (Number(a === true) - Number(b === true));
  const by = options && ((value: PlainValue) => options.findIndex((option) => option.value === value));
  const isNone = (value: PlainValue): boolean => value === null || (by !== undefined && by(value) < 0);
  if (isNone(a) || isNone(b)) return Number(isNone(a)) - Number(isNone(b));
  const sign = direction === 'asc' ? 1 : -1;
  if (by) return sign * (by(a) - by(b));
  if (type === 'number' || type === 'money') return sign * (Number(a) - Number(b));
  if (type === 'yearly') return sign * compareText(String(a).slice(-5), String(b).slice(-5));
  if (type === 'time') return sign * (Date.parse(String(a)) - Date.parse(String(b)));
  return sign * compareText(String(a), String(b));
}

/** The same for the keys of groups. */
function compareKeys(a: string | null, b: string | null, field: Field, group: Group): number {
  if (field.options) return compareValues(a, b, field, 'asc');
  const isNumber = field.type === 'number' || field.type === 'money' || typeof group.by === 'object';
  if (a === null || b === null || !isNumber) return compareValues(a, b, { type: 'text' }, 'asc');
  return Number(a) - Number(b);
}

/** Puts groups in the order of their keys, outer ones before those within them. */
export function compareGroups(
  a: readonly (string | null)[],
  b: readonly (string | null)[],
  groups: readonly Group[],
  spec: KindSpec,
): number {
  for (const [at, group] of groups.slice(0, Math.min(a.length, b.length)).entries()) {
    const field = spec.fields.get(group.field);
    const by = field ? compareKeys(a[at] ?? null, b[at] ?? null, field, group) : 0;
    if (by) return by;
  }
  return a.length - b.length;
}

/** The totals of everything first, then of each level of groups, in the order of their keys. */
export const inGroupOrder = (
  totals: readonly GroupTotals[],
  { groups = [] }: Pick<Query, 'groups'>,
  spec: KindSpec,
): GroupTotals[] =>
  totals.toSorted((a, b) => a.keys.length - b.keys.length || compareGroups(a.keys, b.keys, groups, spec));
