import type { Filter, KindSpec, Query } from './types';

const mentions = (filter: Filter, field: string): boolean => {
  if ('all' in filter) return filter.all.some((part) => mentions(part, field));
  if ('any' in filter) return filter.any.some((part) => mentions(part, field));
  if ('not' in filter) return mentions(filter.not, field);
  return 'field' in filter && filter.field === field;
};

/** The whole condition of a query: records that are inactive are left out unless the query speaks of them. */
export function wholeFilter({ filter }: Pick<Query, 'filter'>, spec: KindSpec): Filter {
  const own = filter ?? { all: [] };
  if (!spec.fields.has('inactive') || mentions(own, 'inactive')) return own;
  return { all: [own, { field: 'inactive', op: 'is', value: false }] };
}
