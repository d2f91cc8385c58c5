<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import RecordFields from '../fields/RecordFields.vue';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import CloneButton from '../cloning/CloneButton.vue';
import HistoryLink from '../history/HistoryLink.vue';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import VisibilityDialog from '../visibility/VisibilityDialog.vue';
import HeldSheet from '../meetings/HeldSheet.vue';
import LaterTime from '../meetings/LaterTime.vue';
import MeetingFacts from '../meetings/MeetingFacts.vue';
import ClashNote from '../caldav/ClashNote.vue';
import TaskFiles from '../files/TaskFiles.vue';
import TaskFacts from './TaskFacts.vue';
import TaskSteps from './TaskSteps.vue';
import TaskTalk from './TaskTalk.vue';
import { useTaskAction } from './useTaskAction';

/** One task with all that belongs to it, beside the page it was opened from. */
const props = defineProps<{ id: string }>();
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const run = useTaskAction();
const present = usePresence(() => props.id, 'tasks.change');
const {
  data: task,
  error,
  isGone,
  load,
} = useFetched(
  () => api('GET /api/tasks/:id', { params: { id: props.id } }),
  ['tasks', 'task_messages', 'task_people'],
  () => [props.id],
);
watch(isGone, (gone) => gone && emit('close'));

const me = computed(() => session.me?.id ?? '');
const isMine = computed(() => task.value?.assignee.id === me.value);
/** Whoever gave it may take it back or ask after it. */
const isGivenByMe = computed(() => !isMine.value && task.value?.givenBy?.id === me.value);
const isGivenToMe = computed(
  () => isMine.value && task.value?.givenBy !== null && task.value?.givenBy.id !== me.value,
);
const isDeclining = ref(false);
const why = ref('');

const params = computed(() => ({ id: props.id }));
const finish = (done: boolean): Promise<boolean> =>
  run(done ? `Done: ${task.value?.title ?? ''}.` : 'Open again.', () =>
    api('PATCH /api/tasks/:id', { params: params.value, body: { done } }),
  );
const takeBack = (): Promise<boolean> =>
  run('The task is yours again.', () =>
    api('PATCH /api/tasks/:id', { params: params.value, body: { assigneeId: me.value } }),
  );
const remind = (): Promise<boolean> =>
  run(`Reminded ${task.value?.assignee.name ?? ''}.`, () =>
    api('POST /api/tasks/:id/reminder', { params: params.value, body: {} }),
  );
async function decline(): Promise<void> {
  const isDone = await run('Declined. The task went back.', () =>
    api('POST /api/tasks/:id/decline', { params: params.value, body: { why: why.value } }),
  );
  if (isDone) isDeclining.value = false;
}
async function remove(): Promise<void> {
  const title = task.value?.title ?? '';
  if (await run(`Removed ${title}.`, () => api('DELETE /api/tasks/:id', { params: params.value })))
    emit('close');
}
const PLACES = [
  ['person', 'people'],
  ['company', 'companies'],
  ['lead', 'leads'],
  ['deal', 'deals'],
  ['project', 'projects'],
  ['case', 'cases'],
] as const;
const records = computed(() =>
  PLACES.flatMap(([key, path]) => {
    const record = task.value?.[key];
    return record ? [{ ...record, to: `/${path}/${record.id}` }] : [];
  }),
);
const isMeeting = computed(
  () => ['meeting', 'visit'].includes(task.value?.kind ?? '') || (task.value?.people.length ?? 0) > 0,
);
/** Once it has begun, what came of it is asked. */
const hasBegun = computed(
  () =>
    task.value !== null &&
    !task.value.doneAt &&
    ['call', 'meeting', 'visit'].includes(task.value.kind) &&
    Date.parse(task.value.dueAt) <= Date.now(),
);
const isSightOpen = ref(false);
</script>

<template>
  <SidePanel label="Task" @close="emit('close')">
    <div class="task" data-task-panel @keydown.esc="emit('close')">
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="task">
        <p class="state">
          <span v-if="task.doneAt" class="done">Done {{ when(task.doneAt) }} by {{ task.doneBy }}</span>
          <span v-else-if="task.state === 'overdue'" class="late">Overdue</span>
          <PresenceLine :others="present" />
          <span v-if="task.givenBy" class="soft">Given by {{ task.givenBy.name }}</span>
          <span v-if="task.declined" class="late"
            >{{ task.declined.by }} declined it: {{ task.declined.why }}</span
          >
        </p>
        <div v-if="session.may('tasks.change')" class="ways">
          <v-btn v-if="!task.doneAt" class="fill" @click="finish(true)">Done</v-btn>
          <v-btn v-else class="line" @click="finish(false)">Open again</v-btn>
          <template v-if="!task.doneAt">
            <v-btn
              v-if="isGivenToMe"
              class="word"
              :aria-expanded="isDeclining"
              @click="isDeclining = !isDeclining"
              >Decline…</v-btn
            >
            <template v-if="isGivenByMe">
              <v-btn class="word" @click="takeBack">Take back</v-btn>
              <v-btn class="word" @click="remind">Remind {{ task.assignee.name.split(' ')[0] }}</v-btn>
            </template>
          </template>
        </div>
        <form v-if="isDeclining" class="decline" @submit.prevent="decline">
          <v-text-field v-model="why" label="Why do you decline?" required maxlength="500" autofocus />
          <v-btn class="line" type="submit" :disabled="!why.trim()">Decline</v-btn>
        </form>
        <p v-if="task.asked" class="asked">“{{ task.asked }}”</p>
        <HeldSheet v-if="hasBegun" :task="task" />
        <LaterTime :task="task" />
        <ClashNote v-if="task.clash" :clash="task.clash" @decided="load" />
        <TaskFacts :task="task" />
        <MeetingFacts v-if="isMeeting" :task="task" />
        <RecordFields :id="id" :key="id" record="task" />
        <TaskSteps :task="task" />
        <TaskFiles :task-id="id" />
        <TaskTalk :task="task" />
        <template v-if="records.length">
          <h3>Belongs to</h3>
          <ul>
            <li v-for="record in records" :key="record.id">
              <RouterLink :to="record.to" class="quiet-link">{{ record.name }}</RouterLink>
            </li>
          </ul>
        </template>
        <div class="ways last">
          <v-btn class="word" @click="isSightOpen = true">Who can see it</v-btn>
          <HistoryLink :id="id" />
          <CloneButton :id="id" kind="task" />
          <v-btn class="word" @click="remove">Remove</v-btn>
        </div>
      </template>
      <template v-else-if="!error"><span v-for="n in 6" :key="n" class="ghost"></span></template>
    </div>
    <VisibilityDialog v-if="isSightOpen" :id="id" kind="tasks" @close="isSightOpen = false" />
  </SidePanel>
</template>

<style scoped>
.task {
  padding: 10px 24px 24px;
}
.state {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  margin: 0 0 8px;
}
.done {
  color: var(--theirs);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
}
.decline {
  display: flex;
  gap: 10px;
  align-items: end;
  padding-top: 8px;
}
.asked {
  margin: 10px 0 0;
  padding-left: 10px;
  border-left: 2px solid var(--theirs);
  color: var(--soft);
}
h3 {
  margin: 18px 0 2px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
ul li {
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
.last {
  margin-top: 20px;
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
@media (max-width: 700px) {
  .task {
    padding: 8px 14px 20px;
  }
}
</style>
