<script setup lang="ts">
import type { Task } from '@emporikon/contract/tasks';
import { computed, ref } from 'vue';
import NextMoveLine from './NextMoveLine.vue';

/** The open moves of a record: the next two, and the others when asked for. */
const props = defineProps<{ moves: readonly Task[] }>();
const SHOWN = 2;
const isOpen = ref(false);
const shown = computed(() => (isOpen.value ? props.moves : props.moves.slice(0, SHOWN)));
</script>

<template>
  <div data-next-move>
    <span class="cap">{{ moves.length > 1 ? 'Next moves' : 'Next move' }}</span>
    <NextMoveLine v-for="move in shown" :key="move.id" :move="move" />
    <v-btn v-if="moves.length > SHOWN" class="word" :aria-expanded="isOpen" @click="isOpen = !isOpen">{{
      isOpen ? 'Show fewer' : `${moves.length - SHOWN} more`
    }}</v-btn>
    <div v-if="!moves.length" class="late">No next move. Write one below.</div>
  </div>
</template>

<style scoped>
.cap {
  display: block;
}
</style>
