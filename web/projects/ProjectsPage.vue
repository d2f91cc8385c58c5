<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import { api } from '../shell/api';
import { calendarDay, percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { reloadOn, usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { useTeam } from '../shell/useTeam';

/** What is being delivered, those due first before. */
const MakeDialog = defineAsyncComponent(() => import('../make/MakeDialog.vue'));
const isMaking = ref(false);
const team = useTeam();
const { data: stages } = useFetched(() => api('GET /api/project-stages'), ['project_stages']);
const state = useQueryRef<'open' | 'done' | 'stopped' | 'all'>('state', 'open');
const stage = useQueryRef('stage', '');
const owner = useQueryRef('owner', '');
const q = useQueryRef('q', '');
const sort = useQueryRef<'dueOn' | 'title' | 'createdAt'>('sort', 'dueOn');
const direction = useQueryRef<'asc' | 'desc'>('direction', 'asc');
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) =>
    api('GET /api/projects', {
      query: {
        state: stage.value ? 'all' : state.value,
        stage: stage.value || undefined,
        owner: owner.value || undefined,
        q: q.value,
        sort: sort.value,
        direction: direction.value,
        cursor,
        limit: 60,
      },
    }),
  ['projects', 'project_stages', 'tasks', 'companies'],
);
reloadOn(() => [state.value, stage.value, owner.value, q.value, sort.value, direction.value], reload);
const stageItems = computed(() => [
  { value: '', title: 'Any stage' },
  ...(stages.value?.items ?? [])
    .filter(({ active }) => active)
    .map(({ id, name }) => ({ value: id, title: name })),
]);
const COLUMNS: Column[] = [
  { key: 'title', title: 'Project', width: 26, sort: 'title', isName: true },
  { key: 'company', title: 'Company', width: 20, onPhone: true },
  { key: 'stage', title: 'Stage', width: 14, onPhone: true },
  { key: 'due', title: 'Due', width: 12, sort: 'dueOn' },
  { key: 'progress', title: 'Progress', width: 10, isNumber: true },
  { key: 'tasks', title: 'Tasks done', width: 10, isNumber: true },
  { key: 'owner', title: 'Owner', width: 12 },
];
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Projects</h1>
      <v-btn class="fill right" @click="isMaking = true">New project</v-btn>
    </div>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      name="projects"
      label="Projects"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :name-of="(row) => row.title"
      :to="(row) => `/projects/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #tools>
        <v-text-field
          v-model="q"
          class="inline-edit tool"
          aria-label="Find a project"
          placeholder="Find a project"
          clearable
          @click:clear="q = ''"
        />
        <v-select v-model="stage" class="inline-edit tool" aria-label="Stage" :items="stageItems" />
        <v-select
          v-if="!stage"
          v-model="state"
          class="inline-edit tool"
          aria-label="Open or ended"
          :items="[
            { value: 'open', title: 'Open' },
            { value: 'done', title: 'Done' },
            { value: 'stopped', title: 'Stopped' },
            { value: 'all', title: 'All of them' },
          ]"
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
        <RouterLink :to="`/projects/${row.id}`"
          ><b>{{ row.title }}</b></RouterLink
        >
      </template>
      <template #cell-company="{ row }">
        <RouterLink v-if="row.company" :to="`/companies/${row.company.id}`" class="quiet-link">{{
          row.company.name
        }}</RouterLink>
      </template>
      <template #cell-stage="{ row }">{{ row.stage.name }}</template>
      <template #cell-due="{ row }"
        ><span :class="{ late: row.isLate }">{{
          row.dueOn ? `${calendarDay(row.dueOn)}${row.isLate ? ', late' : ''}` : ''
        }}</span></template
      >
      <template #cell-progress="{ row }">{{
        row.progress === null ? '' : percent(row.progress / 100)
      }}</template>
      <template #cell-tasks="{ row }">{{ row.tasks ? `${row.tasksDone} of ${row.tasks}` : '' }}</template>
      <template #cell-owner="{ row }"
        ><span class="soft">{{ row.owner.name }}</span></template
      >
      <template #empty>
        <p class="empty">
          {{
            q || stage || owner || state !== 'open'
              ? 'No projects match these filters.'
              : 'No open projects. A won deal becomes one on its page, or add one here.'
          }}
        </p>
      </template>
    </RecordTable>
    <MakeDialog v-if="isMaking" what="project" :begun="{}" @close="isMaking = false" />
  </div>
</template>

<style scoped>
.tool {
  width: 150px;
}
.right {
  margin-left: auto;
}
</style>
