import type { Term } from '@emporikon/contract/terms';
import { termName, type TermList } from '@emporikon/core/lifecycle/terms';
import { computed, type ComputedRef } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';

export interface TermOption {
  value: string;
  title: string;
}

/** The standings, lead statuses and kinds of companies of this organisation. */
export function useTerms(): {
  all: ComputedRef<readonly Term[]>;
  nameOf: (key: string) => string;
  /** The built-in term that one counts as. */
  countsAs: (key: string) => string;
  /** What can be chosen; what a record has now (`now`) can stay, retired or not. */
  optionsOf: (list: TermList, now?: string) => TermOption[];
} {
  const { data } = useFetched(() => api('GET /api/terms'), ['terms']);
  const all = computed(() => data.value?.items ?? []);
  return {
    all,
    nameOf: (key) => termName(all.value, key),
    countsAs: (key) => all.value.find((term) => term.key === key)?.countsAs ?? key,
    optionsOf: (list, now) =>
      all.value
        .filter((term) => term.list === list && (!term.isRetired || term.key === now))
        .map(({ key, name }) => ({ value: key, title: name })),
  };
}
