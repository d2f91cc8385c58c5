<script setup lang="ts">
import type { Term } from '@emporikon/contract/terms';
import { countable, isOwnTerm, type TermList } from '@emporikon/core/lifecycle/terms';
import { computed, ref } from 'vue';
import EditCell from '../kit/EditCell.vue';
import NumberField from '../kit/NumberField.vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useTaskAction } from '../tasks/useTaskAction';
import RetirePanel from './RetirePanel.vue';

/** What people, leads and companies can be called: built-in terms renamed, and more that count as one of them. */
const session = useSession();
const run = useTaskAction();
const mayChange = computed(() => session.may('settings.fields'));
const { data, load, error } = useFetched(() => api('GET /api/terms'), ['terms']);
const LISTS = [
  { value: 'standing', title: 'Standings of people', noun: 'standing', example: 'Regular' },
  { value: 'leadStatus', title: 'Statuses of leads', noun: 'status', example: 'Demo booked' },
  { value: 'companyKind', title: 'Kinds of companies', noun: 'kind', example: 'Council' },
] as const satisfies readonly { value: TermList; title: string; noun: string; example: string }[];
const list = ref<TermList>('standing');
const shown = computed(() => LISTS.find(({ value }) => value === list.value) ?? LISTS[0]);
const terms = computed(() => (data.value?.items ?? []).filter((term) => term.list === list.value));
const builtIn = computed(() =>
  terms.value
    .filter((term) => !isOwnTerm(term) && countable(list.value).includes(term.key))
    .map(({ key, name }) => ({ value: key, title: name })),
);
const nameOf = (key: string): string => terms.value.find((term) => term.key === key)?.name ?? key;
const name = ref('');
const countsAs = ref<string | null>(null);
const open = ref<Term | null>(null);

function show(next: TermList): void {
  list.value = next;
  open.value = null;
  name.value = '';
  countsAs.value = null;
}
type Patch = { name?: string; position?: number; isRetired?: false };
const put = (term: Term, patch: Patch, version = term.version): Promise<{ eventId: string | null }> =>
  api('PATCH /api/terms/:id', { params: { id: term.id }, body: { version, ...patch } });
async function change(term: Term, patch: Patch): Promise<void> {
  await run(`Changed “${term.name}”.`, () => put(term, patch));
  await load();
}
async function add(): Promise<void> {
  const body = { list: list.value, name: name.value.trim(), countsAs: countsAs.value ?? '' };
  if (await run(`Added “${body.name}”.`, () => api('POST /api/terms', { body }))) name.value = '';
  await load();
}
async function retired(): Promise<void> {
  open.value = null;
  await load();
}
</script>

<template>
  <PageHead
    title="Standings, statuses and kinds"
    help="Rename them, and add your own. Each of your own counts as a built-in one, so scoring, figures and everything automatic go on as before."
  />
  <v-tabs :model-value="list" aria-label="Which list" @update:model-value="show($event as TermList)">
    <v-tab v-for="each in LISTS" :key="each.value" :value="each.value">{{ each.title }}</v-tab>
  </v-tabs>
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <template v-if="!data"><span v-for="n in 6" :key="n" class="ghost"></span></template>
  <v-table v-else class="book">
    <thead>
      <tr>
        <th>Name</th>
        <th>Counts as</th>
        <th class="num">Order</th>
        <th><span class="visually-hidden">In use</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(term, at) in terms" :key="term.id" :class="{ soft: term.isRetired }">
        <td>
          <EditCell
            label="Name"
            :version="term.version"
            field="name"
            :value="term.name"
            :disabled="!mayChange"
            :save="(value, version) => put(term, { name: value }, version)"
          />
        </td>
        <td>{{ isOwnTerm(term) ? nameOf(term.countsAs) : 'Built in' }}</td>
        <td class="num">
          <NumberField
            :model-value="at + 1"
            :min="1"
            :max="terms.length"
            :aria-label="`Order of ${term.name}`"
            :disabled="!mayChange"
            @change="change(term, { position: $event })"
          />
        </td>
        <td>
          <template v-if="mayChange && isOwnTerm(term)">
            <v-btn
              v-if="term.isRetired"
              class="word"
              :aria-label="`Use again ${term.name}`"
              @click="change(term, { isRetired: false })"
              >Use again</v-btn
            >
            <v-btn class="word" :aria-label="`Retire ${term.name}`" @click="open = term">{{
              term.isRetired ? 'Change records' : 'Retire'
            }}</v-btn>
          </template>
        </td>
      </tr>
    </tbody>
  </v-table>
  <form v-if="data && mayChange" class="make" @submit.prevent="add">
    <v-text-field
      v-model="name"
      :label="`Another ${shown.noun}`"
      required
      maxlength="40"
      :placeholder="shown.example"
    />
    <v-select v-model="countsAs" label="Counts as" :items="builtIn" />
    <v-btn class="fill" type="submit" :disabled="!name.trim() || !countsAs">Add</v-btn>
  </form>
  <RetirePanel
    v-if="open"
    :key="open.id"
    :term="open"
    :others="
      terms.filter((term) => term.countsAs === open?.countsAs && term.id !== open?.id && !term.isRetired)
    "
    @close="open = null"
    @done="retired"
  />
</template>

<style scoped>
.v-tabs {
  margin-bottom: 12px;
}
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 640px;
  padding-top: 14px;
}
</style>
