<script setup lang="ts">
import { computed } from 'vue';
import type { Column } from './columns';

/** By what a list of cards is sorted, where no heads of columns are there to be pressed. */
const props = defineProps<{ columns: readonly Column[] }>();
const sort = defineModel<string>('sort', { required: true });
const direction = defineModel<'asc' | 'desc'>('direction', { required: true });
const items = computed(() =>
  props.columns.flatMap(({ title, sort: name, firstWay = 'asc', isReversed = false }) =>
    name
      ? [firstWay, firstWay === 'asc' ? 'desc' : 'asc'].map((way) => ({
          value: `${name} ${way}`,
          title: `${title} ${(way === 'asc') !== isReversed ? '↑' : '↓'}`,
        }))
      : [],
  ),
);
function choose(chosen: string): void {
  const [name = '', way] = chosen.split(' ');
  sort.value = name;
  direction.value = way === 'desc' ? 'desc' : 'asc';
}
</script>

<template>
  <v-select
    class="inline-edit"
    aria-label="Sort by"
    prefix="By"
    :model-value="`${sort} ${direction}`"
    :items="items"
    @update:model-value="choose"
  />
</template>
