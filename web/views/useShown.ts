import type { FoundRecord, QueryField } from '@emporikon/contract/queries';
import type { Group, KindSpec, Total } from '@emporikon/core/query/types';
import { computed, type ComputedRef, type Ref } from 'vue';
import type { Column, Heading } from '../kit/table/columns';
import { localeOf } from '../shell/format';
import { cellText, groupText } from './cells';
import { numberFormat } from '../shell/intl';

interface Told {
  keys: (string | null)[];
  count: number;
  totals: (number | string | null)[];
}
/** How records, groups and totals of a view stand in its table. */
export interface Shown {
  columns: ComputedRef<Column[]>;
  textOf: (row: FoundRecord, key: string) => string;
  headings: (row: FoundRecord, before: FoundRecord | null) => Heading[];
  groupName: (row: FoundRecord, level: number) => string;
  countWords: (count: number) => string;
  totalWords: (values: readonly (number | string | null)[] | undefined) => string;
  byGroup: ComputedRef<Map<string, Told>>;
}

/** What each way to add up is called. */
export const HOW_WORDS: Record<Total['how'], string> = {
  count: 'Count',
  sum: 'Sum',
  mean: 'Mean',
  median: 'Median',
  least: 'Least',
  most: 'Most',
};

export function useShown(
  draft: Ref<{ columns: readonly string[]; groups: readonly Group[]; totals: readonly Total[] } | null>,
  fields: Ref<ReadonlyMap<string, QueryField>>,
  spec: Ref<KindSpec | null>,
  told: Ref<readonly Told[]>,
): Shown {
  const groups = computed(() => draft.value?.groups ?? []);
  /** How wide a column is, beside the others. */
  const shareOf = (key: string): number => {
    const type = fields.value.get(key)?.type;
    if (key === spec.value?.name) return 16;
    return type === 'number' || type === 'flag' ? 7 : 11;
  };
  const columns = computed<Column[]>(() => {
    const known = (draft.value?.columns ?? []).flatMap((key) => fields.value.get(key) ?? []);
    const all = known.reduce((sum, { key }) => sum + shareOf(key), 0);
    return known.map(({ key, label, type }) => ({
      key,
      title: label,
      width: (shareOf(key) / all) * 97,
      isName: key === spec.value?.name,
      isNumber: type === 'number' || type === 'money',
      onPhone: ['companyName', 'lastSpokenTo', 'amountMinor'].includes(key),
    }));
  });
  return {
    columns,
    textOf: (row, key) => {
      const field = fields.value.get(key);
      return field ? cellText(row.values[key], field) : '';
    },
    // Where the group changes, its heading stands, and those of the groups within it.
    headings: (row, before) => {
      const first = groups.value.findIndex((_, at) => !before || row.keys[at] !== before.keys[at]);
      if (first < 0) return [];
      return groups.value.slice(first).map((_, at) => ({
        level: first + at,
        key: JSON.stringify(row.keys.slice(0, first + at + 1)),
      }));
    },
    groupName: (row, level) => {
      const group = groups.value[level];
      const field = group && fields.value.get(group.field);
      return field ? groupText(row.keys[level] ?? null, field, group.by) : '';
    },
    countWords: (count) =>
      `${numberFormat(localeOf()).format(count)} ${(count === 1 ? spec.value?.one : spec.value?.many) ?? ''}`,
    totalWords: (values = []) =>
      (draft.value?.totals ?? [])
        .flatMap(({ how, field: key }, at) => {
          const field = fields.value.get(key ?? '');
          const value = values[at];
          return field && value !== null && value !== undefined
            ? `${how === 'sum' ? '' : `${HOW_WORDS[how].toLowerCase()} `}${cellText(value, field)} ${field.label.toLowerCase()}`
            : [];
        })
        .join(' · '),
    byGroup: computed(() => new Map(told.value.map((one) => [JSON.stringify(one.keys), one]))),
  };
}
