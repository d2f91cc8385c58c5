<script setup lang="ts">
import { vFocus } from '../kit/focus';
import type { SearchHit } from '@emporikon/contract/settings';
import { ref, watch } from 'vue';
import { api } from '../shell/api';

const props = defineProps<{ id: string; kind: 'person' | 'company' }>();
const emit = defineEmits<{ pick: [id: string] }>();
const PAUSE_MS = 90;
const q = ref('');
const hits = ref<SearchHit[]>([]);
let timer: ReturnType<typeof setTimeout> | undefined;
watch(q, (text) => {
  clearTimeout(timer);
  if (!text.trim()) return void (hits.value = []);
  timer = setTimeout(() => {
    void api('GET /api/search', { query: { q: text, kind: props.kind, limit: 7 } })
      .then(({ items }) => {
        if (q.value === text) hits.value = items.filter((hit) => hit.id !== props.id).slice(0, 6);
      })
      .catch(() => undefined);
  }, PAUSE_MS);
});
</script>

<template>
  <span class="with">
    <v-text-field
      v-model="q"
      v-focus
      type="search"
      class="inline-edit"
      placeholder="Who?"
      aria-label="The other record"
    />
    <v-btn v-for="hit in hits" :key="hit.id" class="word" @click="emit('pick', hit.id)">
      {{ hit.label }}<template v-if="hit.hint"> ({{ hit.hint }})</template>
    </v-btn>
  </span>
</template>

<style scoped>
.with {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
}
</style>
