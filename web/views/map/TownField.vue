<script setup lang="ts">
import type { Town } from '@emporikon/contract/places';
import type { Box } from '@emporikon/core/places/area';
import { ref, shallowRef, watch } from 'vue';
import { api } from '../../shell/api';
import { localeOf } from '../../shell/format';
import { regionNames } from '../../shell/intl';

/** Goes to a town by its name. */
const emit = defineEmits<{ go: [box: Box] }>();
const words = ref('');
const towns = shallowRef<Town[]>([]);
const [LEAST, AROUND, MOST] = [2, 0.25, 12];
const chosen = ref<Town | null>(null);
const country = (code: string): string => regionNames(localeOf()).of(code) ?? code;

watch(words, async (typed) => {
  const name = typed.trim();
  if (name.length < LEAST) return void (towns.value = []);
  try {
    const { items } = await api('GET /api/places/towns', { query: { name, limit: MOST } });
    if (words.value.trim() === name) towns.value = items;
  } catch {
    towns.value = [];
  }
});
function go(town: Town | null): void {
  if (town) emit('go', [town.lon - AROUND, town.lat - AROUND, town.lon + AROUND, town.lat + AROUND]);
  chosen.value = null;
}
</script>

<template>
  <v-autocomplete
    v-model:search="words"
    :model-value="chosen"
    :items="towns.map((town) => ({ value: town, title: `${town.name}, ${country(town.country)}` }))"
    no-filter
    hide-no-data
    label="Go to a town"
    @update:model-value="go"
  />
</template>
