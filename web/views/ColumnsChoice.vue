<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import { TOTALS } from '@emporikon/core/query/operators';
import type { How, Total } from '@emporikon/core/query/types';
import { computed } from 'vue';
import { HOW_WORDS } from './useShown';

/** Which fields a view shows, in which order, and what is added up. */
const props = defineProps<{
  fields: ReadonlyMap<string, QueryField>;
  columns: readonly string[];
  totals: readonly Total[];
  name: string;
}>();
const emit = defineEmits<{ change: [patch: { columns?: string[]; totals?: Total[] }] }>();
const shown = computed(() => props.columns.filter((key) => props.fields.has(key)));
const others = computed(() =>
  [...props.fields.values()]
    .filter(({ key }) => !props.columns.includes(key))
    .map(({ key, label }) => ({ value: key, title: label }))
    .sort((a, b) => a.title.localeCompare(b.title)),
);
const possible = computed(() =>
  [...props.fields.values()].flatMap(({ key: field, label, type }) =>
    TOTALS[type].map((how) => ({
      value: `${how} ${field}`,
      title: `${label}, ${HOW_WORDS[how].toLowerCase()}`,
    })),
  ),
);
const totalKeys = computed(() => props.totals.map(({ how, field }) => `${how} ${field ?? ''}`));

function shift(at: number, by: 1 | -1): void {
  const all = [...shown.value];
  const [moved] = all.splice(at, 1);
  if (moved) all.splice(at + by, 0, moved);
  emit('change', { columns: all });
}
const setTotals = (keys: readonly string[]): void =>
  emit('change', {
    totals: keys.map((key) => {
      const [how = 'sum', field = ''] = key.split(' ');
      return { how: how as How, field };
    }),
  });
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: opener }">
      <v-btn class="word" v-bind="opener">Columns {{ shown.length }}</v-btn>
    </template>
    <div class="columns" role="group" aria-label="Columns">
      <div v-for="(key, at) in shown" :key="key" class="column">
        <span>{{ fields.get(key)?.label }}</span>
        <v-btn
          class="word"
          :disabled="at === 0"
          :aria-label="`Move ${fields.get(key)?.label} left`"
          @click="shift(at, -1)"
          >Left</v-btn
        >
        <v-btn
          class="word"
          :disabled="at === shown.length - 1"
          :aria-label="`Move ${fields.get(key)?.label} right`"
          @click="shift(at, 1)"
          >Right</v-btn
        >
        <v-btn
          class="word"
          :disabled="key === name"
          :aria-label="`Hide ${fields.get(key)?.label}`"
          @click="emit('change', { columns: shown.filter((one) => one !== key) })"
          >Hide</v-btn
        >
      </div>
      <v-autocomplete
        :key="shown.length"
        :items="others"
        label="Add a column"
        @update:model-value="$event && emit('change', { columns: [...shown, $event] })"
      />
      <v-autocomplete
        :model-value="totalKeys"
        :items="possible"
        multiple
        label="Totals"
        @update:model-value="setTotals"
      />
    </div>
  </v-menu>
</template>

<style scoped>
.columns {
  display: grid;
  gap: 4px;
  width: 340px;
  max-width: 90vw;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.column {
  display: grid;
  grid-template-columns: minmax(120px, 1fr) auto auto auto;
  gap: 12px;
  align-items: center;
}
</style>
