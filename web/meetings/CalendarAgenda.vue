<script setup lang="ts">
import type { CalendarItem } from '@emporikon/contract/meetings';
import { computed } from 'vue';
import { calendarDay, clock, nameList, todayOf } from '../shell/format';
import { useSession } from '../shell/session';
import TaskLink from '../tasks/TaskLink.vue';
import { daysOf, placeOf } from './placing';

/** What stands in a calendar, day after day, as a list. */
const props = defineProps<{
  items: readonly CalendarItem[];
  showsWho: boolean;
  /** YYYY-MM-DD; the end is not shown. */
  from: string;
  until: string;
}>();
const session = useSession();
const days = computed(() => {
  const groups = new Map<string, CalendarItem[]>();
  for (const item of props.items)
    for (const day of daysOf(placeOf(item), props)) groups.set(day, [...(groups.get(day) ?? []), item]);
  return [...groups]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([day, items]) => ({ day, items: items.sort((a, b) => Number(b.allDay) - Number(a.allDay)) }));
});
/** Everybody else who is there. */
const company = (item: CalendarItem): string[] =>
  [...(item.assignee.id === session.me?.id ? [] : [item.assignee.name]), ...item.with].filter(
    (name) => name !== session.me?.name && name !== item.about,
  );
const stateOf = (item: CalendarItem): string =>
  item.isDone ? 'done' : item.isOverdue ? 'overdue' : item.isExpected ? 'repeats' : '';
</script>

<template>
  <section v-for="group in days" :key="group.day" class="day" :class="{ today: group.day === todayOf() }">
    <h2>{{ calendarDay(group.day) }}</h2>
    <ul>
      <li v-for="item in group.items" :key="item.key" :class="{ over: item.isDone }">
        <span class="time num">{{ item.allDay ? 'Day' : `${clock(item.start)}–${clock(item.end)}` }}</span>
        <span
          ><TaskLink :task="{ id: item.taskId, title: item.title }" :time="item.occursAt" /><span
            v-if="item.about"
            class="soft"
          >
            · {{ item.about }}</span
          ><span v-if="item.place" class="soft"> · {{ item.place }}</span
          ><span v-if="company(item).length" class="soft"> · with {{ nameList(company(item)) }}</span
          ><span v-if="showsWho" class="soft"> · {{ item.assignee.name }}</span></span
        >
        <span class="state" :class="item.isOverdue ? 'late' : 'soft'">{{ stateOf(item) }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.day {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  border-top: 1px solid var(--rule);
  padding: 8px 0;
}
h2 {
  margin: 2px 0;
  font-size: 15px;
}
.today h2 {
  color: var(--ours);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 108px minmax(0, 1fr) auto;
  gap: 0 12px;
  padding: 4px 0;
}
.time {
  color: var(--soft);
}
.over {
  color: var(--soft);
}
@media (max-width: 700px) {
  .day {
    grid-template-columns: minmax(0, 1fr);
  }
  li {
    grid-template-columns: 96px minmax(0, 1fr);
  }
  .state {
    grid-column: 2;
  }
}
</style>
