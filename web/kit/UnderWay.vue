<script setup lang="ts">
import { plainNumber } from '../shell/format';
import Progress from './Progress.vue';

/** Work on many records that goes on in the background, told at the foot of whatever page is open. */
defineProps<{ label: string; title: string; done: number; total: number; trouble?: string }>();
</script>

<template>
  <div class="line" role="region" :aria-label="label">
    <div class="told">
      <span>{{ title }}</span>
      <Progress :value="done" :max="total" :label="label">
        <span class="num">{{ plainNumber(done) }}</span>
      </Progress>
      <slot />
      <span v-if="trouble" class="late">{{ trouble }}</span>
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
