<script setup lang="ts">
import type { FoundRecord } from '@emporikon/contract/queries';
import type { Comparison, Query } from '@emporikon/core/query/types';
import { computed } from 'vue';
import { api } from '../shell/api';
import { plainNumber } from '../shell/format';
import { reloadOn, usePaged } from '../shell/usePaged';
import { TABLES, type ViewedKind } from './kinds';
import type { CardOf } from './useCards';
import ViewCard from './ViewCard.vue';

/** The records of a view with one value of a field. */
const props = defineProps<{
  kind: ViewedKind;
  query: Query;
  /** What its records have in common. */
  condition: Comparison;
  /** Null for those without a value. */
  value: string | null;
  title: string;
  count: number;
  sums: string;
  isOver: boolean;
  cardOf: CardOf;
  /** Where its records can go; none where they cannot. */
  lanes: readonly { value: string; title: string }[];
}>();
const emit = defineEmits<{ move: [row: FoundRecord, to: string] }>();
const NONE = '';
const asked = computed<Query>(() => ({
  ...props.query,
  groups: [],
  totals: [],
  filter: { all: [...(props.query.filter ? [props.query.filter] : []), props.condition] },
}));
const { items, hasMore, more, error, reload } = usePaged<FoundRecord>(
  (cursor) => api('POST /api/queries', { body: { query: asked.value as never, cursor, limit: 30 } }),
  TABLES[props.kind],
);
reloadOn(() => asked.value, reload);
</script>

<template>
  <section class="lane" :class="{ over: isOver }" :aria-label="title" :data-lane="value ?? NONE">
    <h2>
      {{ title }} <span class="soft num">{{ plainNumber(count) }}</span>
    </h2>
    <p v-if="sums" class="soft num sums">{{ sums }}</p>
    <p v-if="error" class="wrong" role="alert">
      {{ error }} <v-btn class="word" @click="reload">Try again</v-btn>
    </p>
    <span v-else-if="!items" class="ghost"></span>
    <div v-else class="cards">
      <ViewCard v-for="row in items" :key="row.id" :kind="kind" :row="row" v-bind="cardOf(row)">
        <v-menu v-if="lanes.length" location="bottom start">
          <template #activator="{ props: opener }"
            ><v-btn class="word" v-bind="opener" :aria-label="`Move to … (${cardOf(row).name})`"
              >Move to …</v-btn
            ></template
          >
          <v-list class="choices" :aria-label="`Move ${cardOf(row).name} to`">
            <v-list-item
              v-for="lane in lanes.filter((one) => one.value !== (value ?? NONE))"
              :key="lane.value"
              :title="lane.title"
              @click="emit('move', row, lane.value)"
            />
          </v-list>
        </v-menu>
      </ViewCard>
    </div>
    <v-btn v-if="hasMore" class="quiet" @click="more">Show more</v-btn>
  </section>
</template>

<style scoped>
.lane {
  flex: 1 0 230px;
  max-width: 320px;
  padding: 8px;
  border: 1px solid var(--rule2);
  border-radius: 3px;
}
.over {
  background: var(--lit);
  border-color: var(--rule);
}
h2 {
  margin: 0 0 4px;
  font-size: 15px;
}
.sums {
  margin: 0 0 6px;
}
.cards {
  display: grid;
  gap: 8px;
  padding-bottom: 8px;
}
</style>
