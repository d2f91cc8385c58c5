<script setup lang="ts">
import { computed, ref } from 'vue';
import type { TagMeaning } from '@emporikon/contract/tags';
import { toneClass } from '../kit/tagMeanings';
import { plainNumber } from '../shell/format';

/** Words of the organisation's, each with how many records carry it, and what is done with it. */
export interface WordRow {
  key: string;
  name: string;
  counts: readonly number[];
  /** In which colour its name stands. */
  tone?: TagMeaning | null;
}
const props = defineProps<{
  rows: readonly WordRow[];
  label: string;
  /** What is counted, a column each. */
  counted: readonly string[];
  mayChange: boolean;
  empty: string;
}>();
const emit = defineEmits<{ change: [row: WordRow] }>();
defineSlots<{ more(given: { row: WordRow }): unknown }>();
const q = ref('');
const FEW = 8;
const shown = computed(() =>
  props.rows.filter(({ name }) => name.toLowerCase().includes(q.value.trim().toLowerCase())),
);
</script>

<template>
  <v-text-field
    v-if="rows.length > FEW"
    v-model="q"
    class="find"
    :label="`Find in ${label.toLowerCase()}`"
    clearable
  />
  <v-table v-if="shown.length" class="book" :aria-label="label">
    <thead>
      <tr>
        <th>Name</th>
        <th v-for="name in counted" :key="name" class="num">{{ name }}</th>
        <th v-if="$slots.more" class="more">Means</th>
        <th v-if="mayChange"><span class="visually-hidden">Change</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in shown" :key="row.key">
        <td>
          <b :class="toneClass(row.tone)">{{ row.name }}</b>
        </td>
        <td v-for="(n, at) in row.counts" :key="at" class="num">
          {{ n > 1000 ? 'over 1,000' : plainNumber(n) }}
        </td>
        <td v-if="$slots.more" class="more"><slot name="more" :row="row" /></td>
        <td v-if="mayChange" class="act">
          <v-btn class="word" :aria-label="`Change ${row.name}`" @click="emit('change', row)">Change</v-btn>
        </td>
      </tr>
    </tbody>
  </v-table>
  <p v-else class="empty">{{ q ? 'Nothing has this name.' : empty }}</p>
</template>

<style scoped>
.find {
  max-width: 320px;
  margin-bottom: 10px;
}
.num {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.act {
  text-align: right;
}
@media (max-width: 700px) {
  .more {
    display: none;
  }
}
</style>
