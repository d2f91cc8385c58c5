<script setup lang="ts">
import { useSession } from '../shell/session';
import FilterBar from '../kit/FilterBar.vue';
import { ref } from 'vue';
import PhoneButton from '../calls/PhoneButton.vue';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import SelectionBar from '../bulk/SelectionBar.vue';
import NewButton from '../make/NewButton.vue';
import { api } from '../shell/api';
import { ago, due, shownCount } from '../shell/format';
import TurnWords from '../dossier/TurnWords.vue';
import { useFetched } from '../shell/live';
import TaskLink from '../tasks/TaskLink.vue';
import { reloadOn, useLongList } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { useTerms } from '../terms/useTerms';

type Sort = 'name' | 'jobTitle' | 'company' | 'standing';

const q = useQueryRef('q', '');
const tag = useQueryRef('tag', '');
const list = useQueryRef('list', '');
const news = useQueryRef<'' | 'mine'>('news', '');
const inactive = useQueryRef<'without' | 'only'>('inactive', 'without');
const { nameOf } = useTerms();
const session = useSession();
const sort = useQueryRef<Sort>('sort', 'name');
const direction = useQueryRef<'asc' | 'desc'>('direction', 'asc');
const { data: lists } = useFetched(() => api('GET /api/lists'), ['people', 'lists', 'list_members']);
const { items, hasMore, more, error, isOld, reload } = useLongList(
  (cursor) =>
    api('GET /api/people', {
      query: {
        cursor,
        q: q.value,
        tag: tag.value || undefined,
        list: list.value || undefined,
        news: news.value || undefined,
        inactive: inactive.value,
        sort: sort.value,
        direction: direction.value,
        limit: 60,
      },
    }),
  ['people', 'companies', 'contact_points', 'ledger_links', 'tasks'],
);
const ticked = ref<string[]>([]);
reloadOn(
  () => [q.value, tag.value, list.value, news.value, inactive.value, sort.value, direction.value],
  reload,
);
const COLUMNS: Column[] = [
  { key: 'fullName', title: 'Name', width: 19, sort: 'name', isName: true },
  { key: 'jobTitle', title: 'Job title', width: 15, sort: 'jobTitle' },
  { key: 'company', title: 'Company', width: 20, sort: 'company', onPhone: true },
  { key: 'email', title: 'Email', width: 25 },
  { key: 'phone', title: 'Phone', width: 13, onPhone: true },
  { key: 'standing', title: 'Standing', width: 8, sort: 'standing' },
  { key: 'owner', title: 'Owner', width: 10, isHidden: true },
  { key: 'spokenAt', title: 'Last spoken to', width: 10, isHidden: true },
  { key: 'touchedAt', title: 'Last touched', width: 10, isHidden: true },
  { key: 'daysQuiet', title: 'Days quiet', width: 8, isNumber: true, isHidden: true },
  { key: 'nextMove', title: 'Next move', width: 18, isHidden: true },
  { key: 'turn', title: 'Turn', width: 22, isHidden: true },
];
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>People</h1>
      <v-text-field
        v-model="q"
        type="search"
        class="inline-edit"
        placeholder="Name, company or email"
        aria-label="Narrow by name"
      />
      <FilterBar :set="[tag, list, news, inactive !== 'without']">
        <v-select
          v-model="tag"
          class="inline-edit"
          aria-label="With the tag"
          :items="[
            { value: '', title: 'Any tag' },
            ...(lists?.tags ?? []).map((one) => ({ value: one.tag, title: `${one.tag} (${one.people})` })),
          ]"
        />
        <v-select
          v-model="list"
          class="inline-edit"
          aria-label="On the list"
          :items="[
            { value: '', title: 'Any list' },
            ...(lists?.items ?? []).map((one) => ({
              value: one.id,
              title: `${one.name} (${shownCount(one.people)})`,
            })),
          ]"
        />
        <v-select
          v-model="news"
          class="inline-edit"
          aria-label="New or all"
          :items="[
            { value: '', title: 'New or not' },
            { value: 'mine', title: 'New for me' },
          ]"
        />
        <v-select
          v-model="inactive"
          class="inline-edit"
          aria-label="Active or inactive"
          :items="[
            { value: 'without', title: 'Active' },
            { value: 'only', title: 'Inactive' },
          ]"
        />
      </FilterBar>
      <RouterLink
        class="word"
        :to="{ path: '/people/triage', query: { ...(list ? { list } : {}), ...(tag ? { tag } : {}) } }"
        >Triage these</RouterLink
      >
      <a v-if="session.may('people.export')" class="word" href="/api/people.csv" download>Export as CSV</a>
      <NewButton what="person" />
    </div>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      v-model:selected="ticked"
      name="people"
      label="People"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :is-old="isOld"
      :name-of="(row) => row.fullName"
      :to="(row) => `/people/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #cell-fullName="{ row }">
        <RouterLink :to="`/people/${row.id}`"
          ><b>{{ row.fullName }}</b></RouterLink
        >
        <span v-if="row.inactive" class="soft">inactive</span>
      </template>
      <template #cell-company="{ row }">
        <RouterLink v-if="row.company" :to="`/companies/${row.company.id}`" class="quiet-link">{{
          row.company.name
        }}</RouterLink>
      </template>
      <template #cell-standing="{ row }">{{ nameOf(row.standingTerm ?? row.standing) }}</template>
      <template #cell-phone="{ row }">
        <PhoneButton v-if="row.phone" :number="row.phone" :person-id="row.id" />
      </template>
      <template #cell-spokenAt="{ row }">{{ row.spokenAt ? ago(row.spokenAt) : '' }}</template>
      <template #cell-touchedAt="{ row }">{{ row.touchedAt ? ago(row.touchedAt) : '' }}</template>
      <template #cell-nextMove="{ row }">
        <template v-if="row.nextMove"
          ><TaskLink :task="row.nextMove" /> <span class="soft">{{ due(row.nextMove) }}</span></template
        >
      </template>
      <template #cell-turn="{ row }"><TurnWords v-if="row.turn.since" :turn="row.turn" /></template>
      <template #empty>
        <p class="empty">
          {{
            q || tag || list
              ? 'Nobody matches these filters.'
              : 'Nobody here yet. File a message from Arrivals, or add a person.'
          }}
        </p>
      </template>
    </RecordTable>
    <SelectionBar kind="person" :ids="ticked" @clear="ticked = []" @done="reload" />
  </div>
</template>
