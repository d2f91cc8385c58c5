<script setup lang="ts">
import type { CaseRow } from '@emporikon/contract/cases';
import { defineAsyncComponent, ref } from 'vue';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import { api } from '../shell/api';
import { day } from '../shell/format';
import { reloadOn, usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { useTeam } from '../shell/useTeam';
import { promiseWords, stateWord, URGENCIES, urgencyWord } from './words';

/** Somebody's trouble, from when it was told until it is solved: what is due first before. */
const MakeDialog = defineAsyncComponent(() => import('../make/MakeDialog.vue'));
const isMaking = ref(false);
const team = useTeam();
const state = useQueryRef<'open' | 'solved' | 'all'>('state', 'open');
const urgency = useQueryRef<CaseRow['urgency'] | ''>('urgency', '');
const owner = useQueryRef('owner', '');
const q = useQueryRef('q', '');
const sort = useQueryRef<'dueAt' | 'openedAt' | 'title'>('sort', 'dueAt');
const direction = useQueryRef<'asc' | 'desc'>('direction', 'asc');
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) =>
    api('GET /api/cases', {
      query: {
        state: state.value,
        urgency: urgency.value || undefined,
        owner: owner.value || undefined,
        q: q.value,
        sort: sort.value,
        direction: direction.value,
        cursor,
        limit: 60,
      },
    }),
  ['cases', 'ledger_links', 'people', 'companies'],
);
reloadOn(() => [state.value, urgency.value, owner.value, q.value, sort.value, direction.value], reload);
const COLUMNS: Column[] = [
  { key: 'title', title: 'Case', width: 24, sort: 'title', isName: true },
  { key: 'person', title: 'Whose', width: 18, onPhone: true },
  { key: 'urgency', title: 'Urgency', width: 9 },
  { key: 'state', title: 'Status', width: 15, onPhone: true },
  { key: 'promise', title: 'Promise', width: 22, sort: 'dueAt' },
  { key: 'opened', title: 'Opened', width: 10, sort: 'openedAt', firstWay: 'desc' },
  { key: 'owner', title: 'Owner', width: 11 },
];
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Cases</h1>
      <v-btn class="fill right" @click="isMaking = true">New case</v-btn>
    </div>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      name="cases"
      label="Cases"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :name-of="(row) => row.title"
      :to="(row) => `/cases/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #tools>
        <v-text-field
          v-model="q"
          class="inline-edit tool"
          aria-label="Find a case"
          placeholder="Find a case"
          clearable
          @click:clear="q = ''"
        />
        <v-select
          v-model="state"
          class="inline-edit tool"
          aria-label="Open or solved"
          :items="[
            { value: 'open', title: 'Open' },
            { value: 'solved', title: 'Solved' },
            { value: 'all', title: 'Open and solved' },
          ]"
        />
        <v-select
          v-model="urgency"
          class="inline-edit tool"
          aria-label="Urgency"
          :items="[{ value: '', title: 'Any urgency' }, ...URGENCIES]"
        />
        <v-select
          v-model="owner"
          class="inline-edit tool"
          aria-label="Owner"
          :items="[
            { value: '', title: 'Anybody’s' },
            ...team.map(({ id, name }) => ({ value: id, title: name })),
          ]"
        />
      </template>
      <template #cell-title="{ row }">
        <RouterLink :to="`/cases/${row.id}`"
          ><b>{{ row.title }}</b></RouterLink
        >
      </template>
      <template #cell-person="{ row }">
        <RouterLink v-if="row.person" :to="`/people/${row.person.id}`" class="quiet-link">{{
          row.person.name
        }}</RouterLink><span v-if="row.person && row.company" class="soft">, {{ row.company.name }}</span
        ><RouterLink v-else-if="row.company" :to="`/companies/${row.company.id}`" class="quiet-link">{{
          row.company.name
        }}</RouterLink>
      </template>
      <template #cell-urgency="{ row }">{{ urgencyWord(row.urgency) }}</template>
      <template #cell-state="{ row }"
        ><span :class="row.state">{{ stateWord(row.state) }}</span></template
      >
      <template #cell-promise="{ row }"
        ><span :class="{ late: row.late && row.state !== 'solved' }">{{ promiseWords(row) }}</span></template
      >
      <template #cell-opened="{ row }">{{ day(row.openedAt) }}</template>
      <template #cell-owner="{ row }"
        ><span class="soft">{{ row.owner.name }}</span></template
      >
      <template #empty>
        <p class="empty">
          {{
            q || urgency || owner || state !== 'open'
              ? 'No cases match these filters.'
              : 'No open cases. A case is opened from an email in Arrivals, from a call, or here.'
          }}
        </p>
      </template>
    </RecordTable>
    <MakeDialog v-if="isMaking" what="case" :begun="{}" @close="isMaking = false" />
  </div>
</template>

<style scoped>
.tool {
  width: 150px;
}
.right {
  margin-left: auto;
}
.new,
.ours {
  color: var(--ours);
}
.theirs {
  color: var(--theirs);
}
</style>
