<script setup lang="ts">
import type { SearchHit } from '@emporikon/contract/settings';
import { ref, useId } from 'vue';
import { api } from './api';

/** A field in which one record of a kind is looked for by any part of it and picked from what is found. */
const props = defineProps<{ kind: SearchHit['kind']; label: string; placeholder?: string }>();
const emit = defineEmits<{ pick: [hit: { id: string; label: string }]; typed: [text: string] }>();
const id = useId();
const text = ref('');
const hits = ref<SearchHit[]>([]);
let newest = 0;

const shown = (hit: SearchHit): string => (hit.hint ? `${hit.label}, ${hit.hint}` : hit.label);

async function look(): Promise<void> {
  emit('typed', text.value);
  const found = hits.value.find((hit) => shown(hit) === text.value);
  if (found) {
    emit('pick', { id: found.id, label: found.label });
    text.value = '';
    hits.value = [];
    return;
  }
  const mine = ++newest;
  if (text.value.trim().length < 2) return;
  const { items } = await api('GET /api/search', { query: { q: text.value, limit: 20 } });
  if (mine === newest) hits.value = items.filter((hit) => hit.kind === props.kind);
}

/** Enter takes the first that is found, also where the answer is still on its way. */
async function takeFirst(): Promise<void> {
  if (!hits.value.length) await look();
  const [first] = hits.value;
  if (!first) return;
  emit('pick', { id: first.id, label: first.label });
  text.value = '';
  hits.value = [];
}
</script>

<template>
  <span class="pick">
    <input
      v-model="text"
      class="inline-edit"
      :list="id"
      :aria-label="label"
      :placeholder="placeholder ?? 'name'"
      autocomplete="off"
      maxlength="200"
      @input="look"
      @keydown.enter.prevent="takeFirst"
    />
    <datalist :id="id">
      <option v-for="hit in hits" :key="hit.id" :value="shown(hit)"></option>
    </datalist>
  </span>
</template>

<style scoped>
.pick {
  display: inline-block;
  min-width: 150px;
}
</style>
