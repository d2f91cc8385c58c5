import type { Comparison, Filter, Value } from './types';

const isSame = (one: unknown, from: string): boolean => one === from;

function inValue(value: Value | undefined, from: string, to: string): Value | undefined {
  if (!Array.isArray(value)) return isSame(value, from) ? to : value;
  if (!value.some((one) => isSame(one, from))) return value;
  return [...new Set(value.map((one) => (isSame(one, from) ? to : one)))] as Value;
}

/**
 * A filter that asks for another value of some fields in the place of one, wherever in it that is asked.
 * @param fields the keys of the fields
 * @returns the very same filter where it does not ask for it
 */
export function replaceValue(filter: Filter, fields: ReadonlySet<string>, from: string, to: string): Filter {
  if ('field' in filter) {
    const value = fields.has(filter.field) ? inValue(filter.value, from, to) : filter.value;
    return value === filter.value ? filter : ({ ...filter, value } as Comparison);
  }
  const inner = (one: Filter): Filter => replaceValue(one, fields, from, to);
  const each = (all: readonly Filter[]): readonly Filter[] => {
    const next = all.map(inner);
    return next.some((one, at) => one !== all[at]) ? next : all;
  };
  if ('all' in filter) {
    const all = each(filter.all);
    return all === filter.all ? filter : { all };
  }
  if ('any' in filter) {
    const any = each(filter.any);
    return any === filter.any ? filter : { any };
  }
  if ('not' in filter) {
    const not = inner(filter.not);
    return not === filter.not ? filter : { not };
  }
  const where = filter.where && inner(filter.where);
  return where === filter.where ? filter : { ...filter, where };
}

/** Whether a filter asks for a value of some fields, wherever in it. */
export const asksFor = (filter: Filter, fields: ReadonlySet<string>, value: string): boolean =>
  replaceValue(filter, fields, value, `not ${value}`) !== filter;
