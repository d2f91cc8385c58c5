<script setup lang="ts">
import type { Task } from '@emporikon/contract/tasks';
import { api } from '../shell/api';
import { due } from '../shell/format';
import { useSession } from '../shell/session';
import TaskLink from '../tasks/TaskLink.vue';
import { useTaskAction } from '../tasks/useTaskAction';

const props = defineProps<{ move: Task }>();
const session = useSession();
const run = useTaskAction();
const finish = (): Promise<boolean> =>
  run(`Done: ${props.move.title}.`, () =>
    api('PATCH /api/tasks/:id', { params: { id: props.move.id }, body: { done: true } }),
  );
</script>

<template>
  <div class="move" data-move>
    <b><TaskLink :task="move" /></b>
    <span v-if="move.priority === 'high'" class="late"> urgent</span>
    <span :class="{ late: move.state === 'overdue' }">
      {{ move.state === 'overdue' ? 'overdue since' : 'by' }} {{ due(move) }}</span
    >, {{ move.assignee.name.split(' ')[0]
    }}<template v-if="move.repeatWords">, {{ move.repeatWords }}</template>
    <v-btn v-if="session.may('tasks.change')" class="word" @click="finish">Done</v-btn>
  </div>
</template>

<style scoped>
.move {
  min-height: 24px;
}
.word {
  margin-left: 6px;
}
</style>
