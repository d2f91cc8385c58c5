<script setup lang="ts">
import { computed } from 'vue';
import UnderWay from '../kit/UnderWay.vue';
import { useBulk } from './useBulk';
import { countOf, isForGood } from './words';

/** How far a change of many records is, whatever page is open. */
const bulk = useBulk();
const isUndoing = computed(() => bulk.change?.state === 'undoing');
const done = computed(() => {
  const { done: count = 0, total = 0 } = bulk.change ?? {};
  return isUndoing.value ? total - count : count;
});
const title = computed(() => {
  if (!bulk.change) return '';
  const { state, kind, total } = bulk.change;
  return state === 'paused'
    ? 'Paused'
    : `${isUndoing.value ? 'Undoing for' : isForGood(bulk.change) ? 'Erasing' : 'Changing'} ${countOf(kind, total)}`;
});
</script>

<template>
  <UnderWay
    v-if="bulk.change"
    label="Bulk change"
    :title="title"
    :done="done"
    :total="bulk.change.total"
    :trouble="bulk.change.trouble"
  >
    <v-btn v-if="bulk.change.state === 'running'" class="word" @click="bulk.pause(bulk.change.id)"
      >Pause</v-btn
    >
    <template v-else-if="bulk.change.state === 'paused'">
      <v-btn class="word on" @click="bulk.begin(bulk.change.id)">Go on</v-btn>
      <v-btn v-if="!isForGood(bulk.change)" class="word" @click="bulk.takeBack(bulk.change.id)">Undo</v-btn>
      <v-btn class="word" @click="bulk.leave()">Close</v-btn>
    </template>
  </UnderWay>
</template>
