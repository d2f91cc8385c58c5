<script setup lang="ts">
import { computed } from 'vue';
import Progress from '../kit/Progress.vue';
import { plainNumber } from '../shell/format';
import { useBulk } from './useBulk';
import { countOf } from './words';

/** How far a change of many records is, whatever page is open. */
const bulk = useBulk();
const isUndoing = computed(() => bulk.change?.state === 'undoing');
const done = computed(() => {
  const { done: count = 0, total = 0 } = bulk.change ?? {};
  return isUndoing.value ? total - count : count;
});
</script>

<template>
  <div v-if="bulk.change" class="line" role="region" aria-label="Bulk change">
    <div class="told">
      <span v-if="bulk.change.state === 'paused'">Paused</span>
      <span v-else
        >{{ isUndoing ? 'Undoing for' : 'Changing' }} {{ countOf(bulk.change.kind, bulk.change.total) }}</span
      >
      <Progress :value="done" :max="bulk.change.total" label="Changed">
        <span class="num">{{ plainNumber(done) }}</span>
      </Progress>
      <v-btn v-if="bulk.change.state === 'running'" class="word" @click="bulk.pause(bulk.change.id)"
        >Pause</v-btn
      >
      <template v-else-if="bulk.change.state === 'paused'">
        <v-btn class="word on" @click="bulk.begin(bulk.change.id)">Go on</v-btn>
        <v-btn class="word" @click="bulk.takeBack(bulk.change.id)">Undo</v-btn>
        <v-btn class="word" @click="bulk.leave()">Close</v-btn>
      </template>
      <span v-if="bulk.change.trouble" class="late">{{ bulk.change.trouble }}</span>
    </div>
  </div>
</template>

<style scoped>
.line {
  position: fixed;
  left: 0;
  right: 0;
  bottom: 140px;
  display: flex;
  justify-content: center;
  pointer-events: none;
  z-index: 30;
}
.told {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: center;
  padding: 8px 16px;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
  pointer-events: auto;
}
</style>
