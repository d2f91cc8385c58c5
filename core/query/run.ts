import { mean, median, sum } from 'simple-statistics';
import { meets, valueOf } from './conditions';
import { wholeFilter } from './defaults';
import { compareGroups, compareValues, groupKey, inGroupOrder } from './grouping';
import { compareText } from './text';
import type {
  Asking,
  Field,
  Group,
  GroupTotals,
  KindSpec,
  PlainRecord,
  Query,
  Registry,
  Total,
} from './types';

interface Grouped {
  record: PlainRecord;
  keys: (string | null)[];
}

function totalOf(
  records: readonly PlainRecord[],
  { how, field: key = '' }: Total,
  spec: KindSpec,
): number | string | null {
  if (how === 'count') return records.length;
  const field = spec.fields.get(key);
  const values = records.map((record) => valueOf(record, key)).filter((value) => value !== null);
  if (!field || !values.length) return null;
  if (field.type === 'day' || field.type === 'time') {
    const sorted = values.toSorted((a, b) => compareValues(a, b, field, 'asc'));
    return String(how === 'least' ? sorted[0] : sorted.at(-1));
  }
  const numbers = values.map(Number);
  if (how === 'sum') return sum(numbers);
  if (how === 'mean') return mean(numbers);
  if (how === 'median') return median(numbers);
  return numbers.reduce((a, b) => (how === 'least' ? Math.min(a, b) : Math.max(a, b)));
}

/** The totals of each group and of each group of groups, and of everything, which comes first and has no keys. */
function totalsOf(
  all: readonly Grouped[],
  groups: readonly Group[],
  totals: readonly Total[],
  spec: KindSpec,
): GroupTotals[] {
  const levels = Array.from({ length: groups.length + 1 }, (_, level) => level);
  return levels.flatMap((level) => {
    const parts = new Map<string, Grouped[]>(level ? [] : [['[]', []]]);
    for (const one of all) {
      const key = JSON.stringify(one.keys.slice(0, level));
      const part = parts.get(key);
      if (part) part.push(one);
      else parts.set(key, [one]);
    }
    return [...parts].map(([key, part]) => {
      const records = part.map(({ record }) => record);
      return {
        keys: JSON.parse(key) as (string | null)[],
        count: records.length,
        totals: totals.map((total) => totalOf(records, total, spec)),
      };
    });
  });
}

/**
 * Answers a query from records in memory.
 * @param query checked by `checkQuery`
 * @param records plain data of the query's kind: money in minor units of one currency, times in ISO 8601
 * @returns the records that meet it, by group and in order, equal ones by id; and the totals: first of everything, then of
 *   the outermost groups, and so on inwards, each level in its order
 */
export function runQuery(
  query: Query,
  records: readonly PlainRecord[],
  registry: Registry,
  asking: Asking,
): { records: PlainRecord[]; totals: GroupTotals[] } {
  const spec = registry[query.kind];
  const { groups = [], order = [], totals = [] } = query;
  const fieldsOf = groups.map(({ field }) => spec.fields.get(field)).filter((field) => field !== undefined);
  const filter = wholeFilter(query, spec);
  const found = records
    .filter((record) => meets(record, filter, spec, registry, asking))
    .map((record) => ({
      record,
      keys: groups.map((group, at) => {
        const field = fieldsOf[at] as Field;
        return groupKey(valueOf(record, field.key), field, group, asking);
      }),
    }));
  const sorted = found.toSorted((a, b) => {
    const byGroup = compareGroups(a.keys, b.keys, groups, spec);
    if (byGroup) return byGroup;
    for (const { field: key, direction } of order) {
      const field = spec.fields.get(key);
      const by = field ? compareValues(valueOf(a.record, key), valueOf(b.record, key), field, direction) : 0;
      if (by) return by;
    }
    return compareText(a.record.id, b.record.id);
  });
  return {
    records: sorted.map(({ record }) => record),
    totals: inGroupOrder(totalsOf(found, groups, totals, spec), query, spec),
  };
}
