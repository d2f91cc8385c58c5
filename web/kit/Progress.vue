<script setup lang="ts">
/** How far something is that takes a while; what stops it stands beside it. */
defineProps<{ value: number; max: number; label: string }>();
</script>

<template>
  <span class="progress">
    <v-progress-linear :model-value="value" :max="max || 1" :aria-label="label" color="primary" height="6" />
    <slot />
  </span>
</template>

<style scoped>
.progress {
  display: inline-flex;
  align-items: center;
  gap: 10px;
  min-width: 160px;
}
.progress :deep(.v-progress-linear) {
  min-width: 90px;
}
</style>
