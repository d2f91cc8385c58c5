<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';

/** What is done with the selected ones of a list. */
const props = defineProps<{ people?: string[]; companies?: string[]; leads?: string[] }>();
const emit = defineEmits<{ clear: []; done: [] }>();
const LookUpDialog = defineAsyncComponent(() => import('./LookUpDialog.vue'));
const isAsking = ref(false);
const count = (): number =>
  (props.people?.length ?? 0) + (props.companies?.length ?? 0) + (props.leads?.length ?? 0);
</script>

<template>
  <div v-if="count()" class="bar" role="region" aria-label="Selected">
    <span
      ><b class="num">{{ count() }}</b> selected</span
    >
    <v-btn class="word on" @click="isAsking = true">Look up …</v-btn>
    <slot />
    <v-btn class="word" @click="emit('clear')">Clear selection</v-btn>
    <LookUpDialog
      v-if="isAsking"
      :people="people"
      :companies="companies"
      :leads="leads"
      @done="emit('done')"
      @close="isAsking = false"
    />
  </div>
</template>

<style scoped>
.bar {
  position: sticky;
  z-index: 3;
  bottom: 0;
  display: flex;
  gap: 16px;
  align-items: baseline;
  padding: 8px 12px;
  background: var(--lit);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
@media (max-width: 700px) {
  .bar {
    bottom: 58px;
  }
}
</style>
