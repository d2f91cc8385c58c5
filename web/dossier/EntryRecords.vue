<script setup lang="ts">
import type { EntryDetail } from '@emporikon/contract/ledger';
import { computed, ref } from 'vue';
import RecordField from '../kit/RecordField.vue';
import type { RecordValue } from '../kit/forms';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';

/** The records that an entry belongs to; it can be linked to more. */
const props = defineProps<{ entry: EntryDetail }>();
const undo = useUndo();

async function run(text: string, command: () => Promise<{ eventId: string | null }>): Promise<void> {
  try {
    const { eventId } = await command();
    undo.tell({ text, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
}
const KEYS = {
  person: 'personId',
  company: 'companyId',
  deal: 'dealId',
  project: 'projectId',
  case: 'caseId',
} as const;
const KINDS = Object.keys(KEYS) as (keyof typeof KEYS)[];
const records = computed(() => [
  ...props.entry.people.map((one) => ({ ...one, key: 'personId', to: `/people/${one.id}` })),
  ...props.entry.companies.map((one) => ({ ...one, key: 'companyId', to: `/companies/${one.id}` })),
  ...props.entry.deals.map((one) => ({ ...one, key: 'dealId', to: `/deals/${one.id}` })),
  ...props.entry.leads.map((one) => ({ ...one, key: 'leadId', to: `/leads/${one.id}` })),
  ...props.entry.projects.map((one) => ({ ...one, key: 'projectId', to: `/projects/${one.id}` })),
  ...props.entry.cases.map((one) => ({ ...one, key: 'caseId', to: `/cases/${one.id}` })),
]);
const adding = ref<keyof typeof KEYS | null>(null);
async function link(chosen: RecordValue | null): Promise<void> {
  const kind = adding.value;
  if (!kind || !chosen?.id) return;
  const about = { [KEYS[kind]]: chosen.id };
  await run(`Linked to ${chosen.label}.`, () =>
    api('PATCH /api/ledger/:id', { params: { id: props.entry.id }, body: { link: about } }),
  );
  adding.value = null;
}
const unlink = ({ key, id, name }: { key: string; id: string; name: string }): Promise<void> =>
  run(`No longer linked to ${name}.`, () =>
    api('PATCH /api/ledger/:id', { params: { id: props.entry.id }, body: { unlink: { [key]: id } } }),
  );
</script>

<template>
  <h3>Belongs to</h3>
  <ul class="records">
    <li v-for="record in records" :key="record.id">
      <RouterLink :to="record.to" class="quiet-link">{{ record.name }}</RouterLink>
      <v-btn
        v-if="records.length > 1"
        class="word"
        :aria-label="`Unlink ${record.name}`"
        @click="unlink(record)"
        >Unlink</v-btn
      >
    </li>
  </ul>
  <div class="ways">
    <v-btn
      v-for="kind in KINDS"
      :key="kind"
      class="word"
      :aria-pressed="adding === kind"
      @click="adding = adding === kind ? null : kind"
      >Link a {{ kind }}</v-btn
    >
  </div>
  <RecordField
    v-if="adding"
    :key="adding"
    :kind="adding"
    :label="`Find a ${adding}`"
    :model-value="null"
    @update:model-value="link"
  />
</template>

<style scoped>
h3 {
  margin: 18px 0 2px;
}
.records {
  list-style: none;
  margin: 0;
  padding: 0;
}
.records li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
}
</style>
