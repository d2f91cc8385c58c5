<script setup lang="ts">
/** Somebody else saved another value meanwhile: both, to choose from. */
const props = defineProps<{ theirs: unknown; mine: string; format?: (value: unknown) => string }>();
const emit = defineEmits<{ theirs: []; mine: [] }>();

function written(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (props.format) return props.format(value);
  return Array.isArray(value) ? value.join(', ') : String(value);
}
</script>

<template>
  <div class="clash" role="alert">
    <span
      >Somebody saved <b>{{ written(theirs) }}</b> meanwhile; you wrote <b>{{ mine || 'nothing' }}</b>.</span
    >
    <v-btn class="word on" @click="emit('theirs')">Keep theirs</v-btn>
    <v-btn class="word on" @click="emit('mine')">Use mine</v-btn>
  </div>
</template>

<style scoped>
.clash {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  align-items: baseline;
  border-left: 3px solid var(--wait-line);
  padding-left: 8px;
  font-size: 13px;
}
</style>
