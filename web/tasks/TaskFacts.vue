<script setup lang="ts">
import type { TaskDetail } from '@emporikon/contract/tasks';
import { computed } from 'vue';
import EditCell from '../kit/EditCell.vue';
import { api } from '../shell/api';
import { percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';
import { PRIORITIES, TASK_KINDS } from './kinds';
import { keyOf, reminderChoices, reminderOf, reminderWords } from './reminders';
import TaskTimes from './TaskTimes.vue';

/** Everything that belongs to a task, each edited where it stands. */
const props = defineProps<{ task: TaskDetail }>();
const undo = useUndo();
const team = useTeam();
const { data: kinds } = useFetched(() => api('GET /api/task-kinds'), ['task_kinds']);

const change = (body: Record<string, unknown>) => async (version: number) => {
  const { eventId } = await api('PATCH /api/tasks/:id', {
    params: { id: props.task.id },
    body: { version, ...body },
  });
  undo.tell({ text: `Changed ${props.task.title}.`, eventId });
};
const saver =
  (field: string, of: (text: string) => unknown = (text) => text) =>
  (text: string, version: number) =>
    change({ [field]: of(text) })(version);

async function saveRepeat(typed: string, version: number): Promise<void> {
  const { findRepeat } = await import('@emporikon/core/calendar/repeatWords');
  const found = typed.trim() ? findRepeat(typed) : null;
  if (typed.trim() && !found)
    throw new Error(
      `“${typed}” names no repeat. Type one such as “every first Monday” or “3 weeks after done”.`,
    );
  await change({ repeat: found?.repeat ?? null })(version);
}
const kindChoices = computed(() => [
  ...TASK_KINDS,
  ...(kinds.value?.items ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const kindWord = computed(
  () => props.task.ownKind?.name ?? TASK_KINDS.find(({ value }) => value === props.task.kind)?.title ?? '',
);
const saveKind = (kind: string, version: number): Promise<void> =>
  change(TASK_KINDS.some(({ value }) => value === kind) ? { kind, kindId: null } : { kindId: kind })(version);
const people = computed(() => team.value.map(({ id, name }) => ({ value: id, title: name })));
const watchers = computed(() => props.task.watchers.map(({ name }) => name).join(', '));
const lines = (text: string): string[] => text.split('\n').filter(Boolean);
</script>

<template>
  <dl class="facts">
    <div class="whole">
      <dt class="cap">What to do</dt>
      <dd>
        <EditCell
          :value="task.title"
          label="What to do"
          :save="saver('title')"
          :version="task.version"
          field="title"
        />
      </dd>
    </div>
    <TaskTimes :task="task" :change="change" />
    <div>
      <dt class="cap">Who does it</dt>
      <dd>
        <EditCell
          :value="task.assignee.id"
          :shown="task.assignee.name"
          label="Who does it"
          kind="choice"
          :options="people"
          :save="saver('assigneeId')"
          :version="task.version"
          field="assigneeId"
        />
      </dd>
    </div>
    <div>
      <dt class="cap">Kind</dt>
      <dd>
        <EditCell
          :value="task.ownKind?.id ?? task.kind"
          :shown="kindWord"
          label="Kind"
          kind="choice"
          :options="kindChoices"
          :save="saveKind"
          :version="task.version"
          field="kind"
        />
      </dd>
    </div>
    <div>
      <dt class="cap">Priority</dt>
      <dd :class="{ late: task.priority === 'high' }">
        <EditCell
          :value="task.priority"
          :shown="PRIORITIES.find(({ value }) => value === task.priority)?.title"
          label="Priority"
          kind="choice"
          :options="PRIORITIES"
          :save="saver('priority')"
          :version="task.version"
          field="priority"
        />
      </dd>
    </div>
    <div>
      <dt class="cap">Progress</dt>
      <dd>
        <EditCell
          :value="task.progress"
          :shown="percent(task.progress / 100)"
          label="Progress"
          kind="number"
          :save="saver('progress', Number)"
          :version="task.version"
          field="progress"
        />
      </dd>
    </div>
    <div>
      <dt class="cap">Repeats</dt>
      <dd>
        <EditCell
          :value="task.repeatWords"
          label="Repeats"
          placeholder="Never"
          :save="saveRepeat"
          :version="task.version"
          :stored="task.repeat"
          field="repeat"
        />
      </dd>
    </div>
    <div>
      <dt class="cap">Reminders</dt>
      <dd>
        <EditCell
          :value="task.reminders.map(keyOf).join('\n')"
          :shown="task.reminders.map(reminderWords).join(', ') || undefined"
          label="Reminders"
          kind="several"
          placeholder="None"
          :options="reminderChoices(task.reminders)"
          :save="saver('reminders', (text) => lines(text).map(reminderOf))"
          :version="task.version"
          :stored="task.reminders"
          field="reminders"
        />
      </dd>
    </div>
    <div>
      <dt class="cap">Also told</dt>
      <dd>
        <EditCell
          :value="task.watchers.map(({ id }) => id).join('\n')"
          :shown="watchers || undefined"
          label="Also told"
          kind="several"
          placeholder="Nobody"
          :options="people"
          :save="saver('watchers', lines)"
          :version="task.version"
          field="watchers"
        />
      </dd>
    </div>
    <div class="whole">
      <dt class="cap">Notes</dt>
      <dd>
        <EditCell
          :value="task.notes"
          label="Notes"
          kind="long"
          :save="saver('notes')"
          :version="task.version"
          field="notes"
        />
      </dd>
    </div>
  </dl>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 20px;
  margin: 8px 0 0;
}
.facts > div {
  border-top: 1px solid var(--rule);
  padding: 4px 0 6px;
}
.whole {
  grid-column: 1 / -1;
}
dd,
.facts :deep(.cell) {
  margin: 0;
  white-space: pre-line;
}
</style>
