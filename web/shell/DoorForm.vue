<script setup lang="ts">
import { ref } from 'vue';
import { wordsOf } from './api';

/** A form before anybody is signed in: its fields, one button, and what went wrong. */
const props = defineProps<{ button: string; send: () => Promise<unknown> }>();
const error = ref('');
const isBusy = ref(false);

async function submit(): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    await props.send();
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <form class="door" @submit.prevent="submit">
    <h1>Emporikon</h1>
    <slot />
    <p class="wrong" role="alert">{{ error }}</p>
    <v-btn v-if="button" class="fill" type="submit" :loading="isBusy">{{ button }}</v-btn>
    <slot name="after" />
  </form>
</template>

<style scoped>
.door {
  width: min(340px, 90vw);
  margin: 16vh auto 0;
  display: grid;
  gap: 12px;
}
h1 {
  color: var(--ours);
}
.door :deep(p) {
  margin: 0;
  min-height: 20px;
}
</style>
