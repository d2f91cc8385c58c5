<script setup lang="ts">
import type { Task } from '@emporikon/contract/tasks';
import { ref } from 'vue';
import VisibilityDialog from '../visibility/VisibilityDialog.vue';
import { api } from '../shell/api';
import { due } from '../shell/format';
import { useUndo } from '../shell/undo';

const props = defineProps<{ move: Task }>();
const undo = useUndo();
const isSightOpen = ref(false);

async function finish(): Promise<void> {
  if (!props.move) return;
  try {
    const { eventId } = await api('PATCH /api/tasks/:id', {
      params: { id: props.move.id },
      body: { done: true },
    });
    undo.tell({ text: `Done: ${props.move.title}.`, eventId });
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <div class="move" data-move>
    <b>{{ move.title }}</b>
    <span :class="{ late: move.state === 'overdue' }"
      >{{ move.state === 'overdue' ? 'overdue since' : 'by' }} {{ due(move) }}</span
    >, {{ move.assignee.name.split(' ')[0] }}
    <v-btn class="word" @click="finish">Done</v-btn>
    <v-btn class="word sight" @click="isSightOpen = true">Who can see it</v-btn>
    <VisibilityDialog v-if="isSightOpen" :id="move.id" kind="tasks" @close="isSightOpen = false" />
  </div>
</template>

<style scoped>
.move {
  min-height: 24px;
}
.word {
  margin-left: 6px;
}
/* Shown where the move is looked at; always where nothing can be pointed at. */
@media (hover: hover) {
  .move:not(:hover, :focus-within) .sight {
    opacity: 0;
  }
}
</style>
