<script setup lang="ts">
import { computed } from 'vue';
import type { RecordValue } from './forms';
import { useRecordSearch } from './useRecordSearch';

/** A field of a form that holds one record: found by any part of its name, or, where that may be, a new one by name. */
const props = defineProps<{
  kind: 'person' | 'company' | 'deal' | 'project' | 'case';
  label: string;
  mayBeNew?: boolean;
}>();
const model = defineModel<RecordValue | null>({ required: true });
const { hits, isLooking, look } = useRecordSearch(props.kind);
const items = computed((): (RecordValue & { hint?: string })[] => hits.value);

function type(typed: string | null): void {
  if (model.value?.id && typed === model.value.label) return;
  if (props.mayBeNew) model.value = typed?.trim() ? { label: typed } : null;
  void look(typed ?? '');
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
    :items="items"
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
    @update:search="type"
    @update:model-value="pick"
  >
    <template #item="{ item, props: line }">
      <v-list-item v-bind="line" :title="item.label" :subtitle="item.hint || undefined" />
    </template>
  </v-combobox>
</template>
