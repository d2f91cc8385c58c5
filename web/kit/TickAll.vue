<script setup lang="ts">
import { computed } from 'vue';

/** The head of a column of ticks: ticks or unticks all that are shown. */
const props = defineProps<{ ids: string[] }>();
const ticked = defineModel<string[]>({ required: true });
const known = computed(() => new Set(ticked.value));
const areAll = computed(() => props.ids.length > 0 && props.ids.every((id) => known.value.has(id)));
const areSome = computed(() => !areAll.value && props.ids.some((id) => known.value.has(id)));
const turn = (): void => void (ticked.value = areAll.value ? [] : [...props.ids]);
</script>

<template>
  <th class="tickbox">
    <span class="visually-hidden">Select</span
    ><v-checkbox-btn
      :model-value="areAll"
      :indeterminate="areSome"
      aria-label="Select all shown"
      @update:model-value="turn"
    />
  </th>
</template>
