<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { BulkChange } from '@emporikon/contract/bulk';
import { ref, shallowRef } from 'vue';
import { api, wordsOf } from '../shell/api';
import { plainNumber } from '../shell/format';

/** The records that could not be changed, with why; read when somebody opens them. */
const props = defineProps<{ change: BulkChange; isOpen: boolean }>();
const PLACES: Record<BulkChange['kind'], string> = {
  ...{ person: '/people', company: '/companies', lead: '/leads', deal: '/deals' },
};
const rows = shallowRef<Reply<'GET /api/bulk-changes/:id/rows'>['items']>([]);
const next = ref<number | null>(null);
const isShown = ref(false);
const error = ref('');

async function more(): Promise<void> {
  isShown.value = true;
  try {
    const page = await api('GET /api/bulk-changes/:id/rows', {
      params: { id: props.change.id },
      query: { outcome: 'refused', after: next.value ?? 0, limit: 60 },
    });
    rows.value = [...rows.value, ...page.items];
    next.value = page.next;
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
if (props.isOpen) void more();
</script>

<template>
  <v-btn v-if="!isShown" class="word on" @click="more"
    >{{ plainNumber(change.counts.refused) }} could not be changed</v-btn
  >
  <template v-else>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <ul aria-label="Could not be changed">
      <li v-for="row in rows" :key="row.row">
        <RouterLink v-if="row.name" :to="`${PLACES[change.kind]}/${row.id}`">{{ row.name }}</RouterLink>
        <span v-else class="soft">Not there any more, or not shown to you</span>
        <span class="soft"> {{ row.why }}</span>
      </li>
    </ul>
    <v-btn v-if="next !== null" class="word" @click="more">Show more</v-btn>
  </template>
</template>

<style scoped>
ul {
  margin: 4px 0 0;
  padding: 0;
  list-style: none;
}
</style>
