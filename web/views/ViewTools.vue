<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import {
  EXPORT_FORMATS,
  FORMAT_NAMES,
  formatProblem,
  type ExportFormat,
} from '@emporikon/core/outgoing/formats';
import type { Layout } from '@emporikon/core/query/layout';
import { rightOn } from '@emporikon/core/rights/kinds';
import type { Query, Total } from '@emporikon/core/query/types';
import { computed } from 'vue';
import { useExports } from '../exports/useExports';
import { useSession } from '../shell/session';
import ColumnsChoice from './ColumnsChoice.vue';

/** How many a view shows, the way out of the program, and which fields stand on it. */
const props = defineProps<{
  query: Query | null;
  layout: Layout;
  title: string;
  /** How many records there are; null until they are counted. */
  total: number | null;
  fields: ReadonlyMap<string, QueryField>;
  columns: readonly string[];
  totals: readonly Total[];
  name: string;
  count: string;
  sums: string;
}>();
const emit = defineEmits<{ change: [patch: { columns?: string[]; totals?: Total[] }] }>();
const exports = useExports();
const session = useSession();
const mayExport = computed(() => props.query !== null && session.may(rightOn(props.query.kind, 'export')));
/** The day field of the calendar, where the view is one. */
const dateField = computed(() => (props.layout.as === 'calendar' ? props.layout.by : undefined));
const formats = computed(() => {
  const { query, fields, total } = props;
  if (!query || total === null) return [];
  return EXPORT_FORMATS.filter((one) => !formatProblem(one, query, { many: '', fields }, dateField.value));
});
/** What is shown now, saved or not. */
function hand(format: ExportFormat): void {
  const { query, total, title } = props;
  if (!query || total === null) return;
  const date = format === 'ics' && dateField.value ? { dateField: dateField.value } : {};
  void exports.begin({ query, format, name: title, count: total, ...date });
}
</script>

<template>
  <span class="count" role="status"
    ><b v-if="count" class="num">{{ count }}</b
    ><template v-if="count && sums"> · {{ sums }}</template></span
  >
  <v-menu v-if="mayExport" location="bottom end">
    <template #activator="{ props: opener }"><v-btn class="word" v-bind="opener">Export</v-btn></template>
    <v-list class="choices" aria-label="Export">
      <v-list-item
        v-for="format in formats"
        :key="format"
        :title="FORMAT_NAMES[format].name"
        @click="hand(format)"
      />
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
