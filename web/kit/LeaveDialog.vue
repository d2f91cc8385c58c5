<script setup lang="ts">
import { vFocus } from './focus';
/** Asks before something unsaved is left behind. */
defineProps<{ isAsking: boolean; what: string }>();
const emit = defineEmits<{ answer: [leave: boolean] }>();
</script>

<template>
  <v-dialog :model-value="isAsking" width="380" @update:model-value="emit('answer', false)">
    <div class="ask">
      <h2>Not saved yet</h2>
      <p>{{ what }} were changed and not saved. Leaving this page discards the changes.</p>
      <div class="do">
        <v-btn v-focus class="fill" @click="emit('answer', false)">Stay here</v-btn>
        <v-btn class="quiet" @click="emit('answer', true)">Leave without saving</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.ask {
  background: var(--sheet);
  border: 1px solid var(--rule);
  padding: 16px;
}
.do {
  display: flex;
  gap: 12px;
}
</style>
