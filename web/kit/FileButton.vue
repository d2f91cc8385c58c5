<script setup lang="ts">
import { useTemplateRef } from 'vue';

/** A worded button that lets somebody choose one file. */
defineProps<{ label: string; busy?: boolean }>();
const emit = defineEmits<{ take: [file: File] }>();
const input = useTemplateRef<HTMLInputElement>('input');

function taken(): void {
  const [file] = input.value?.files ?? [];
  if (!file) return;
  emit('take', file);
  // The same file can be chosen again after something went wrong.
  if (input.value) input.value.value = '';
}
</script>

<template>
  <v-btn class="word" :aria-label="label" :loading="busy" @click="input?.click()"><slot /></v-btn>
  <input ref="input" type="file" hidden @change="taken" />
</template>
