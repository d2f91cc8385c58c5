<script setup lang="ts">
import type { Board } from '@emporikon/contract/deals';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import { api } from '../shell/api';
import { calendarDay, due, money, percent } from '../shell/format';
import { reloadOn, useLongList } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import type { Chosen } from './BoardFilters.vue';
import type { BoardQuery } from './useBoard';

const props = defineProps<{
  stages: Board['stages'];
  pipeline: string;
  chosen: Chosen;
  query: () => BoardQuery;
}>();
const state = useQueryRef<'open' | 'won' | 'lost' | 'all'>('state', 'open');
const stage = useQueryRef('stage', '');
const sort = useQueryRef<'since' | 'title' | 'amount' | 'expectedClose'>('sort', 'since');
const direction = useQueryRef<'asc' | 'desc'>('direction', 'desc');
const { items, hasMore, more, error, isOld, reload } = useLongList(
  (cursor) =>
    api('GET /api/deals', {
      query: {
        ...props.query(),
        pipeline: props.pipeline,
        stage: stage.value || undefined,
        state: state.value,
        sort: sort.value,
        direction: direction.value,
        cursor,
        limit: 60,
      },
    }),
  ['deals', 'stages', 'tasks', 'companies', 'lead_scores'],
);
reloadOn(() => [state.value, stage.value, sort.value, direction.value, props.chosen, props.pipeline], reload);
const stageName = (id: string): string => props.stages.find((one) => one.id === id)?.name ?? '';
const COLUMNS: Column[] = [
  { key: 'title', title: 'Deal', width: 20, sort: 'title', isName: true },
  { key: 'company', title: 'Company', width: 15, onPhone: true },
  { key: 'stage', title: 'Stage', width: 11 },
  { key: 'days', title: 'Days', width: 6, sort: 'since', isReversed: true, isNumber: true },
  {
    key: 'amount',
    title: 'Amount',
    width: 10,
    sort: 'amount',
    firstWay: 'desc',
    isNumber: true,
    onPhone: true,
  },
  { key: 'byStage', title: 'By stage', width: 7, isNumber: true },
  { key: 'winChance', title: 'Win chance', width: 8, isNumber: true },
  { key: 'expectedClose', title: 'Expected', width: 9, sort: 'expectedClose' },
  { key: 'nextMove', title: 'Next move', width: 15 },
  { key: 'owner', title: 'Owner', width: 9 },
];
</script>

<template>
  <div class="page">
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      name="deals"
      label="Deals"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :is-old="isOld"
      :name-of="(row) => row.title"
      :to="(row) => `/deals/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #tools>
        <v-select
          v-model="stage"
          class="inline-edit tool"
          aria-label="Stage"
          :items="[
            { value: '', title: 'Any stage' },
            ...stages.map(({ id, name }) => ({ value: id, title: name })),
          ]"
        />
        <v-select
          v-model="state"
          class="inline-edit tool"
          aria-label="Open or closed"
          :items="[
            { value: 'open', title: 'Open' },
            { value: 'won', title: 'Won' },
            { value: 'lost', title: 'Lost' },
            { value: 'all', title: 'Open and closed' },
          ]"
        />
      </template>
      <template #cell-title="{ row }">
        <RouterLink :to="`/deals/${row.id}`"
          ><b>{{ row.title }}</b></RouterLink
        >
      </template>
      <template #cell-company="{ row }">
        <RouterLink v-if="row.company" :to="`/companies/${row.company.id}`" class="quiet-link">{{
          row.company.name
        }}</RouterLink>
      </template>
      <template #cell-stage="{ row }">{{ stageName(row.stageId) }}</template>
      <template #cell-amount="{ row }">{{ money(row.amountMinor, row.currency) }}</template>
      <template #cell-byStage="{ row }"
        ><span :title="row.probabilityByHand ? 'Set by hand' : undefined"
          >{{ row.probability }}%{{ row.probabilityByHand ? ' *' : '' }}</span
        ></template
      >
      <template #cell-winChance="{ row }">{{
        row.winChance === null ? '' : percent(row.winChance)
      }}</template>
      <template #cell-expectedClose="{ row }">{{
        row.expectedClose ? calendarDay(row.expectedClose) : ''
      }}</template>
      <template #cell-nextMove="{ row }">
        <template v-if="row.nextMove">{{ row.nextMove.title }}, {{ due(row.nextMove) }}</template
        ><span v-else-if="!row.closedAt" class="late">none set</span>
      </template>
      <template #cell-owner="{ row }"
        ><span class="soft">{{ row.owner.name }}</span></template
      >
      <template #empty>
        <p class="empty">No deals match these filters. Converting a lead adds a deal.</p>
      </template>
    </RecordTable>
    <p class="cap">* Set by hand</p>
  </div>
</template>

<style scoped>
.tool {
  width: 150px;
}
</style>
