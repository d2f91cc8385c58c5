<script setup lang="ts">
import type { FieldChange } from '@emporikon/contract/history';
import { computed, watch } from 'vue';
import DateField from '../kit/DateField.vue';
import FilterBar from '../kit/FilterBar.vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { fromField } from '../shell/moment';
import { addDays } from '../shell/days';
import { useSession } from '../shell/session';
import { usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { useTeam } from '../shell/useTeam';
import ChangeLines from './ChangeLines.vue';

/** Who changed what, over everything: for managers; for anybody else, what they changed themselves. */
const session = useSession();
const team = useTeam();
const words = useQueryRef<string>('q', '');
const by = useQueryRef<string>('by', '');
const table = useQueryRef<string>('kind', '');
const from = useQueryRef<string>('from', '');
const until = useQueryRef<string>('until', '');
const KINDS = [
  { value: '', title: 'Everything' },
  { value: 'people', title: 'People' },
  { value: 'contact_points', title: 'Contact details' },
  { value: 'companies', title: 'Companies' },
  { value: 'leads', title: 'Leads' },
  { value: 'deals', title: 'Deals' },
  { value: 'tasks', title: 'Tasks' },
] as const;
const isManager = computed(() => session.me?.role !== 'rep');
const colleagues = computed(() => [
  { value: '', title: 'Everybody' },
  ...team.value.map(({ id, name }) => ({ value: id, title: name })),
]);
const asked = computed(() => ({
  q: words.value.trim() || undefined,
  by: by.value || undefined,
  table: (table.value || undefined) as FieldChange['record']['table'] | undefined,
  from: (from.value && fromField(from.value, true)) || undefined,
  // The last day is part of it.
  until: (until.value && fromField(addDays(until.value, 1), true)) || undefined,
}));
const { items, hasMore, more, error, reload } = usePaged<FieldChange>(
  (cursor) => api('GET /api/changes', { query: { ...asked.value, cursor } }),
  [],
);
watch(asked, reload);
const file = computed(() => {
  const query = new URLSearchParams(
    Object.entries(asked.value).flatMap(([key, value]) => (value ? [[key, value]] : [])),
  );
  return `/api/changes.csv${query.size ? `?${query}` : ''}`;
});
</script>

<template>
  <PageHead
    title="Change history"
    :help="
      isManager
        ? 'Who changed what, newest first. Nobody can change this.'
        : 'What you changed, newest first. Managers see everybody’s.'
    "
  />
  <div class="filters">
    <v-text-field v-model="words" aria-label="Words" placeholder="Field, value, name" maxlength="200" />
    <FilterBar :set="[by, table, from, until]">
      <v-select v-if="isManager" v-model="by" :items="colleagues" aria-label="Who" />
      <v-select v-model="table" :items="[...KINDS]" aria-label="Kind" />
      <DateField v-model="from" aria-label="From" placeholder="From" />
      <DateField v-model="until" aria-label="Until" placeholder="Until" />
    </FilterBar>
    <a :href="file" class="quiet-link" download>Save as a table</a>
  </div>
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <div v-if="items" class="lines">
    <ChangeLines :items="items" shows-record @restored="reload" />
    <p v-if="!items.length" class="empty">
      {{ hasMore ? 'Nothing in the newest changes. Look further back.' : 'No change matches.' }}
    </p>
    <v-btn v-if="hasMore" class="quiet" @click="more">Show earlier</v-btn>
  </div>
  <template v-else-if="!error"><span v-for="n in 6" :key="n" class="ghost"></span></template>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  margin-bottom: 10px;
}
.filters > :deep(.v-input) {
  flex: 1 1 150px;
  max-width: 220px;
}
.lines {
  container-type: inline-size;
}
</style>
