<script setup lang="ts">
import type { Task } from '@emporikon/contract/tasks';
import { computed, ref, watch } from 'vue';
import DateField from '../kit/DateField.vue';
import { api } from '../shell/api';
import { calendarDay, counted, due, when } from '../shell/format';
import { useFetched } from '../shell/live';
import { fromField } from '../shell/moment';
import { useSession } from '../shell/session';
import { usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import TaskLink from '../tasks/TaskLink.vue';
import { useTaskAction } from '../tasks/useTaskAction';
import HandoverDialog from './HandoverDialog.vue';

/** What somebody gave to others, and what became of it. */
const session = useSession();
const run = useTaskAction();
const state = useQueryRef<'open' | 'done'>('state', 'open');
const { items, hasMore, more, error, reload } = usePaged<Task>(
  (cursor) => api('GET /api/tasks/delegated', { query: { cursor, state: state.value } }),
  ['tasks'],
);
watch(state, reload);
const { data: handovers } = useFetched(() => api('GET /api/handovers'), ['handovers']);
const isHandingOver = ref(false);
const moving = ref<string | null>(null);
const overdue = computed(() => (items.value ?? []).filter((task) => task.state === 'overdue').length);

const patch = (task: Task, body: Record<string, unknown>, text: string): Promise<boolean> =>
  run(text, () =>
    api('PATCH /api/tasks/:id', { params: { id: task.id }, body: { version: task.version, ...body } }),
  );
const takeBack = (task: Task): Promise<boolean> =>
  patch(task, { assigneeId: session.me?.id }, `${task.title} is yours again.`);
const remind = (task: Task): Promise<boolean> =>
  run(`Reminded ${task.assignee.name}.`, () =>
    api('POST /api/tasks/:id/reminder', { params: { id: task.id }, body: {} }),
  );
async function move(task: Task, day: string): Promise<void> {
  const dueAt = fromField(day, true, task.zone);
  if (dueAt && (await patch(task, { dueAt, allDay: true }, `Moved ${task.title}.`))) moving.value = null;
}
const giveBack = (id: string, to: string): Promise<boolean> =>
  run(`The work of ${to} went back.`, () =>
    api('POST /api/handovers/:id/return', { params: { id }, body: {} }),
  );
const record = (task: Task): { to: string; name: string } | null => {
  if (task.deal) return { to: `/deals/${task.deal.id}`, name: task.deal.name };
  if (task.lead) return { to: `/leads/${task.lead.id}`, name: task.lead.name };
  if (task.person) return { to: `/people/${task.person.id}`, name: task.person.name };
  if (task.company) return { to: `/companies/${task.company.id}`, name: task.company.name };
  return null;
};
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Delegated</h1>
      <span v-if="overdue" class="late">{{ overdue }} overdue</span>
      <span class="whose"
        ><v-btn class="word" :aria-pressed="state === 'open'" @click="state = 'open'">Open</v-btn>
        <v-btn class="word" :aria-pressed="state === 'done'" @click="state = 'done'">Done in 30 days</v-btn>
        <v-btn class="line" @click="isHandingOver = true">Hand over work…</v-btn></span
      >
    </div>
    <ul v-if="handovers?.items.length" class="handovers" aria-label="Handed over">
      <li v-for="one in handovers.items" :key="one.id">
        <span
          ><b>{{ one.to.name }}</b> looks after {{ counted(one.tasks, 'task') }} and
          {{ counted(one.leads, 'lead') }} of <b>{{ one.from.name }}</b>{{
            one.backOn ? ` until ${calendarDay(one.backOn)}` : ''
          }}.</span
        >
        <v-btn class="word" @click="giveBack(one.id, one.from.name)">Give back now</v-btn>
      </li>
    </ul>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <p v-if="items && !items.length" class="empty">
      {{
        state === 'open'
          ? 'Nothing of yours lies with a colleague. Write “task for Ines: send the price list by Friday” on any record, or give one of your tasks to somebody.'
          : 'Nothing you gave was finished in the last thirty days.'
      }}
    </p>
    <ul v-if="items?.length" class="tasks">
      <li v-for="task in items" :key="task.id" data-task>
        <span class="when" :class="{ late: task.state === 'overdue' && !task.doneAt, done: task.doneAt }">{{
          task.doneAt
            ? `done ${when(task.doneAt)}`
            : task.state === 'overdue'
              ? `overdue since ${due(task)}`
              : due(task)
        }}</span>
        <span>
          <b><TaskLink :task="task" /></b> · {{ task.doneAt ? task.doneBy : task.assignee.name }}
          <template v-if="record(task)">
            ·
            <RouterLink :to="record(task)?.to ?? ''" class="quiet-link">{{ record(task)?.name }}</RouterLink>
          </template>
        </span>
        <span v-if="!task.doneAt" class="do">
          <v-btn
            class="word"
            :aria-label="`Remind ${task.assignee.name} of ${task.title}`"
            @click="remind(task)"
            >Remind</v-btn
          >
          <v-btn
            class="word"
            :aria-label="`Move ${task.title}`"
            :aria-expanded="moving === task.id"
            @click="moving = moving === task.id ? null : task.id"
            >Move…</v-btn
          >
          <v-btn class="word" :aria-label="`Take back ${task.title}`" @click="takeBack(task)"
            >Take back</v-btn
          >
        </span>
        <DateField
          v-if="moving === task.id"
          class="move"
          :model-value="''"
          :label="`New day for ${task.title}`"
          autofocus
          @change="move(task, $event)"
        />
      </li>
    </ul>
    <v-btn v-if="hasMore" class="quiet" @click="more">Show more</v-btn>
    <template v-if="!items && !error"><span v-for="n in 6" :key="n" class="ghost"></span></template>
    <HandoverDialog v-if="isHandingOver" @close="isHandingOver = false" />
  </div>
</template>

<style scoped>
.whose {
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.tasks li {
  display: grid;
  grid-template-columns: 190px 1fr auto;
  gap: 4px 16px;
  align-items: baseline;
  min-height: 36px;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule2);
}
.handovers {
  margin-bottom: 12px;
}
.handovers li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
.when {
  color: var(--soft);
}
.when.late {
  color: var(--wait);
}
.when.done {
  color: var(--theirs);
}
.do {
  display: flex;
  gap: 12px;
}
.move {
  grid-column: 2 / -1;
  max-width: 320px;
}
@media (max-width: 700px) {
  .tasks li {
    grid-template-columns: 1fr;
  }
  .move {
    grid-column: 1;
  }
}
</style>
