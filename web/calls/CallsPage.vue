<script setup lang="ts">
import FilterBar from '../kit/FilterBar.vue';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useFetched } from '../shell/live';
import { reloadOn, usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import PhoneButton from './PhoneButton.vue';

const q = useQueryRef('q', '');
const way = useQueryRef<'' | 'in' | 'out'>('way', '');
const state = useQueryRef<'' | 'missed' | 'unlogged'>('state', '');
const sort = useQueryRef<'startedAt' | 'person' | 'state'>('sort', 'startedAt');
const direction = useQueryRef<'asc' | 'desc'>('direction', 'desc');
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) =>
    api('GET /api/calls', {
      query: {
        cursor,
        limit: 60,
        q: q.value,
        way: way.value || undefined,
        state: state.value || undefined,
        sort: sort.value,
        direction: direction.value,
      },
    }),
  ['calls'],
);
reloadOn(() => [q.value, way.value, state.value, sort.value, direction.value], reload);
const { data: line } = useFetched(() => api('GET /api/line'), ['phone_lines']);
const STATES = {
  placing: 'connecting',
  failed: 'not placed',
  ringing: 'ringing',
  answered: 'on the line',
  ended: 'ended',
  missed: 'missed',
} as const;
const COLUMNS: Column[] = [
  { key: 'startedAt', title: 'When', width: 14, sort: 'startedAt', firstWay: 'desc', onPhone: true },
  { key: 'person', title: 'Who', width: 24, sort: 'person', isName: true },
  { key: 'number', title: 'Number', width: 20 },
  { key: 'direction', title: 'Direction', width: 12 },
  { key: 'state', title: 'Result', width: 14, sort: 'state', onPhone: true },
  { key: 'log', title: 'Log', width: 12 },
];
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Calls</h1>
      <span v-if="line" class="soft">
        <template v-if="line.exchange === 'none'"
          >No phone system is connected. You can still log calls.</template
        >
        <template v-else-if="line.exchange === 'down'"
          ><span class="late">The exchange does not answer.</span> Calls made in the meantime appear once it
          is back.</template
        >
        <template v-else-if="line.number">Your line is {{ line.number }}.</template>
        <template v-else
          ><RouterLink to="/settings/phone-line" class="quiet-link">Set up your phone line</RouterLink> to see
          who is calling.</template
        >
      </span>
      <v-text-field
        v-model="q"
        type="search"
        class="inline-edit narrow"
        placeholder="Name or number"
        aria-label="Find a call"
      />
      <FilterBar :set="[way, state]">
        <v-select
          v-model="way"
          class="inline-edit narrow"
          aria-label="Direction"
          :items="[
            { value: '', title: 'In and out' },
            { value: 'in', title: 'They called' },
            { value: 'out', title: 'We called' },
          ]"
        />
        <v-select
          v-model="state"
          class="inline-edit narrow"
          aria-label="Which calls"
          :items="[
            { value: '', title: 'All calls' },
            { value: 'missed', title: 'Missed' },
            { value: 'unlogged', title: 'Not logged yet' },
          ]"
        />
      </FilterBar>
      <v-btn class="fill" to="/calls/new">Log a call</v-btn>
    </div>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      name="calls"
      label="Calls"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :name-of="(row) => row.person?.name ?? row.written"
      :to="(row) => (row.saved && row.person ? `/people/${row.person.id}` : `/calls/${row.id}`)"
      @more="more"
      @retry="reload"
    >
      <template #cell-startedAt="{ row }"
        ><span class="soft">{{ day(row.startedAt) }} {{ clock(row.startedAt) }}</span></template
      >
      <template #cell-person="{ row }">
        <RouterLink v-if="row.person" :to="`/people/${row.person.id}`"
          ><b>{{ row.person.name }}</b></RouterLink
        >
        <span v-else class="soft">Unknown caller</span>
      </template>
      <template #cell-number="{ row }">
        <PhoneButton
          v-if="row.number"
          :number="row.number"
          :shown="row.written"
          :person-id="row.person?.id"
        />
        <span v-else class="soft">withheld</span>
      </template>
      <template #cell-direction="{ row }">{{
        row.direction === 'in' ? 'they called' : 'we called'
      }}</template>
      <template #cell-state="{ row }"
        ><span :class="{ late: row.state === 'missed' || row.state === 'failed' }">{{
          STATES[row.state]
        }}</span></template
      >
      <template #cell-log="{ row }">
        <span v-if="row.saved" class="soft">logged</span>
        <RouterLink v-else :to="`/calls/${row.id}`" class="quiet-link">Log it</RouterLink>
      </template>
      <template #empty>
        <p class="empty">
          {{
            q || way || state
              ? 'No calls match these filters.'
              : 'No calls yet. When your line rings, the caller is shown in a corner; press any phone number to call it.'
          }}
        </p>
      </template>
    </RecordTable>
  </div>
</template>

<style scoped>
.narrow {
  width: 150px;
}
</style>
