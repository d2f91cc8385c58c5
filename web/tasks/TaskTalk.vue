<script setup lang="ts">
import type { TaskDetail } from '@emporikon/contract/tasks';
import { ref } from 'vue';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { useTaskAction } from './useTaskAction';

/** What colleagues say about a task, here or by mail. */
const props = defineProps<{ task: TaskDetail }>();
const run = useTaskAction();
const words = ref('');

async function say(): Promise<void> {
  const text = words.value.trim();
  if (!text) return;
  const isSaid = await run('Sent.', () =>
    api('POST /api/tasks/:id/messages', { params: { id: props.task.id }, body: { words: text } }),
  );
  if (isSaid) words.value = '';
}
</script>

<template>
  <h3>Messages</h3>
  <ol v-if="task.messages.length">
    <li v-for="message in task.messages" :key="message.id" data-message>
      <span class="cap"
        >{{ message.by }} · {{ when(message.at) }}<template v-if="message.isMail"> · by mail</template></span
      >
      <p>{{ message.words }}</p>
    </li>
  </ol>
  <form class="say" @submit.prevent="say">
    <v-text-field
      v-model="words"
      aria-label="Message"
      placeholder="Ask or answer; whoever has to do with the task is told"
      maxlength="5000"
    />
    <v-btn v-if="words.trim()" class="line" type="submit">Send</v-btn>
  </form>
</template>

<style scoped>
h3 {
  margin: 18px 0 4px;
}
ol {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
p {
  margin: 0;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.say {
  display: flex;
  gap: 10px;
}
</style>
