<script setup lang="ts">
import type { Task } from '@emporikon/contract/tasks';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api } from '../shell/api';
import { due } from '../shell/format';
import { useTaskAction } from '../tasks/useTaskAction';

/** The time of a series that was opened in the calendar: it can be left out, and dragged elsewhere. */
const props = defineProps<{ task: Task }>();
const route = useRoute();
const router = useRouter();
const run = useTaskAction();
const at = computed(() => {
  const { time } = route.query;
  return typeof time === 'string' && !Number.isNaN(Date.parse(time)) && props.task.repeat ? time : '';
});
const day = computed(() => due({ dueAt: at.value, allDay: props.task.allDay, zone: props.task.zone }));
async function skip(): Promise<void> {
  const params = { id: props.task.id, at: at.value };
  const isDone = await run(`Skipped ${props.task.title} on ${day.value}.`, () =>
    api('DELETE /api/tasks/:id/occurrences/:at', { params }),
  );
  if (isDone) await router.push({ query: { ...route.query, task: undefined, time: undefined } });
}
</script>

<template>
  <p v-if="at" class="later">
    A later date of this task: {{ day }}.
    <v-btn class="word" @click="skip">Skip this date</v-btn>
  </p>
</template>

<style scoped>
.later {
  margin: 10px 0 0;
  color: var(--soft);
}
</style>
