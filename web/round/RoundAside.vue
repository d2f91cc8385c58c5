<script setup lang="ts">
import { noticeWords } from '@emporikon/core/ledger/notices';
import { computed } from 'vue';
import { api } from '../shell/api';
import { calendarDay, clock, due, todayOf, when } from '../shell/format';
import { addDays } from '../shell/days';
import { useFetched } from '../shell/live';
import { fromField } from '../shell/moment';
import TaskLink from '../tasks/TaskLink.vue';

/** Beside the round: what has a time today, what lies with others, and what is for me. */
const SHOWN = 5;
const { data: delegated } = useFetched(
  () => api('GET /api/tasks/delegated', { query: { limit: SHOWN } }),
  ['tasks'],
);
const { data: notices } = useFetched(() => api('GET /api/notices', { query: { limit: SHOWN } }), ['notices']);
const dayAt = (day: string): string => fromField(day, true) ?? '';
/** What has a time today, also where a colleague asked one to come. */
const { data: calendar } = useFetched(
  () =>
    api('GET /api/calendar', {
      query: { from: dayAt(todayOf()), until: dayAt(addDays(todayOf(), 1)) },
    }),
  ['tasks', 'task_people'],
);
const timed = computed(() => (calendar.value?.items ?? []).filter(({ allDay }) => !allDay));
const unread = computed(() => (notices.value?.items ?? []).filter(({ isRead }) => !isRead));
</script>

<template>
  <aside aria-label="Today">
    <h2>Today</h2>
    <p class="soft">{{ calendarDay(todayOf()) }}</p>
    <ul v-if="timed.length" class="times">
      <li v-for="item in timed" :key="item.key" :class="{ over: item.isDone }">
        <b>{{ clock(item.start) }}</b> <TaskLink :task="{ id: item.taskId, title: item.title }" />
        <span v-if="item.about" class="soft">{{ item.about }}</span>
        <span v-if="item.answer === 'waiting'" class="late">to answer</span>
        <span v-if="item.isDone" class="soft">done</span>
      </li>
    </ul>
    <p v-else class="soft">Nothing has a time today.</p>
    <RouterLink to="/round/week" class="quiet-link">The week</RouterLink>
    <h2>Delegated</h2>
    <ul v-if="delegated?.items.length">
      <li v-for="task in delegated.items" :key="task.id" class="pair">
        <span
          ><TaskLink :task="task" /> · <b>{{ task.assignee.name.split(' ')[0] }}</b></span
        >
        <span :class="task.state === 'overdue' ? 'late' : 'soft'">{{
          task.state === 'overdue' ? `since ${due(task)}` : due(task)
        }}</span>
      </li>
    </ul>
    <p v-else class="soft">Nothing lies with a colleague.</p>
    <RouterLink to="/round/delegated" class="quiet-link">All delegated</RouterLink>
    <h2>For you</h2>
    <ul v-if="unread.length">
      <li v-for="notice in unread" :key="notice.id">
        {{ noticeWords(notice) }} <span class="soft">{{ when(notice.at) }}</span>
      </li>
    </ul>
    <p v-else class="soft">Nothing new.</p>
  </aside>
</template>

<style scoped>
aside {
  padding: 14px 22px 24px;
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  font-size: 13px;
}
h2 {
  margin: 18px 0 2px;
  padding-bottom: 3px;
  border-bottom: 1px solid var(--rule);
}
h2:first-child {
  margin-top: 0;
  border: 0;
}
p {
  margin: 2px 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--rule2);
  overflow-wrap: anywhere;
}
.times li {
  border-bottom: 0;
  border-left: 2px solid var(--theirs);
  padding: 4px 0 4px 10px;
  margin-bottom: 4px;
}
.pair {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
@media (max-width: 1000px) {
  aside {
    border-left: 0;
    border-top: 1px solid var(--rule);
  }
}
</style>
