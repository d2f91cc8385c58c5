<script setup lang="ts">
import type { BulkChange } from '@emporikon/contract/bulk';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { plainNumber, when } from '../shell/format';
import { useFetched } from '../shell/live';
import RefusedRows from './RefusedRows.vue';
import { useBulk } from './useBulk';
import { countOf, isForGood } from './words';

/** Bulk changes records: how far each is, what it came to, and the way back. */
const route = useRoute();
const bulk = useBulk();
const { data, error } = useFetched(
  () => api('GET /api/bulk-changes', { query: { limit: 60 } }),
  ['bulk_changes'],
);
const opened = computed(() => (typeof route.query.change === 'string' ? route.query.change : null));

const STATES: Record<BulkChange['state'], string> = {
  previewed: 'only previewed',
  running: 'under way',
  paused: 'paused',
  done: 'done',
  undoing: 'being undone',
  undone: 'undone',
  failed: 'stopped',
};
const stateOf = ({ state, done, total }: BulkChange): string =>
  state === 'done' || state === 'undone' || state === 'previewed'
    ? STATES[state]
    : `${STATES[state]}, ${plainNumber(done)} of ${plainNumber(total)}`;
const outcomeOf = ({ kind, state, steps, counts }: BulkChange): string =>
  state === 'previewed'
    ? ''
    : [
        `${countOf(kind, counts.changed)} ${isForGood({ steps }) ? 'erased' : 'changed'}`,
        counts.stayed ? `${plainNumber(counts.stayed)} were so already` : '',
        counts.kept ? `${plainNumber(counts.kept)} changed since and kept` : '',
      ]
        .filter(Boolean)
        .join(', ');
const mayUndo = (change: BulkChange): boolean =>
  !isForGood(change) && ['done', 'paused', 'failed'].includes(change.state) && change.counts.changed > 0;
</script>

<template>
  <PageHead
    title="Bulk changes"
    help="What was done to many records at once, from a selection or a view. Each can be undone as a whole; what somebody changed since stays."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <template v-if="data">
    <p v-if="!data.items.length" class="empty">
      Nothing yet. Tick records in a list or a view, and choose what to change at its foot.
    </p>
    <section v-for="change in data.items" :key="change.id" class="change" :aria-label="change.label">
      <div>
        <b class="label">{{ change.label }}</b>
        <div class="soft">
          {{ countOf(change.kind, change.total) }} · {{ change.by }} · {{ when(change.createdAt) }} ·
          {{ stateOf(change) }}
        </div>
        <div v-if="outcomeOf(change)">{{ outcomeOf(change) }}</div>
        <RefusedRows v-if="change.counts.refused" :change="change" :is-open="opened === change.id" />
        <p v-if="change.trouble" class="wrong">{{ change.trouble }}</p>
      </div>
      <div class="do">
        <v-btn v-if="change.state === 'running'" class="quiet" @click="bulk.pause(change.id)">Pause</v-btn>
        <v-btn
          v-if="change.state === 'paused' || change.state === 'failed'"
          class="quiet"
          @click="bulk.begin(change.id)"
          >Go on</v-btn
        >
        <v-btn v-if="mayUndo(change)" class="quiet" @click="bulk.takeBack(change.id)">Undo</v-btn>
      </div>
    </section>
  </template>
</template>

<style scoped>
.change {
  display: flex;
  gap: 16px;
  justify-content: space-between;
  align-items: start;
  padding: 10px 0;
  border-top: 1px solid var(--rule2);
  max-width: 860px;
}
.label::first-letter {
  text-transform: uppercase;
}
.label {
  display: inline-block;
}
.do {
  display: flex;
  gap: 8px;
}
p {
  margin: 4px 0 0;
}
</style>
