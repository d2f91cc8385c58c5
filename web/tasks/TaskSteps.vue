<script setup lang="ts">
import type { TaskDetail } from '@emporikon/contract/tasks';
import { ref } from 'vue';
import { api } from '../shell/api';
import { useTaskAction } from './useTaskAction';

/** The checklist of a task. */
const props = defineProps<{ task: TaskDetail }>();
const run = useTaskAction();
const added = ref('');

const put = (checklist: TaskDetail['checklist'], text: string): Promise<boolean> =>
  run(text, () =>
    api('PATCH /api/tasks/:id', {
      params: { id: props.task.id },
      body: { version: props.task.version, checklist },
    }),
  );
const tick = (index: number, isDone: boolean): Promise<boolean> =>
  put(
    props.task.checklist.map((step, at) => (at === index ? { ...step, isDone } : step)),
    isDone ? 'Step done.' : 'Step open again.',
  );
const remove = (index: number): Promise<boolean> =>
  put(
    props.task.checklist.filter((_, at) => at !== index),
    'Removed the step.',
  );
async function add(): Promise<void> {
  const words = added.value.trim();
  if (!words) return;
  if (await put([...props.task.checklist, { words, isDone: false }], 'Added a step.')) added.value = '';
}
</script>

<template>
  <h3>Checklist</h3>
  <ul v-if="task.checklist.length">
    <li v-for="(step, index) in task.checklist" :key="`${index} ${step.words}`">
      <v-checkbox
        :model-value="step.isDone"
        :label="step.words"
        @update:model-value="tick(index, $event === true)"
      />
      <v-btn class="word" :aria-label="`Remove the step ${step.words}`" @click="remove(index)">Remove</v-btn>
    </li>
  </ul>
  <form class="add" @submit.prevent="add">
    <v-text-field v-model="added" aria-label="New step" placeholder="Add a step" maxlength="200" />
    <v-btn v-if="added.trim()" class="line" type="submit">Add</v-btn>
  </form>
</template>

<style scoped>
h3 {
  margin: 18px 0 4px;
}
ul {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
}
.add {
  display: flex;
  gap: 10px;
}
</style>
