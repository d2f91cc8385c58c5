<script setup lang="ts">
import type { FoundRecord, QueryField } from '@emporikon/contract/queries';
import type { Comparison, Query } from '@emporikon/core/query/types';
import { computed } from 'vue';
import { useMedia } from '../shell/browser';
import { api } from '../shell/api';
import { calendarDay, fullDay, localeOf, plainNumber, todayOf } from '../shell/format';
import { useFetched } from '../shell/live';
import { reloadOn } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { addDays, firstWeekday, rangeOf, stepFrom } from '../shell/days';
import { TABLES, type ViewedKind } from './kinds';
import { dayIn, isMonth } from './monthDays';
import type { CardOf } from './useCards';
import { dateFormat } from '../shell/intl';

/** The records of a view on the days that a field of them says, a month at a time. */
const props = defineProps<{ kind: ViewedKind; query: Query; by: QueryField; cardOf: CardOf }>();
const emit = defineEmits<{ day: [condition: Comparison] }>();
const [MOST_READ, MOST_SHOWN] = [200, 4];
const asked = useQueryRef('month', todayOf().slice(0, 7));
/** An address that says no month shows this one. */
const month = computed({
  get: () => (isMonth(asked.value) ? asked.value : todayOf().slice(0, 7)),
  set: (next) => (asked.value = next),
});
const first = firstWeekday(localeOf());
const range = computed(() => rangeOf('month', `${month.value}-01`, first));
const days = computed(() => {
  const all: string[] = [];
  for (let day = range.value.from; day < range.value.until; day = addDays(day, 1)) all.push(day);
  return all;
});
const title = computed(() =>
  dateFormat(localeOf(), { timeZone: 'UTC', month: 'long', year: 'numeric' }).format(
    new Date(`${month.value}-01T00:00Z`),
  ),
);
const step = (by: 1 | -1): void =>
  void (month.value = stepFrom('month', `${month.value}-01`, by).slice(0, 7));

const within = computed<Query>(() => {
  const { filter, columns = [] } = props.query;
  const shownDays: Comparison = {
    field: props.by.key,
    op: 'between',
    value: [{ day: range.value.from }, { day: addDays(range.value.until, -1) }],
  };
  return {
    ...props.query,
    filter: { all: [...(filter ? [filter] : []), shownDays] },
    groups: [],
    totals: [],
    order: [{ field: props.by.key, direction: 'asc' }],
    columns: columns.includes(props.by.key) ? columns : [...columns, props.by.key],
  };
});
/** A day that comes back every year cannot be counted by the day. */
const isYearly = computed(() => props.by.type === 'yearly');
const { data, error, load } = useFetched(async () => {
  const query = within.value;
  const groups = [{ field: props.by.key, by: 'day' }];
  const [found, totals] = await Promise.all([
    api('POST /api/queries', { body: { query: query as never, limit: MOST_READ } }),
    isYearly.value
      ? null
      : api('POST /api/queries/totals', { body: { query: { ...query, groups } as never } }),
  ]);
  return { ...found, totals };
}, TABLES[props.kind]);
reloadOn(() => [within.value], load);

const byDay = computed(() => {
  const map = new Map<string, FoundRecord[]>();
  for (const row of data.value?.items ?? []) {
    const day = dayIn(row.values[props.by.key], props.by.type, range.value);
    if (day) map.set(day, [...(map.get(day) ?? []), row]);
  }
  return map;
});
const counts = computed(
  () => new Map((data.value?.totals?.items ?? []).map(({ keys, count }) => [keys[0] ?? '', count])),
);
interface DayShown {
  day: string;
  isOther: boolean;
  rows: FoundRecord[];
  /** How many there are besides those shown. */
  more: number;
}
const shown = computed<DayShown[]>(() =>
  days.value.map((day) => {
    const all = byDay.value.get(day) ?? [];
    const rows = all.slice(0, MOST_SHOWN);
    return {
      day,
      isOther: !day.startsWith(month.value),
      rows,
      more: (counts.value.get(day) ?? all.length) - rows.length,
    };
  }),
);
const weeks = computed(() => {
  const all = shown.value;
  return Array.from({ length: all.length / 7 }, (_, at) => all.slice(at * 7, at * 7 + 7));
});
const isNarrow = useMedia('(max-width: 900px)');
const listed = computed(() => shown.value.filter(({ rows, more }) => rows.length || more));
const weekday = (day: string): string =>
  dateFormat(localeOf(), { timeZone: 'UTC', weekday: 'short' }).format(new Date(`${day}T00:00Z`));
const open = (day: string): void =>
  emit('day', { field: props.by.key, op: 'in', value: { unit: 'day', day } });
const isCut = computed(() => isYearly.value && data.value?.next !== null);
</script>

<template>
  <section :aria-label="`${by.label}, ${title}`">
    <div class="line">
      <h2>{{ title }}</h2>
      <v-btn class="word" @click="step(-1)">Earlier</v-btn>
      <v-btn class="word" @click="month = todayOf().slice(0, 7)">Today</v-btn>
      <v-btn class="word" @click="step(1)">Later</v-btn>
      <span v-if="isCut" class="soft">The first {{ MOST_READ }} are shown.</span>
    </div>
    <p v-if="error" class="wrong" role="alert">
      {{ error }} <v-btn class="word" @click="load">Try again</v-btn>
    </p>
    <template v-else-if="!data"><span v-for="n in 6" :key="n" class="ghost"></span></template>
    <template v-else-if="isNarrow">
      <p v-if="!listed.length" class="empty">
        Nothing that meets these conditions is on a day of this month.
      </p>
      <div v-for="one in listed" :key="one.day" class="day">
        <h3>{{ fullDay(one.day) }}</h3>
        <p v-for="row in one.rows" :key="row.id">
          <RouterLink v-if="cardOf(row).to" :to="cardOf(row).to">{{ cardOf(row).name }}</RouterLink><template
            v-else
            >{{ cardOf(row).name }}</template
          >
        </p>
        <v-btn v-if="one.more" class="word" @click="open(one.day)">{{ plainNumber(one.more) }} more</v-btn>
      </div>
    </template>
    <v-table v-else class="month">
      <thead>
        <tr>
          <th v-for="one in weeks[0]" :key="one.day" scope="col">{{ weekday(one.day) }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="week in weeks" :key="week[0]?.day">
          <td
            v-for="one in week"
            :key="one.day"
            :class="{ other: one.isOther, today: one.day === todayOf() }"
            :aria-label="calendarDay(one.day)"
          >
            <span class="num date">{{ Number(one.day.slice(8)) }}</span>
            <p v-for="row in one.rows" :key="row.id" class="record">
              <RouterLink v-if="cardOf(row).to" :to="cardOf(row).to">{{
                cardOf(row).name
              }}</RouterLink><template v-else>{{ cardOf(row).name }}</template>
            </p>
            <v-btn
              v-if="one.more"
              class="word more"
              :aria-label="`${plainNumber(one.more)} more on ${calendarDay(one.day)}`"
              @click="open(one.day)"
              >{{ plainNumber(one.more) }} more</v-btn
            >
          </td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>

<style scoped>
.line {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
h2 {
  margin: 6px 0;
  font-size: 18px;
}
h3 {
  margin: 12px 0 4px;
  font-size: 14px;
}
.day p {
  min-height: 24px;
  margin: 2px 0;
}
.month :deep(table) {
  border-collapse: collapse;
  width: 100%;
  table-layout: fixed;
  background: var(--sheet);
}
.month.v-table.v-table--density-compact > :deep(.v-table__wrapper > table > thead > tr > th) {
  height: 28px;
  padding: 4px 8px;
  background: var(--ground);
}
.month.v-table.v-table--density-compact > :deep(.v-table__wrapper > table > tbody > tr > td) {
  height: 84px;
  padding: 4px 8px;
  vertical-align: top;
  border: 1px solid var(--rule);
}
.month.v-table.v-table--density-compact > :deep(.v-table__wrapper > table > tbody > tr > td.other) {
  background: var(--ground);
}
.date {
  font-size: 12px;
  color: var(--soft);
}
.today .date {
  color: var(--ours);
  font-weight: 700;
}
.record {
  margin: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 13px;
  line-height: 24px;
}
.record a {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
}
.more {
  font-size: 12px;
}
</style>
