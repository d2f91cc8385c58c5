<script setup lang="ts">
import RichText from '../kit/RichText.vue';

/** A letter as it arrives: as mail programs show it, or as plain text. */
defineProps<{
  preview: { from: string; subject: string; html: string; text: string };
  isPlain: boolean;
}>();
</script>

<template>
  <div>
    <h2>{{ preview.subject || 'No subject' }}</h2>
    <p class="cap">from {{ preview.from }}</p>
    <pre v-if="isPlain" tabindex="0">{{ preview.text }}</pre>
    <RichText v-else :key="preview.html" :model-value="preview.html" label="How it arrives" is-read-only />
  </div>
</template>

<style scoped>
h2 {
  margin: 0;
}
p {
  margin: 0 0 10px;
}
pre {
  margin: 0;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font: 14px/1.5 var(--ui);
}
</style>
