<script setup lang="ts">
import type { TaskDetail } from '@emporikon/contract/tasks';
import { computed } from 'vue';
import EditCell from '../kit/EditCell.vue';
import { addDays } from '../shell/days';
import { calendarDay, clock, due, fullDay } from '../shell/format';
import { fromField, toField } from '../shell/moment';

/** When a task is due, from when until when, and on which days; each edited where it stands. */
const props = defineProps<{
  task: TaskDetail;
  /** Saves some fields of the task over a version. */
  change: (body: Record<string, unknown>) => (version: number) => Promise<void>;
}>();

/** A whole day counts in the zone of the task. */
const dayOf = (iso: string): string =>
  toField(iso, true, props.task.allDay ? props.task.zone : undefined).slice(0, 10);
const timeOf = (iso: string): string => toField(iso, false).slice(11);
const at = (day: string, time: string | null): string => {
  const { zone } = props.task;
  return (time ? fromField(`${day}T${time}`, false) : fromField(day, true, zone)) ?? props.task.dueAt;
};
const saveDay = (day: string, version: number): Promise<void> =>
  props.change({ dueAt: at(day, props.task.allDay ? null : timeOf(props.task.dueAt)) })(version);

/** A time as it is typed; null for none. */
async function timeFrom(typed: string): Promise<string | null> {
  const { readTypedTime } = await import('@emporikon/core/calendar/typedTime');
  const time = typed.trim() ? readTypedTime(typed) : null;
  if (typed.trim() && !time) throw new Error(`“${typed}” is not a time. Type one such as 9:30.`);
  return time;
}
async function saveTime(typed: string, version: number): Promise<void> {
  const time = await timeFrom(typed);
  await props.change({ dueAt: at(dayOf(props.task.dueAt), time), allDay: time === null })(version);
}
async function saveUntil(typed: string, version: number): Promise<void> {
  const time = await timeFrom(typed);
  const begins = dayOf(props.task.dueAt);
  // What ends before it begins ends on the day after.
  const isNextDay = time !== null && time <= timeOf(props.task.dueAt);
  const endDay = isNextDay ? addDays(begins, 1) : begins;
  await props.change({ endAt: time === null ? null : at(endDay, time) })(version);
}
/** Of whole days, the day after the last is where they end. */
const lastDay = computed(() =>
  props.task.allDay && props.task.endAt ? addDays(dayOf(props.task.endAt), -1) : null,
);
const canLast = computed(
  () => props.task.allDay && (props.task.kind === 'meeting' || props.task.kind === 'visit' || lastDay.value),
);
async function saveLastDay(day: string, version: number): Promise<void> {
  const first = dayOf(props.task.dueAt);
  if (day && day < first) throw new Error('The last day is before the first.');
  await props.change({ endAt: day && day > first ? at(addDays(day, 1), null) : null })(version);
}
const saveStart = (day: string, version: number): Promise<void> =>
  props.change({ startAt: day ? at(day, null) : null })(version);
</script>

<template>
  <div>
    <dt class="cap">Due</dt>
    <dd :class="{ late: task.state === 'overdue' && !task.doneAt }">
      <EditCell
        :value="dayOf(task.dueAt)"
        :shown="due({ ...task, allDay: true, zone: task.allDay ? task.zone : undefined })"
        label="Due"
        kind="date"
        :save="saveDay"
        :version="task.version"
        field="dueAt"
      />
    </dd>
  </div>
  <div>
    <dt class="cap">Time</dt>
    <dd>
      <EditCell
        :value="task.allDay ? null : timeOf(task.dueAt)"
        :shown="task.allDay ? undefined : clock(task.dueAt)"
        label="Time"
        placeholder="Any time"
        :save="saveTime"
        :version="task.version"
        field="allDay"
      />
    </dd>
  </div>
  <div v-if="!task.allDay">
    <dt class="cap">Until</dt>
    <dd>
      <EditCell
        :value="task.endAt ? timeOf(task.endAt) : null"
        :shown="task.endAt ? clock(task.endAt) : undefined"
        label="Until"
        placeholder="Not set"
        :save="saveUntil"
        :version="task.version"
        field="endAt"
      />
    </dd>
  </div>
  <div v-if="canLast">
    <dt class="cap">Last day</dt>
    <dd>
      <EditCell
        :value="lastDay"
        :shown="lastDay ? calendarDay(lastDay) : undefined"
        label="Last day"
        kind="date"
        placeholder="The same day"
        :save="saveLastDay"
        :version="task.version"
        field="endAt"
      />
    </dd>
  </div>
  <div>
    <dt class="cap">Starts</dt>
    <dd>
      <EditCell
        :value="task.startAt ? dayOf(task.startAt) : null"
        :shown="task.startAt ? fullDay(dayOf(task.startAt)) : undefined"
        label="Starts"
        kind="date"
        placeholder="At once"
        :save="saveStart"
        :version="task.version"
        field="startAt"
      />
    </dd>
  </div>
</template>

<style scoped>
div {
  border-top: 1px solid var(--rule);
  padding: 4px 0 6px;
}
dd,
dd :deep(.cell) {
  margin: 0;
  white-space: pre-line;
}
</style>
