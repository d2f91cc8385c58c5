<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import type { Query, Total } from '@emporikon/core/query/types';
import ColumnsChoice from './ColumnsChoice.vue';

/** How many a view shows, the way out of the program, and which fields stand on it. */
const props = defineProps<{
  query: Query | null;
  fields: ReadonlyMap<string, QueryField>;
  columns: readonly string[];
  totals: readonly Total[];
  name: string;
  count: string;
  sums: string;
}>();
const emit = defineEmits<{ change: [patch: { columns?: string[]; totals?: Total[] }] }>();
/** What is shown now, saved or not. */
const fileOf = (ending: string): string =>
  `/api/queries.${ending}?query=${encodeURIComponent(JSON.stringify(props.query))}`;
</script>

<template>
  <span class="count" role="status"
    ><b v-if="count" class="num">{{ count }}</b
    ><template v-if="count && sums"> · {{ sums }}</template></span
  >
  <v-menu location="bottom end">
    <template #activator="{ props: opener }"><v-btn class="word" v-bind="opener">Export</v-btn></template>
    <v-list class="choices" aria-label="Export">
      <v-list-item title="As a table (CSV)" :href="fileOf('csv')" download />
      <v-list-item title="As JSON Lines" :href="fileOf('jsonl')" download />
    </v-list>
  </v-menu>
  <ColumnsChoice
    :fields="fields"
    :columns="columns"
    :totals="totals"
    :name="name"
    @change="emit('change', $event)"
  />
</template>

<style scoped>
.count {
  margin-right: auto;
}
</style>
