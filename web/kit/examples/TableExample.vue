<script setup lang="ts">
import { computed, ref } from 'vue';
import RecordTable from '../RecordTable.vue';
import type { Column } from '../table/columns';
import ExampleLine from './ExampleLine.vue';

interface Row {
  id: string;
  name: string;
  town: string;
  orders: number;
}
const PAGE = 50;
const TOWNS = ['Wattle Bay', 'Ullesby', 'Cottesmore', 'Eskdale'];
const ALL: Row[] = Array.from({ length: 400 }, (_, at) => ({
  id: String(at),
  name: `Bakery ${String(at + 1).padStart(3, '0')}`,
  town: TOWNS[at % TOWNS.length] ?? '',
  orders: (at * 37) % 101,
}));
const COLUMNS: Column[] = [
  { key: 'name', title: 'Name', width: 40, sort: 'name', isName: true },
  { key: 'town', title: 'Town', width: 35, sort: 'town', onPhone: true },
  {
    key: 'orders',
    title: 'Orders',
    width: 25,
    sort: 'orders',
    firstWay: 'desc',
    isNumber: true,
    onPhone: true,
  },
];
const sort = ref('name');
const direction = ref<'asc' | 'desc'>('asc');
const selected = ref<string[]>([]);
const shown = ref(PAGE);
const sorted = computed(() => {
  const key = sort.value as keyof Row;
  const rising = [...ALL].sort((a, b) => (a[key] < b[key] ? -1 : a[key] > b[key] ? 1 : 0));
  return direction.value === 'asc' ? rising : rising.reverse();
});
const state = ref<'rows' | 'loading' | 'empty' | 'error'>('rows');
const rows = computed(() =>
  state.value === 'loading' ? null : state.value === 'empty' ? [] : sorted.value.slice(0, shown.value),
);
</script>

<template>
  <ExampleLine
    name="RecordTable"
    says="Records in pages: sorted by their columns, selected, gone through by arrow keys; columns are moved, resized and hidden."
    :value="selected"
  >
    <v-radio-group v-model="state" inline aria-label="State">
      <v-radio value="rows" label="Rows" />
      <v-radio value="loading" label="Loading" />
      <v-radio value="empty" label="Empty" />
      <v-radio value="error" label="Error" />
    </v-radio-group>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      v-model:selected="selected"
      class="table"
      name="example"
      label="Bakeries"
      :columns="COLUMNS"
      :rows="rows"
      :error="state === 'error' ? 'The server does not answer.' : ''"
      :has-more="state === 'rows' && shown < ALL.length"
      :name-of="(row) => row.name"
      @more="shown += PAGE"
      @retry="state = 'rows'"
    >
      <template #cell-name="{ row }"
        ><b>{{ row.name }}</b></template
      >
      <template #empty><p class="empty">No bakery fits these filters.</p></template>
    </RecordTable>
  </ExampleLine>
</template>

<style scoped>
.table {
  flex: 1 0 100%;
}
</style>
