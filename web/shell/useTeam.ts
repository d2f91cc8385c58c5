import type { Teammate } from '@emporikon/contract/session';
import { computed, type ComputedRef } from 'vue';
import { api } from './api';
import { useFetched } from './live';

/** Everybody on the team, current; empty until it is read. */
export function useTeam(): ComputedRef<Teammate[]> {
  const { data } = useFetched(() => api('GET /api/users'), ['users']);
  return computed(() => data.value?.items ?? []);
}
