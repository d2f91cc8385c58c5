<script setup lang="ts">
import type { FoundRecord } from '@emporikon/contract/queries';
import type { ViewedKind } from './kinds';
import type { CardOf } from './useCards';
import ViewCard from './ViewCard.vue';

/** The records of a view as cards, under the headings of its groups. */
defineProps<{
  kind: ViewedKind;
  rows: FoundRecord[];
  hasMore: boolean;
  cardOf: CardOf;
  headings: (row: FoundRecord, before: FoundRecord | null) => { level: number; key: string }[];
  groupName: (row: FoundRecord, level: number) => string;
}>();
const emit = defineEmits<{ more: [] }>();
</script>

<template>
  <div class="cards">
    <template v-for="(row, at) in rows" :key="row.id">
      <h2
        v-for="heading in headings(row, rows[at - 1] ?? null)"
        :key="heading.key"
        :class="{ within: heading.level }"
      >
        {{ groupName(row, heading.level) }}
      </h2>
      <ViewCard :kind="kind" :row="row" v-bind="cardOf(row)" />
    </template>
  </div>
  <p v-if="!rows.length" class="empty">Nothing meets these conditions.</p>
  <v-btn v-if="hasMore" class="quiet" @click="emit('more')">Show more</v-btn>
</template>

<style scoped>
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 12px;
}
h2 {
  grid-column: 1 / -1;
  margin: 8px 0 0;
  font-size: 15px;
}
.within {
  color: var(--soft);
}
</style>
