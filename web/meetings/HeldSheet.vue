<script setup lang="ts">
import type { TaskDetail } from '@emporikon/contract/tasks';
import { ref } from 'vue';
import { api } from '../shell/api';
import { useTaskAction } from '../tasks/useTaskAction';

/** What came of a meeting, a call or a visit, in plain words; saved, it is entered and done, and what follows is set. */
const props = defineProps<{ task: TaskDetail }>();
const run = useTaskAction();
const words = ref('');
const outcome = ref<'spoke' | 'no answer' | 'moved'>('spoke');
const isSaving = ref(false);
const OUTCOMES = [
  { value: 'spoke', title: 'It took place' },
  { value: 'no answer', title: 'Nobody came' },
];

async function save(): Promise<void> {
  if (!words.value.trim() || isSaving.value) return;
  isSaving.value = true;
  const isSaved = await run(`${props.task.title}: entered.`, () =>
    api('POST /api/tasks/:id/held', {
      params: { id: props.task.id },
      body: { words: words.value, outcome: outcome.value },
    }),
  );
  isSaving.value = false;
  if (isSaved) words.value = '';
}
</script>

<template>
  <form class="held" @submit.prevent="save">
    <v-text-field
      v-model="words"
      label="What came of it?"
      placeholder="Liked the long bike. Send the quote tomorrow"
      maxlength="2000"
      hint="Plain words: what is to be done next becomes a task."
      persistent-hint
    />
    <v-select v-model="outcome" :items="OUTCOMES" label="How it went" />
    <v-btn class="line" type="submit" :disabled="!words.trim()" :loading="isSaving">Save</v-btn>
  </form>
</template>

<style scoped>
.held {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px auto;
  gap: 10px;
  align-items: start;
  padding-top: 10px;
}
.held > .v-btn {
  margin-top: 20px;
}
@container (max-width: 430px) {
  .held {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
