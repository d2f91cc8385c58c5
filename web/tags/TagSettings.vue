<script setup lang="ts">
import type { TagMeaning } from '@emporikon/contract/tags';
import { computed, ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { MEANINGS } from '../kit/tagMeanings';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import WordPanel, { type WordKind } from './WordPanel.vue';
import WordTable, { type WordRow } from './WordTable.vue';

/** The words an organisation sorts its records by. */
const session = useSession();
const undo = useUndo();
const {
  data: tags,
  load: loadTags,
  error,
} = useFetched(() => api('GET /api/tags'), ['people', 'deals', 'tag_meanings']);
const { data: lists, load: loadLists } = useFetched(() => api('GET /api/lists'), ['lists', 'list_members']);
const { data: sources, load: loadSources } = useFetched(() => api('GET /api/sources'), ['leads']);
const kind = ref<WordKind>('tag');
const open = ref<WordRow | null>(null);
const KINDS = [
  { value: 'tag', title: 'Tags' },
  { value: 'list', title: 'Lists' },
  { value: 'source', title: 'Sources of leads' },
] as const;

const rows = computed<Record<WordKind, WordRow[]>>(() => ({
  tag: (tags.value?.items ?? []).map(({ tag, people, deals, meaning }) => ({
    ...{ key: tag, name: tag, tone: meaning },
    counts: [people, deals],
  })),
  list: (lists.value?.items ?? []).map(({ id, name, people }) => ({ key: id, name, counts: [people] })),
  source: (sources.value?.items ?? []).map(({ source, leads }) => ({
    ...{ key: source, name: source },
    counts: [leads],
  })),
}));
const COUNTED: Readonly<Record<WordKind, readonly string[]>> = {
  tag: ['People', 'Deals'],
  list: ['People'],
  source: ['Leads'],
};
const EMPTY: Readonly<Record<WordKind, string>> = {
  tag: 'No tags yet. Add one on a person or a deal.',
  list: 'No lists yet.',
  source: 'No leads yet.',
};
const meaningOf = (tag: string): TagMeaning | null =>
  tags.value?.items.find((one) => one.tag === tag)?.meaning ?? null;

async function setMeaning(tag: string, meaning: TagMeaning | null): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/tags/meaning', { body: { tag, meaning } });
    undo.tell({ text: `Changed the colour of “${tag}”.`, eventId });
    await loadTags();
  } catch (problem) {
    undo.fail(problem);
  }
}

function show(next: WordKind): void {
  kind.value = next;
  open.value = null;
}
async function reload(): Promise<void> {
  open.value = null;
  await Promise.all([loadTags(), loadLists(), loadSources()]);
}
</script>

<template>
  <PageHead
    title="Tags, lists and sources"
    help="Renaming or merging one changes every record that has it."
  />
  <v-tabs :model-value="kind" aria-label="What to look after" @update:model-value="show($event as WordKind)">
    <v-tab v-for="one in KINDS" :key="one.value" :value="one.value">{{ one.title }}</v-tab>
  </v-tabs>
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <WordTable
    :key="kind"
    :rows="rows[kind]"
    :label="KINDS.find(({ value }) => value === kind)?.title ?? ''"
    :counted="COUNTED[kind]"
    :may-change="session.may('settings.fields')"
    :empty="EMPTY[kind]"
    @change="open = $event"
  >
    <template v-if="kind === 'tag'" #more="{ row }">
      <v-select
        v-if="session.may('settings.fields')"
        :model-value="meaningOf(row.name)"
        :items="MEANINGS"
        :aria-label="`What ${row.name} means`"
        class="meaning"
        @update:model-value="setMeaning(row.name, $event)"
      />
      <span v-else class="meaning">{{
        MEANINGS.find(({ value }) => value === meaningOf(row.name))?.title
      }}</span>
    </template>
  </WordTable>
  <WordPanel
    v-if="open"
    :key="`${kind} ${open.key}`"
    :kind="kind"
    :row="open"
    :others="rows[kind].filter(({ key }) => key !== open?.key)"
    @close="open = null"
    @done="reload"
  />
</template>

<style scoped>
.v-tabs {
  margin-bottom: 12px;
}
.meaning {
  max-width: 180px;
}
</style>
