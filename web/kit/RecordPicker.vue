<script setup lang="ts">
import type { SearchHit } from '@emporikon/contract/settings';
import { ref } from 'vue';
import { useRecordSearch } from './useRecordSearch';

/** A field in which one record of a kind is looked for by any part of it and picked from what is found. */
const props = defineProps<{
  kind: SearchHit['kind'];
  label: string;
  placeholder?: string;
}>();
const emit = defineEmits<{ pick: [hit: { id: string; label: string }]; typed: [text: string] }>();
const text = ref('');
const { hits, isLooking, look, clear, isLongEnough } = useRecordSearch(props.kind);

function type(typed: string | null): void {
  text.value = typed ?? '';
  emit('typed', text.value);
  void look(text.value);
}

function pick(hit: SearchHit | null | undefined): void {
  if (!hit) return;
  emit('pick', { id: hit.id, label: hit.label });
  text.value = '';
  clear();
}

/** Enter takes the first that is found, also where the answer is still on its way. */
async function takeFirst(): Promise<void> {
  if (isLooking.value || (!hits.value.length && isLongEnough(text.value))) {
    await look(text.value);
    pick(hits.value[0]);
  }
}
</script>

<template>
  <v-autocomplete
    class="pick"
    :model-value="null"
    :search="text"
    :items="hits"
    item-title="label"
    item-value="id"
    :aria-label="label"
    :placeholder="placeholder ?? 'Name'"
    :loading="isLooking"
    return-object
    no-filter
    hide-no-data
    auto-select-first
    menu-icon=""
    autocomplete="off"
    maxlength="200"
    @update:search="type"
    @update:model-value="pick"
    @keydown.enter.prevent="takeFirst"
  >
    <template #item="{ item, props: line }">
      <v-list-item v-bind="line" :title="item.label" :subtitle="item.hint || undefined" />
    </template>
  </v-autocomplete>
</template>

<style scoped>
.pick {
  min-width: 150px;
}
</style>
