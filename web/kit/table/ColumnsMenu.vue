<script setup lang="ts">
import { computed } from 'vue';
import {
  arranged,
  inOrder,
  moveColumn,
  resizeColumn,
  turnColumn,
  type Arrangement,
  type Column,
} from './columns';

/** Which columns a table shows, in which order and how wide: all of what can be done by dragging, by keys too. */
const props = defineProps<{ columns: Column[] }>();
const kept = defineModel<Arrangement>({ required: true });
const STEP = 3;
const all = computed(() => inOrder(props.columns, kept.value));
const shown = computed(() => arranged(props.columns, kept.value).map(({ key }) => key));
const isLast = (key: string): boolean => shown.value.at(-1) === key;

function shift(at: number, by: 1 | -1): void {
  const [column, other] = [all.value[at], all.value[at + by]];
  if (column && other) kept.value = moveColumn(props.columns, kept.value, column.key, other.key);
}
const resize = (key: string, by: number): void =>
  void (kept.value = resizeColumn(props.columns, kept.value, key, by));
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: opener }">
      <v-btn class="word" v-bind="opener">Columns</v-btn>
    </template>
    <div class="columns" role="group" aria-label="Columns">
      <div v-for="(column, at) in all" :key="column.key" class="column">
        <v-checkbox-btn
          :model-value="shown.includes(column.key)"
          :disabled="column.isName"
          :label="column.title"
          @update:model-value="kept = turnColumn(columns, kept, column.key)"
        />
        <v-btn
          class="word"
          :disabled="at === 0"
          :aria-label="`Move ${column.title} left`"
          @click="shift(at, -1)"
          >Left</v-btn
        >
        <v-btn
          class="word"
          :disabled="at === all.length - 1"
          :aria-label="`Move ${column.title} right`"
          @click="shift(at, 1)"
          >Right</v-btn
        >
        <v-btn
          class="word"
          :disabled="!shown.includes(column.key) || isLast(column.key)"
          :aria-label="`Make ${column.title} wider`"
          @click="resize(column.key, STEP)"
          >Wider</v-btn
        >
        <v-btn
          class="word"
          :disabled="!shown.includes(column.key) || isLast(column.key)"
          :aria-label="`Make ${column.title} narrower`"
          @click="resize(column.key, -STEP)"
          >Narrower</v-btn
        >
      </div>
      <v-btn class="word" @click="kept = {}">Reset columns</v-btn>
    </div>
  </v-menu>
</template>

<style scoped>
.columns {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 10px 14px;
  display: grid;
  gap: 2px;
}
.column {
  display: grid;
  grid-template-columns: minmax(140px, 1fr) auto auto auto auto;
  gap: 12px;
  align-items: center;
}
</style>
