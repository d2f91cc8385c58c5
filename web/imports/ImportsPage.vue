<script setup lang="ts">
import type { ImportState } from '@emporikon/contract/imports';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { day, plainNumber } from '../shell/format';
import PageHead from '../kit/PageHead.vue';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import { reloadOn, usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import FileDrop from '../kit/FileDrop.vue';
import { STATE_WORDS } from './words';

const router = useRouter();
const q = useQueryRef('q', '');
const state = useQueryRef<ImportState | ''>('state', '');
const sort = useQueryRef<'createdAt' | 'name' | 'total' | 'state'>('sort', 'createdAt');
const direction = useQueryRef<'asc' | 'desc'>('direction', 'desc');
const {
  items,
  hasMore,
  more,
  error: unread,
  reload,
} = usePaged(
  (cursor) =>
    api('GET /api/imports', {
      query: {
        cursor,
        limit: 50,
        q: q.value,
        state: state.value || undefined,
        sort: sort.value,
        direction: direction.value,
      },
    }),
  ['imports'],
);
reloadOn(() => [q.value, state.value, sort.value, direction.value], reload);
const COLUMNS: Column[] = [
  { key: 'name', title: 'File', width: 34, sort: 'name', isName: true },
  { key: 'total', title: 'Rows', width: 12, sort: 'total', firstWay: 'desc', isNumber: true, onPhone: true },
  { key: 'state', title: 'Status', width: 22, sort: 'state', onPhone: true },
  { key: 'by', title: 'By', width: 18 },
  { key: 'createdAt', title: 'When', width: 14, sort: 'createdAt', firstWay: 'desc' },
];
const pasted = ref('');
const error = ref('');
const isBusy = ref(false);

async function put(body: Blob | string, type: string, name: string): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    const { id } = await api('POST /api/imports', { raw: { data: body, type }, query: { name } });
    await router.push(`/imports/${id}`);
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}

function take(files: FileList | null | undefined): void {
  const [file] = [...(files ?? [])];
  if (!file) return;
  const type = /\.xlsx$/i.test(file.name)
    ? 'application/octet-stream'
    : /\.vcf$/i.test(file.name)
      ? 'text/vcard'
      : 'text/csv';
  void put(file, type, file.name);
}
</script>

<template>
  <div class="page">
    <PageHead
      title="Import"
      help="Bring in people and companies from a table or contact cards. You see what would change before anything is saved, and an import can be undone."
    />
    <div class="bench">
      <FileDrop accept=".csv,.tsv,.xlsx,.vcf" hint="CSV, TSV, Excel or vCard" @take="take">
        Drop a table or a file of contact cards here, or <u>choose a file</u>
      </FileDrop>
      <v-textarea v-model="pasted" class="field" label="Or paste rows" rows="4" />
      <v-btn
        class="fill"
        :disabled="!pasted.trim()"
        :loading="isBusy"
        @click="put(pasted, 'text/plain', 'pasted rows')"
        >Start import</v-btn
      >
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <RecordTable
      v-model:sort="sort"
      v-model:direction="direction"
      name="imports"
      label="Imports"
      :columns="COLUMNS"
      :rows="items"
      :error="unread"
      :has-more="hasMore"
      :name-of="(row) => row.name"
      :to="(row) => `/imports/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #tools>
        <v-select
          v-if="items?.length || q || state"
          v-model="state"
          class="inline-edit narrow"
          aria-label="Status"
          :items="[
            { value: '', title: 'Any status' },
            ...Object.entries(STATE_WORDS).map(([value, title]) => ({ value, title })),
          ]"
        />
        <v-text-field
          v-if="items?.length || q || state"
          v-model="q"
          type="search"
          class="inline-edit narrow"
          placeholder="Name of the file"
          aria-label="Find an import"
        />
      </template>
      <template #cell-name="{ row }">
        <RouterLink :to="`/imports/${row.id}`"
          ><b>{{ row.name }}</b></RouterLink
        >
      </template>
      <template #cell-total="{ row }">{{ plainNumber(row.total) }}</template>
      <template #cell-state="{ row }">{{ STATE_WORDS[row.state] }}</template>
      <template #cell-by="{ row }">{{ row.by.name }}</template>
      <template #cell-createdAt="{ row }"
        ><span class="soft">{{ day(row.createdAt) }}</span></template
      >
      <template #empty>
        <p class="empty">{{ q || state ? 'No imports match these filters.' : 'No imports yet.' }}</p>
      </template>
    </RecordTable>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 20px;
  align-items: end;
  padding-bottom: 18px;
}
.narrow {
  width: 220px;
}
@media (max-width: 800px) {
  .bench {
    grid-template-columns: 1fr;
  }
}
</style>
