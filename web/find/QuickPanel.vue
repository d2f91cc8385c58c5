<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { SearchHit } from '@emporikon/contract/settings';
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import PhoneButton from '../calls/PhoneButton.vue';
import TurnWords from '../dossier/TurnWords.vue';
import { api } from '../shell/api';
import { due, when } from '../shell/format';

/** What there is to know of a record that was found, before it is opened: the turn, the last words, the next move. */
const props = defineProps<{ hit: Pick<SearchHit, 'kind' | 'id' | 'label' | 'hint'> }>();
const PAUSE_MS = 160;
type Ledger = Reply<'GET /api/ledger'>;
const ledger = shallowRef<Ledger | null>(null);
const person = shallowRef<Reply<'GET /api/people/:id'> | null>(null);
const nextMove = shallowRef<Reply<'GET /api/people/:id'>['nextMove']>(null);
const isRead = ref(false);
let timer: ReturnType<typeof setTimeout> | undefined;

const READERS = {
  person: (id: string) => api('GET /api/people/:id', { params: { id } }),
  company: (id: string) => api('GET /api/companies/:id', { params: { id } }),
  lead: (id: string) => api('GET /api/leads/:id', { params: { id } }),
  deal: (id: string) => api('GET /api/deals/:id', { params: { id } }),
  project: (id: string) => api('GET /api/projects/:id', { params: { id } }),
  case: (id: string) => api('GET /api/cases/:id', { params: { id } }),
} as const;

async function read(): Promise<void> {
  const { kind, id } = props.hit;
  if (kind === 'file') return;
  const about = { [`${kind}Id`]: id };
  const [record, said] = await Promise.all([
    READERS[kind](id),
    api('GET /api/ledger', { query: { ...about, limit: 1 } }),
  ]);
  if (id !== props.hit.id) return;
  person.value = kind === 'person' ? (record as Reply<'GET /api/people/:id'>) : null;
  nextMove.value = 'nextMove' in record ? record.nextMove : (record.moves[0] ?? null);
  ledger.value = said;
  isRead.value = true;
}
watch(
  () => props.hit.id,
  () => {
    isRead.value = false;
    clearTimeout(timer);
    timer = setTimeout(() => void read().catch(() => undefined), PAUSE_MS);
  },
  { immediate: true },
);
onScopeDispose(() => clearTimeout(timer));

const numbers = (): { id: string; value: string; normalized: string }[] =>
  (person.value?.contacts ?? []).filter(({ kind }) => kind === 'phone').slice(0, 2);
const address = (): string | undefined => person.value?.contacts.find(({ kind }) => kind === 'email')?.value;
</script>

<template>
  <aside class="panel" aria-label="At a glance">
    <h2>{{ hit.label }}</h2>
    <p class="soft">{{ hit.hint }}</p>
    <template v-if="isRead && ledger">
      <TurnWords :turn="ledger.turn" />
      <p v-if="ledger.items[0]">
        <span class="cap">Last words, {{ when(ledger.items[0].at) }}</span>
        <br />{{ ledger.items[0].headline }}
      </p>
      <p>
        <span class="cap">Next move</span><br />
        <template v-if="nextMove"
          ><b>{{ nextMove.title }}</b
          >, {{ due(nextMove) }}</template
        ><span v-else class="late">None set</span>
      </p>
      <p v-if="numbers().length || address()" class="ways">
        <span v-for="one in numbers()" :key="one.id"
          >Call <PhoneButton :number="one.normalized" :shown="one.value" :person-id="hit.id"
        /></span>
        <a v-if="address()" class="quiet-link" :href="`mailto:${address()}`">Write to {{ address() }}</a>
      </p>
    </template>
    <template v-else><span v-for="n in 3" :key="n" class="ghost"></span></template>
  </aside>
</template>

<style scoped>
.panel {
  padding: 10px 14px;
  min-width: 0;
  font-size: 13px;
}
p {
  margin: 4px 0;
}
.ways {
  display: grid;
  gap: 2px;
}
</style>
