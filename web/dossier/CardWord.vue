<script setup lang="ts">
/** A fact of the card that is opened to be read or changed beside the page. */
defineProps<{ label: string; words: string; isOpen: boolean }>();
const emit = defineEmits<{ press: [] }>();
</script>

<template>
  <div class="card-word">
    <span class="cap">{{ label }}</span>
    <v-btn class="word" :aria-expanded="isOpen" @click="emit('press')">{{ words }}</v-btn>
  </div>
</template>

<style scoped>
.card-word {
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
.cap {
  display: block;
}
</style>
