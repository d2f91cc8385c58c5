<script setup lang="ts">
import FilterBar from '../kit/FilterBar.vue';
import { LEAD_RATINGS, type LeadRating } from '@emporikon/core/lifecycle/statuses';
import { computed, ref } from 'vue';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import SelectionBar from '../bulk/SelectionBar.vue';
import NewButton from '../make/NewButton.vue';
import { api } from '../shell/api';
import { day, due, percent } from '../shell/format';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { reloadOn, usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { useTeam } from '../shell/useTeam';
import { useTerms } from '../terms/useTerms';

const OPEN: readonly string[] = ['new', 'working', 'qualified'];
const session = useSession();
const team = useTeam();
const { nameOf, optionsOf } = useTerms();
const q = useQueryRef('q', '');
const whose = useQueryRef<string>('whose', 'all');
const status = useQueryRef<string>('status', '');
const rating = useQueryRef<LeadRating | ''>('rating', '');
const sort = useQueryRef<'status' | 'chance' | 'title' | 'fit' | 'warmth' | 'rating' | 'created'>(
  'sort',
  'chance',
);
const direction = useQueryRef<'asc' | 'desc'>('direction', 'desc');
const ticked = ref<string[]>([]);
const owner = computed(() =>
  whose.value === 'mine' ? session.me?.id : whose.value === 'all' ? undefined : whose.value,
);
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) =>
    api('GET /api/leads', {
      query: {
        cursor,
        limit: 100,
        q: q.value,
        status: status.value || undefined,
        rating: rating.value || undefined,
        sort: sort.value,
        direction: direction.value,
        owner: owner.value,
      },
    }),
  ['leads', 'tasks', 'people', 'companies', 'lead_scores'],
);
reloadOn(() => [q.value, status.value, rating.value, owner.value, sort.value, direction.value], reload);
const undo = useUndo();
async function rate(lead: { id: string; version: number }, given: LeadRating | ''): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/leads/:id', {
      params: { id: lead.id },
      body: { version: lead.version, rating: given || null },
    });
    undo.tell({ text: given ? `Rated ${given}.` : 'Rating removed.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await reload();
}
const isBare = (lead: { status: string; nextMove: unknown }): boolean =>
  !lead.nextMove && OPEN.includes(lead.status);
const without = computed(() => (items.value ?? []).filter(isBare).length);
const COLUMNS: Column[] = [
  { key: 'title', title: 'Lead', width: 19, sort: 'title', isName: true },
  { key: 'person', title: 'Who', width: 18, onPhone: true },
  { key: 'status', title: 'Status', width: 14, sort: 'status', firstWay: 'desc' },
  { key: 'nextMove', title: 'Next move', width: 18 },
  {
    key: 'chance',
    title: 'Chance',
    width: 7,
    sort: 'chance',
    firstWay: 'desc',
    isNumber: true,
    onPhone: true,
  },
  { key: 'fit', title: 'Fit', width: 5, sort: 'fit', firstWay: 'desc', isNumber: true },
  { key: 'warmth', title: 'Warmth', width: 7, sort: 'warmth', firstWay: 'desc', isNumber: true },
  { key: 'rating', title: 'Rating', width: 7, sort: 'rating', firstWay: 'desc' },
  { key: 'owner', title: 'Owner', width: 9 },
  { key: 'source', title: 'Source', width: 9, isHidden: true },
  { key: 'createdAt', title: 'Added', width: 8, sort: 'created', firstWay: 'desc', isHidden: true },
];
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Leads</h1>
      <v-text-field
        v-model="q"
        type="search"
        class="inline-edit narrow"
        placeholder="Lead, person or company"
        aria-label="Find a lead"
      />
      <FilterBar :set="[status, rating, whose !== 'all']">
        <v-select
          v-model="status"
          class="inline-edit status"
          aria-label="Status"
          :items="[{ value: '', title: 'Any status' }, ...optionsOf('leadStatus', status || undefined)]"
        />
        <v-select
          v-model="rating"
          class="inline-edit rating"
          aria-label="Rating"
          :items="[{ value: '', title: 'Any rating' }, ...LEAD_RATINGS]"
        />
        <v-select
          v-model="whose"
          class="inline-edit whose"
          aria-label="Owner"
          :items="[
            { value: 'all', title: 'Any owner' },
            { value: 'mine', title: 'Mine' },
            ...team
              .filter(({ id }) => id !== session.me?.id)
              .map(({ id, name }) => ({ value: id, title: name })),
          ]"
        />
      </FilterBar>
      <span v-if="without" class="late">{{ without }} without a next move</span>
      <RouterLink class="word" to="/settings/fit">How scoring works</RouterLink>
      <NewButton what="lead" />
    </div>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      v-model:selected="ticked"
      name="leads"
      label="Leads"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :name-of="(row) => row.title"
      :to="(row) => `/leads/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #cell-title="{ row }">
        <RouterLink :to="`/leads/${row.id}`"
          ><b>{{ row.title }}</b></RouterLink
        >
      </template>
      <template #cell-person="{ row }">
        <RouterLink :to="`/people/${row.person.id}`" class="quiet-link">{{
          row.person.name
        }}</RouterLink><template v-if="row.company"
          >, <span class="soft">{{ row.company.name }}</span></template
        >
      </template>
      <template #cell-status="{ row }">
        {{ nameOf(row.statusTerm ?? row.status) }} <span class="soft">since {{ day(row.statusSince) }}</span>
      </template>
      <template #cell-nextMove="{ row }">
        <template v-if="row.nextMove"
          >{{ row.nextMove.title }},
          <span :class="{ late: row.nextMove.state === 'overdue' }">{{ due(row.nextMove) }}</span></template
        ><span v-else-if="isBare(row)" class="late">none set</span>
      </template>
      <template #cell-rating="{ row }">
        <v-select
          class="on-card"
          menu-icon=""
          :aria-label="`Rating of ${row.title}`"
          :model-value="row.rating ?? ''"
          :items="[{ value: '', title: 'None' }, ...LEAD_RATINGS]"
          @update:model-value="rate(row, $event as LeadRating | '')"
          @click.stop
        />
      </template>
      <template #cell-chance="{ row }">{{ row.scores ? percent(row.scores.chance) : '' }}</template>
      <template #cell-fit="{ row }">{{ row.scores?.fit }}</template>
      <template #cell-warmth="{ row }">{{ row.scores?.warmth }}</template>
      <template #cell-owner="{ row }"
        ><span class="soft">{{ row.owner.name }}</span></template
      >
      <template #cell-createdAt="{ row }">{{ day(row.createdAt) }}</template>
      <template #empty>
        <p class="empty">
          {{
            q || status || rating || owner
              ? 'No leads match these filters.'
              : 'No leads yet. Filing a message from Arrivals adds one.'
          }}
        </p>
      </template>
    </RecordTable>
    <SelectionBar kind="lead" :ids="ticked" @clear="ticked = []" @done="reload" />
  </div>
</template>

<style scoped>
.narrow {
  width: 220px;
}
.status {
  width: 130px;
}
.rating {
  width: 120px;
}
.whose {
  width: 150px;
}
</style>
