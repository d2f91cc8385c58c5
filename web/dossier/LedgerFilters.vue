<script setup lang="ts">
import type { About } from '@emporikon/contract/ledger';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../shell/api';
import { monthName, plainNumber } from '../shell/format';
import { useTeam } from '../shell/useTeam';
import { blankFilters, queryOf, type LedgerFilters } from './filters';

/** What a ledger is narrowed by: its kinds as words, and behind “Search” the words, the people and the months. */
const props = defineProps<{ about: About }>();
const model = defineModel<LedgerFilters>({ required: true });
const KINDS = [
  { value: '', name: 'All' },
  { value: 'mail', name: 'Email' },
  { value: 'call', name: 'Calls' },
  { value: 'meeting', name: 'Meetings' },
  { value: 'note', name: 'Notes' },
  { value: 'change', name: 'Changes' },
] as const;
const OTHER_KINDS = [
  { value: 'visit', title: 'Visits' },
  { value: 'form', title: 'Forms' },
  { value: 'task', title: 'Tasks done' },
  { value: 'quote', title: 'Quotes' },
  { value: 'file', title: 'Files' },
];
const isOpen = ref(false);
const team = useTeam();
const months = shallowRef<{ value: string; title: string }[]>([]);
const people = shallowRef<{ value: string; title: string }[]>([]);
const set = (patch: Partial<LedgerFilters>): void => void (model.value = { ...model.value, ...patch });
const count = computed(
  () => [model.value.q, model.value.with, model.value.by, model.value.upTo].filter(Boolean).length,
);

/** The months in which something happened, and on a company or a deal with whom. */
async function readChoices(): Promise<void> {
  const [found, newest] = await Promise.all([
    api('GET /api/ledger/months', { query: { ...props.about, ...queryOf({ ...model.value, upTo: '' }) } }),
    props.about.personId ? null : api('GET /api/ledger', { query: { ...props.about, limit: 200 } }),
  ]);
  months.value = found.items.map(({ month, count: entries }) => ({
    value: month,
    title: `${monthName(month)} (${plainNumber(entries)})`,
  }));
  const named = new Map(
    (newest?.items ?? []).flatMap(({ people: all }) => all.map((one) => [one.id, one.name])),
  );
  people.value = [...named]
    .map(([value, title]) => ({ value, title }))
    .sort((a, b) => a.title.localeCompare(b.title));
}
watch(isOpen, (open) => open && void readChoices().catch(() => undefined));
function close(): void {
  isOpen.value = false;
  set({ ...blankFilters(), kind: model.value.kind });
}
</script>

<template>
  <span class="kinds"
    ><v-btn
      v-for="kind in KINDS"
      :key="kind.value"
      class="word"
      :aria-pressed="model.kind === kind.value"
      @click="set({ kind: kind.value })"
    >
      {{ kind.name }}
    </v-btn>
    <v-btn class="word" :aria-expanded="isOpen" @click="isOpen ? close() : (isOpen = true)">
      {{ isOpen ? 'Close search' : count ? `Search (${count})` : 'Search' }}
    </v-btn></span
  >
  <div v-if="isOpen" class="narrow" role="search" aria-label="Search what happened">
    <v-text-field
      :model-value="model.q"
      label="Words"
      autofocus
      clearable
      placeholder="invoice, cold boxes …"
      @update:model-value="set({ q: $event ?? '' })"
    />
    <v-select
      :model-value="OTHER_KINDS.some((one) => one.value === model.kind) ? model.kind : null"
      label="Other kinds"
      :items="OTHER_KINDS"
      clearable
      placeholder="All"
      persistent-placeholder
      @update:model-value="set({ kind: $event ?? '' })"
    />
    <v-select
      v-if="people.length"
      :model-value="model.with || null"
      label="Person"
      :items="people"
      clearable
      placeholder="Anybody"
      persistent-placeholder
      @update:model-value="set({ with: $event ?? '' })"
    />
    <v-select
      :model-value="model.by || null"
      label="Colleague"
      :items="team.map((user) => ({ value: user.id, title: user.name }))"
      clearable
      placeholder="Anybody"
      persistent-placeholder
      @update:model-value="set({ by: $event ?? '' })"
    />
    <v-select
      :model-value="model.upTo || null"
      label="Go to"
      :items="months"
      clearable
      placeholder="Newest"
      persistent-placeholder
      no-data-text="Nothing logged yet"
      @update:model-value="set({ upTo: $event ?? '' })"
    />
  </div>
</template>

<style scoped>
.kinds {
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
.narrow {
  flex: 1 0 100%;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 8px 16px;
  align-items: start;
  padding: 4px 0 8px;
}
</style>
