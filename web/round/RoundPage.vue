<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { Task } from '@emporikon/contract/tasks';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { clock, day, shownCount } from '../shell/format';
import { useUndo } from '../shell/undo';
import { usePaged } from '../shell/usePaged';

const undo = useUndo();
const whose = ref<'mine' | 'all'>('mine');
const { items, first, hasMore, more, error, reload } = usePaged<Task, Reply<'GET /api/tasks'>>(
  (cursor) =>
    api('GET /api/tasks', { query: { cursor, assignee: whose.value === 'all' ? 'all' : undefined } }),
  ['tasks', 'people', 'deals', 'leads'],
);
watch(whose, reload);

const GROUPS = [
  { state: 'overdue', name: 'Overdue' },
  { state: 'today', name: 'Today' },
  { state: 'later', name: 'Later' },
] as const;
const groups = computed(() =>
  GROUPS.map((group) => ({
    ...group,
    items: (items.value ?? []).filter((task) => task.state === group.state),
  })).filter((group) => group.items.length),
);

const about = (task: Task): { to: string; name: string } | null => {
  if (task.deal) return { to: `/deals/${task.deal.id}`, name: task.deal.name };
  if (task.lead) return { to: `/leads/${task.lead.id}`, name: task.lead.name };
  return null;
};
const why = (task: Task): string =>
  task.state === 'overdue'
    ? `overdue since ${day(task.dueAt)}`
    : task.allDay
      ? task.state === 'today'
        ? 'due today'
        : `due ${day(task.dueAt)}`
      : `${task.state === 'today' ? 'today' : day(task.dueAt)}, ${clock(task.dueAt)}`;

async function change(task: Task, body: { done: true } | { dueAt: string }, words: string): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/tasks/:id', {
      params: { id: task.id },
      body: { version: task.version, ...body },
    });
    undo.tell({ text: `${words}: ${task.title}.`, eventId });
  } catch (problem) {
    undo.fail(problem);
    await reload();
  }
}
const DAY_MS = 86_400_000;
/** A day later than it was due, or than now when it is overdue. */
const tomorrow = (task: Task): string =>
  new Date(
    Math.max(Date.parse(task.dueAt), task.state === 'overdue' ? Date.now() : 0) + DAY_MS,
  ).toISOString();
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Round</h1>
      <span class="soft">{{ first ? `${shownCount(first.total)} to do` : '…' }}</span>
      <span class="whose"
        ><v-btn class="word" :aria-pressed="whose === 'mine'" @click="whose = 'mine'">Mine</v-btn>
        <v-btn class="word" :aria-pressed="whose === 'all'" @click="whose = 'all'">Everybody’s</v-btn></span
      >
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <p v-if="items && !items.length" class="empty">
      Nothing is due. Write a next move at the foot of any person, company, lead or deal.
    </p>
    <section v-for="group in groups" :key="group.state" :aria-label="group.name">
      <h2 :class="group.state">{{ group.name }}</h2>
      <ul>
        <li v-for="task in group.items" :key="task.id" data-task>
          <span class="reason" :class="{ late: group.state === 'overdue' }">{{ why(task) }}</span>
          <span class="what">
            <b>{{ task.title }}</b>
            <template v-if="task.person">
              ·
              <RouterLink :to="`/people/${task.person.id}`" class="quiet-link">{{
                task.person.name
              }}</RouterLink></template
            >
            <template v-if="about(task)">
              ·
              <RouterLink :to="about(task)?.to ?? ''" class="quiet-link">{{
                about(task)?.name
              }}</RouterLink></template
            >
            <span v-if="whose === 'all'" class="soft"> · {{ task.assignee.name }}</span>
          </span>
          <span class="do">
            <v-btn
              class="word"
              :aria-label="`Done: ${task.title}`"
              @click="change(task, { done: true }, 'Done')"
            >
              Done
            </v-btn>
            <v-btn
              class="word"
              :aria-label="`A day later: ${task.title}`"
              @click="change(task, { dueAt: tomorrow(task) }, 'Moved a day')"
            >
              A day later
            </v-btn>
          </span>
        </li>
      </ul>
    </section>
    <v-btn v-if="hasMore" class="quiet" @click="more">Show more</v-btn>
    <template v-if="!items && !error"><span v-for="n in 6" :key="n" class="ghost"></span></template>
  </div>
</template>

<style scoped>
.whose {
  margin-left: auto;
}
h2 {
  margin-top: 12px;
  padding-bottom: 4px;
  border-bottom: 1px solid var(--rule);
}
h2.overdue {
  color: var(--wait);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 190px 1fr auto;
  gap: 4px 16px;
  align-items: baseline;
  min-height: 36px;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule2);
}
.reason {
  color: var(--soft);
}
.reason.late {
  color: var(--wait);
}
.do {
  display: flex;
  gap: 12px;
}
@media (max-width: 700px) {
  li {
    grid-template-columns: 1fr;
  }
}
</style>
