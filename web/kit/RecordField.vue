<script setup lang="ts">
import type { SearchHit } from '@emporikon/contract/settings';
import { ref } from 'vue';
import { api } from '../shell/api';
import type { RecordValue } from './forms';

/** A field of a form that holds one record: found by any part of its name, or, where that may be, a new one by name. */
const props = defineProps<{ kind: 'person' | 'company' | 'deal'; label: string; mayBeNew?: boolean }>();
const model = defineModel<RecordValue | null>({ required: true });
const LEAST_TYPED = 2;
const hits = ref<(RecordValue & { hint?: string })[]>([]);
const isLooking = ref(false);
let newest = 0;

async function look(typed: string): Promise<void> {
  if (model.value?.id && typed === model.value.label) return;
  if (props.mayBeNew) model.value = typed.trim() ? { label: typed } : null;
  const mine = ++newest;
  if ((typed ?? '').trim().length < LEAST_TYPED) {
    hits.value = [];
    return;
  }
  isLooking.value = true;
  const { items } = await api('GET /api/search', { query: { q: typed, limit: 20 } });
  if (mine !== newest) return;
  isLooking.value = false;
  hits.value = items
    .filter((hit: SearchHit) => hit.kind === props.kind)
    .map(({ id, label, hint }) => ({ id, label, hint }));
}

function pick(chosen: (RecordValue & { hint?: string }) | string | null): void {
  if (typeof chosen === 'string') {
    if (props.mayBeNew && chosen !== model.value?.label)
      model.value = chosen.trim() ? { label: chosen.trim() } : null;
  } else model.value = chosen?.id ? { id: chosen.id, label: chosen.label } : null;
}
</script>

<template>
  <v-combobox
    :model-value="model"
    :items="hits"
    item-title="label"
    item-value="id"
    :label="label"
    :loading="isLooking"
    :hint="model && !model.id && mayBeNew ? `New ${kind}` : undefined"
    persistent-hint
    return-object
    no-filter
    hide-no-data
    menu-icon=""
    clearable
    autocomplete="off"
    maxlength="200"
    @update:search="look"
    @update:model-value="pick"
  >
    <template #item="{ item, props: line }">
      <v-list-item v-bind="line" :title="item.label" :subtitle="item.hint || undefined" />
    </template>
  </v-combobox>
</template>
