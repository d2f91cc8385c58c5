<script setup lang="ts">
import FilterBar from '../kit/FilterBar.vue';
import { computed, reactive, ref } from 'vue';
import NewButton from '../make/NewButton.vue';
import { api } from '../shell/api';
import SelectionBar from '../bulk/SelectionBar.vue';
import { plainNumber, shownCount } from '../shell/format';
import { useFetched } from '../shell/live';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import { useQueryRef } from '../shell/useQueryRef';
import { reloadOn, useLongList } from '../shell/usePaged';

const q = useQueryRef('q', '');
const narrowed = reactive({
  industry: useQueryRef('industry', ''),
  country: useQueryRef('country', ''),
  technology: useQueryRef('technology', ''),
  atLeast: useQueryRef('atLeast', ''),
  news: useQueryRef<'' | 'mine'>('news', ''),
});
const sort = useQueryRef<'name' | 'domain' | 'industry' | 'country' | 'employees'>('sort', 'name');
const direction = useQueryRef<'asc' | 'desc'>('direction', 'asc');
const ticked = ref<string[]>([]);
const { data: kinds } = useFetched(() => api('GET /api/companies/kinds'), ['companies']);
const { items, hasMore, more, error, isOld, reload } = useLongList(
  (cursor) =>
    api('GET /api/companies', {
      query: {
        cursor,
        q: q.value,
        industry: narrowed.industry || undefined,
        country: narrowed.country || undefined,
        technology: narrowed.technology || undefined,
        atLeast: narrowed.atLeast || undefined,
        news: narrowed.news || undefined,
        sort: sort.value,
        direction: direction.value,
        limit: 60,
      },
    }),
  ['people', 'companies', 'deals'],
);
const NO_KINDS = { industries: [], countries: [], technologies: [] };
const shown = computed(() => kinds.value ?? NO_KINDS);
const SIZES = [10, 50, 250, 1000];
reloadOn(() => [q.value, sort.value, direction.value, narrowed], reload);
const COLUMNS: Column[] = [
  { key: 'name', title: 'Name', width: 26, sort: 'name', isName: true },
  { key: 'domain', title: 'Domain', width: 20, sort: 'domain' },
  { key: 'industry', title: 'Industry', width: 16, sort: 'industry', onPhone: true },
  { key: 'country', title: 'Country', width: 9, sort: 'country' },
  { key: 'employees', title: 'Employees', width: 10, sort: 'employees', firstWay: 'desc', isNumber: true },
  { key: 'people', title: 'People', width: 8, isNumber: true },
  { key: 'openDeals', title: 'Open deals', width: 11, isNumber: true, onPhone: true },
];
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Companies</h1>
      <v-text-field
        v-model="q"
        type="search"
        class="inline-edit narrow"
        placeholder="Name or website"
        aria-label="Narrow by name"
      />
      <FilterBar v-if="shown" :set="Object.values(narrowed)">
        <v-select
          v-for="[field, label, options] in [
            ['industry', 'Any industry', shown.industries],
            ['country', 'Any country', shown.countries],
            ['technology', 'Any technology', shown.technologies],
          ] as const"
          :key="field"
          v-model="narrowed[field]"
          class="inline-edit kind"
          :aria-label="label"
          :items="[
            { value: '', title: label },
            ...options.map((one) => ({ value: one.name, title: `${one.name} (${one.companies})` })),
          ]"
        />
        <v-select
          v-model="narrowed.atLeast"
          class="inline-edit kind"
          aria-label="Size"
          :items="[
            { value: '', title: 'Any size' },
            ...SIZES.map((size) => ({ value: String(size), title: `${size} or more employees` })),
          ]"
        />
        <v-select
          v-model="narrowed.news"
          class="inline-edit kind"
          aria-label="New or all"
          :items="[
            { value: '', title: 'New or not' },
            { value: 'mine', title: 'New for me' },
          ]"
        />
      </FilterBar>
      <NewButton what="company" />
    </div>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      v-model:selected="ticked"
      name="companies"
      label="Companies"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :is-old="isOld"
      :name-of="(row) => row.name"
      :to="(row) => `/companies/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #cell-name="{ row }">
        <RouterLink :to="`/companies/${row.id}`"
          ><b>{{ row.name }}</b></RouterLink
        >
      </template>
      <template #cell-domain="{ row }">
        <span class="soft">{{ row.domain }}</span>
      </template>
      <template #cell-employees="{ row }">{{
        row.employees === null ? '' : plainNumber(row.employees)
      }}</template>
      <template #cell-people="{ row }">{{ shownCount(row.people) }}</template>
      <template #cell-openDeals="{ row }">
        <span v-if="row.openDeals">{{ row.openDeals }}<span class="on-card"> open</span></span>
      </template>
      <template #empty>
        <p class="empty">
          {{
            q || Object.values(narrowed).some(Boolean)
              ? 'No companies match these filters.'
              : 'No companies yet. Filing a message adds the sender’s company.'
          }}
        </p>
      </template>
    </RecordTable>
    <SelectionBar kind="company" :ids="ticked" @clear="ticked = []" @done="reload" />
  </div>
</template>

<style scoped>
.narrow {
  width: 180px;
}
.kind {
  width: 150px;
}
</style>
