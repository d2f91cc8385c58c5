<script setup lang="ts">
/** A form before anybody is signed in. */
defineProps<{ error: string }>();
const emit = defineEmits<{ submit: [] }>();
</script>

<template>
  <form class="door" @submit.prevent="emit('submit')">
    <h1>Emporikon</h1>
    <slot />
    <p class="wrong" role="alert">{{ error }}</p>
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
