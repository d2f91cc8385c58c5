<script setup lang="ts">
import { plainNumber } from '../shell/format';
import type { ImportDetail } from '@emporikon/contract/imports';
import { ref, watch } from 'vue';
import { api } from '../shell/api';
import type { Reply } from '@emporikon/contract';
import { useUndo } from '../shell/undo';

const props = defineProps<{ id: string; problems: ImportDetail['problems'] }>();
type Rows = Reply<'GET /api/imports/:id/rows'>;
const VERDICTS = ['unusable', 'maybe', 'same', 'new'] as const;
const undo = useUndo();
const verdict = ref<(typeof VERDICTS)[number]>('unusable');
const items = ref<Rows['items']>([]);
const next = ref<number | null>(null);
const WORDS = { unusable: 'Unusable', maybe: 'Maybe somebody', same: 'We know', new: 'New' } as const;

async function load(after = -1): Promise<void> {
  try {
    const page = await api('GET /api/imports/:id/rows', {
      params: { id: props.id },
      query: { verdict: verdict.value, after, limit: 50 },
    });
    items.value = after < 0 ? page.items : [...items.value, ...page.items];
    next.value = page.next;
  } catch (error) {
    undo.fail(error);
  }
}
watch(verdict, () => void load(), { immediate: true });
</script>

<template>
  <ul v-if="problems.length" class="why">
    <li v-for="one in problems" :key="one.text">
      <b class="num">{{ plainNumber(one.rows) }}</b> {{ one.text }}
    </li>
  </ul>
  <div class="tabs" role="group" aria-label="Which rows">
    <v-btn
      v-for="one in VERDICTS"
      :key="one"
      class="word"
      :aria-pressed="verdict === one"
      @click="verdict = one"
    >
      {{ WORDS[one] }}
    </v-btn>
  </div>
  <v-table v-if="items.length" class="book">
    <tbody>
      <tr v-for="row in items" :key="row.row">
        <td class="num soft">{{ row.row + 1 }}</td>
        <td class="cells">{{ row.values.filter(Boolean).join(' · ') }}</td>
        <td>
          {{ row.reason
          }}<RouterLink v-if="row.person" :to="`/people/${row.person.id}`" class="quiet-link">
            {{ row.person.name }}</RouterLink
          >
        </td>
        <td class="soft">{{ row.outcome }}</td>
      </tr>
    </tbody>
  </v-table>
  <p v-else class="soft">No such rows.</p>
  <v-btn v-if="next !== null" class="word" @click="load(next)">More</v-btn>
</template>

<style scoped>
.why {
  list-style: none;
  padding: 0;
  margin: 6px 0;
  columns: 2;
}
.tabs {
  display: flex;
  gap: 16px;
  padding: 8px 0;
}
.cells {
  max-width: 520px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
