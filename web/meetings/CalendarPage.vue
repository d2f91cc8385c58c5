<script setup lang="ts">
import type { CalendarItem } from '@emporikon/contract/meetings';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import CalendarTrouble from '../caldav/CalendarTrouble.vue';
import { api } from '../shell/api';
import { useMedia, usePageKeys } from '../shell/browser';
import { calendarDay, due, localeOf, monthName, todayOf } from '../shell/format';
import { useFetched } from '../shell/live';
import { fromField } from '../shell/moment';
import { useSession } from '../shell/session';
import { useQueryRef } from '../shell/useQueryRef';
import { useTeam } from '../shell/useTeam';
import { useTaskAction } from '../tasks/useTaskAction';
import CalendarAgenda from './CalendarAgenda.vue';
import { addDays, firstWeekday, rangeOf, stepFrom, type Span } from '../shell/days';
import { newMeeting } from './link';
import { timesAt, type Place, type Times } from './placing';

/** What has a day or a time: mine, a colleague's or the team's, for a day, a week, a month, or as a list. */
const props = defineProps<{ span: Span }>();
const CalendarGrid = defineAsyncComponent(() => import('./CalendarGrid.vue'));
const route = useRoute();
const router = useRouter();
const session = useSession();
const team = useTeam();
const run = useTaskAction();
const on = useQueryRef<string>('on', '');
const who = useQueryRef<string>('who', '');
const isPhone = useMedia('(max-width: 700px)');

const day = computed(() => (/^\d{4}-\d{2}-\d{2}$/.test(on.value) ? on.value : todayOf()));
const first = computed(() => firstWeekday(localeOf()));
const range = computed(() => rangeOf(props.span, day.value, first.value));
/** Seven columns are too narrow for a phone. */
const isList = computed(() => props.span === 'agenda' || (isPhone.value && props.span !== 'day'));
const { data, error, load } = useFetched(
  () =>
    api('GET /api/calendar', {
      query: {
        from: fromField(range.value.from, true) ?? '',
        until: fromField(range.value.until, true) ?? '',
        ...(who.value ? { who: who.value } : {}),
      },
    }),
  ['tasks', 'task_people', 'closed_days', 'users'],
);
watch([range, who], load);

const title = computed(() => {
  const { from, until } = range.value;
  if (props.span === 'day') return calendarDay(day.value);
  if (props.span === 'month') return monthName(day.value.slice(0, 7));
  return `${calendarDay(from)} – ${calendarDay(addDays(until, -1))}`;
});
const whose = computed(() => [
  { value: '', title: 'Mine' },
  { value: 'team', title: 'The whole team' },
  ...team.value.filter(({ id }) => id !== session.me?.id).map(({ id, name }) => ({ value: id, title: name })),
]);
const showsWho = computed(() => who.value === 'team');
const busy = computed(() =>
  (data.value?.busy ?? []).map(({ start, end, who: colleague }) => ({ start, end, name: colleague.name })),
);

const step = (by: 1 | -1): void => void (on.value = stepFrom(props.span, day.value, by));
const toToday = (): void => void (on.value = '');
const open = ({ taskId, occursAt }: CalendarItem): unknown =>
  router.push({ query: { ...route.query, task: taskId, time: occursAt ?? undefined } });
/** A day that is pressed in a month is given a time in the form; whole days are those of the row above the hours, or several. */
function add(place?: Place): unknown {
  const isWhole = place && (!place.allDay || props.span !== 'month' || place.end > addDays(place.start, 1));
  const begun = place && { start: place.start, ...(isWhole ? { end: place.end } : {}) };
  return router.push({ query: newMeeting(route.query, begun) });
}
/**
 * What was moved stands there at once. The moves of one are sent one after the other, each on the version that the one before
 * it made, so that a key pressed twice moves twice.
 */
const moved = ref(new Map<string, { place: Times; version: number; left: number }>());
/** A time of a series that is moved becomes a task of its own. */
const became = ref(new Map<string, string>());
const items = computed(() =>
  (data.value?.items ?? []).map((item) => {
    const place = moved.value.get(item.key)?.place;
    if (!place) return item;
    const end = place.endAt ?? (place.allDay ? place.dueAt : item.end);
    return { ...item, start: place.dueAt, end, allDay: place.allDay };
  }),
);
let sending: Promise<unknown> = Promise.resolve();
function move(item: CalendarItem, to: Place): void {
  const times = timesAt(to, item.zone);
  if (!times) return;
  const before = moved.value.get(item.key);
  const now = { place: times, version: before?.version ?? item.version, left: (before?.left ?? 0) + 1 };
  moved.value.set(item.key, now);
  sending = sending.then(() => send(item, times));
}
async function send(item: CalendarItem, times: Times): Promise<void> {
  const own = became.value.get(item.key);
  const isMoved = await run(`Moved ${item.title} to ${due(times)}.`, async () => {
    const { task, eventId } =
      item.occursAt && !own
        ? await api('POST /api/tasks/:id/occurrences', {
            params: { id: item.taskId },
            body: { at: item.occursAt, ...times },
          })
        : await api('PATCH /api/tasks/:id', {
            params: { id: own ?? item.taskId },
            body: { version: moved.value.get(item.key)?.version ?? item.version, ...times },
          });
    if (item.occursAt) became.value.set(item.key, task.id);
    const shown = moved.value.get(item.key);
    if (shown) shown.version = task.version;
    return { eventId };
  });
  const shown = moved.value.get(item.key);
  if (shown) shown.left -= 1;
  if (isMoved && shown?.left) return;
  await load();
  if (!isMoved || !moved.value.get(item.key)?.left) moved.value.delete(item.key);
}

const KEYS: Record<string, () => void> = {
  j: () => step(1),
  k: () => step(-1),
  t: toToday,
  n: () => void add(),
};
usePageKeys((event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const act = KEYS[event.key];
  if (!act) return;
  event.preventDefault();
  act();
});
</script>

<template>
  <div class="page sheet">
    <div class="page-head">
      <h1>{{ title }}</h1>
      <v-btn class="word" @click="step(-1)">Earlier</v-btn>
      <v-btn class="word" @click="toToday">Today</v-btn>
      <v-btn class="word" @click="step(1)">Later</v-btn>
      <span class="right">
        <v-select v-model="who" class="whose" :items="whose" aria-label="Whose calendar" />
        <v-btn class="fill" @click="add()">New meeting</v-btn>
      </span>
    </div>
    <CalendarTrouble />
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-if="data">
      <CalendarAgenda
        v-if="isList && items.length"
        :items="items"
        :shows-who="showsWho"
        :from="range.from"
        :until="range.until"
      />
      <p v-else-if="isList" class="empty">Nothing has a day or a time here.</p>
      <CalendarGrid
        v-else
        :key="`${span} ${day} ${first}`"
        :span="span as Exclude<Span, 'agenda'>"
        :day="day"
        :first="first"
        :items="items"
        :busy="busy"
        :shows-who="showsWho"
        :became="became"
        @open="open"
        @move="move"
        @add="add"
      />
    </template>
    <template v-else-if="!error"><span v-for="n in 6" :key="n" class="ghost"></span></template>
  </div>
</template>

<style scoped>
.sheet {
  flex: 1;
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.page-head {
  flex-wrap: wrap;
}
.right {
  margin-left: auto;
  display: flex;
  gap: 14px;
  align-items: center;
}
.whose {
  min-width: 170px;
}
@media (max-width: 700px) {
  .right {
    margin-left: 0;
    width: 100%;
    justify-content: space-between;
  }
}
</style>
