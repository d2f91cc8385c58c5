<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../kit/DateField.vue';
import { loadFreeDays } from '../kit/useFreeDays';
import { vFocus } from '../kit/focus';
import RecordPicker from '../kit/RecordPicker.vue';
import SidePanel from '../kit/SidePanel.vue';
import TimeField from '../kit/TimeField.vue';
import { api, ApiProblem, wordsOf } from '../shell/api';
import { todayOf } from '../shell/format';
import { fromField, toField } from '../shell/moment';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import AttendeePicker from './AttendeePicker.vue';
import { addDays } from '../shell/days';
import FreeTimes from './FreeTimes.vue';
import { begunMeeting } from './link';
import { wantedOf, type Picked } from './picked';

/** A new meeting beside the page it was begun on: who comes, when, where, what it is about. */
const emit = defineEmits<{ close: [] }>();
const route = useRoute();
const session = useSession();
const undo = useUndo();
const title = ref('');
const people = ref<Picked[]>([]);
const day = ref('');
const isAllDay = ref(false);
const lastDay = ref('');
const from = ref('');
const until = ref('');
const place = ref('');
const notes = ref('');
const deal = ref<{ id: string; label: string } | null>(null);
const isInviting = ref(true);
const isSaving = ref(false);
const error = ref('');
const wrong = ref<Record<string, string>>({});

/** What was pressed in the calendar, or on a record, is where it begins. */
function begin(): void {
  const { start = '', end = '', with: person, deal: about } = begunMeeting(route.query);
  day.value = start.slice(0, 10);
  if (!start) void proposeDay();
  isAllDay.value = start.length === 10 && end.length === 10;
  if (isAllDay.value) lastDay.value = addDays(end, -1);
  from.value = start.slice(11) || '10:00';
  until.value = end.slice(11) || after(from.value, 60);
  if (person) people.value = [{ key: person.id, name: person.name, personId: person.id }];
  if (about) deal.value = { id: about.id, label: about.name };
}
const after = (time: string, minutes: number): string =>
  new Date(Date.parse(`2026-01-01T${time}:00Z`) + minutes * 60_000).toISOString().slice(11, 16);
/** The next day on which one works. */
async function proposeDay(): Promise<void> {
  const { readTypedDay } = await import('@emporikon/core/calendar/typedDay');
  const free = await loadFreeDays();
  day.value ||= readTypedDay('in 1 working day', { today: todayOf(), monthFirst: false, free }) ?? '';
}
begin();

/** It lasts as long as it did when it begins at another time. */
watch(from, (now, before) => {
  const lasts = (Date.parse(`2026-01-01T${until.value}Z`) - Date.parse(`2026-01-01T${before}Z`)) / 60_000;
  if (lasts > 0) until.value = after(now, lasts);
});
const colleagueIds = computed(() =>
  people.value.flatMap(({ userId }) => userId ?? []).filter((id) => id !== session.me?.id),
);
const outside = computed(() => people.value.filter(({ userId }) => !userId));

function take({ start, end }: { start: string; end: string }): void {
  day.value = toField(start, false).slice(0, 10);
  // First the end, so that the beginning moves nothing.
  from.value = toField(start, false).slice(11);
  void Promise.resolve().then(() => (until.value = toField(end, false).slice(11)));
}
const remove = (key: string): void => void (people.value = people.value.filter((one) => one.key !== key));

/** A whole day needs no end; of several, it is when the day after the last begins. */
function timesWanted(): { dueAt: string; endAt: string | null; allDay: boolean } | null {
  if (isAllDay.value) {
    const dueAt = fromField(day.value, true);
    if (!dueAt) return null;
    const endAt = lastDay.value > day.value ? fromField(addDays(lastDay.value, 1), true) : null;
    return { dueAt, endAt, allDay: true };
  }
  const dueAt = fromField(`${day.value}T${from.value}`, false);
  const endDay = until.value > from.value ? day.value : addDays(day.value, 1);
  const endAt = dueAt && fromField(`${endDay}T${until.value}`, false);
  return endAt ? { dueAt, endAt, allDay: false } : null;
}

async function save(): Promise<void> {
  if (isSaving.value) return;
  error.value = '';
  wrong.value = title.value.trim() ? {} : { title: 'Say what it is about.' };
  const times = timesWanted();
  if (!times) wrong.value = { ...wrong.value, day: 'Say on which day it is.' };
  if (isAllDay.value && lastDay.value && lastDay.value < day.value)
    wrong.value = { ...wrong.value, lastDay: 'The last day is before the first.' };
  if (Object.keys(wrong.value).length || !times) return;
  isSaving.value = true;
  try {
    const { task, eventId } = await api('POST /api/tasks', {
      body: {
        title: title.value,
        kind: 'meeting',
        ...{ ...times, place: place.value, notes: notes.value },
        isInviting: isInviting.value && people.value.length > 0,
        people: people.value.map(wantedOf),
        personId: people.value.find(({ personId }) => personId)?.personId ?? null,
        dealId: deal.value?.id ?? null,
      },
    });
    undo.tell({ text: `${task.title}: saved.`, eventId });
    emit('close');
  } catch (problem) {
    wrong.value = problem instanceof ApiProblem ? (problem.problem.fields ?? {}) : {};
    error.value = wordsOf(problem);
  } finally {
    isSaving.value = false;
  }
}
</script>

<template>
  <SidePanel label="New meeting" @close="emit('close')">
    <form
      class="meeting"
      @submit.prevent="save"
      @keydown.esc="emit('close')"
      @keydown.ctrl.enter.prevent="save"
    >
      <v-text-field
        v-model="title"
        v-focus
        label="What it is about"
        maxlength="300"
        required
        :error-messages="wrong.title"
      />
      <AttendeePicker label="Who comes" :chosen="people" @pick="people.push($event)" />
      <ul v-if="people.length" aria-label="Who comes">
        <li v-for="one in people" :key="one.key">
          <span
            >{{ one.name }} <span v-if="one.hint" class="soft">{{ one.hint }}</span></span
          >
          <v-btn class="word" :aria-label="`Remove ${one.name}`" @click="remove(one.key)">Remove</v-btn>
        </li>
      </ul>
      <div class="when">
        <DateField
          v-model="day"
          :label="isAllDay ? 'First day' : 'Day'"
          required
          :error-messages="wrong.day"
        />
        <DateField
          v-if="isAllDay"
          v-model="lastDay"
          class="last-day"
          label="Last day"
          placeholder="The same day"
          :error-messages="wrong.lastDay ?? wrong.endAt"
        />
        <template v-else>
          <TimeField v-model="from" label="From" />
          <TimeField v-model="until" label="Until" :error-messages="wrong.endAt" />
        </template>
      </div>
      <v-checkbox v-model="isAllDay" label="All day" />
      <FreeTimes v-if="!isAllDay" :colleague-ids="colleagueIds" @take="take" />
      <v-text-field v-model="place" label="Where" maxlength="300" placeholder="Address, room or link" />
      <div v-if="deal" class="pair">
        <span><span class="cap">Deal</span> {{ deal.label }}</span>
        <v-btn class="word" @click="deal = null">Remove the deal</v-btn>
      </div>
      <RecordPicker
        v-else
        kind="deal"
        label="Deal"
        placeholder="Deal, if it is about one"
        @pick="deal = $event"
      />
      <v-textarea v-model="notes" label="Notes for your team" maxlength="5000" rows="2" />
      <v-checkbox
        v-model="isInviting"
        :label="outside.length ? 'Invite everybody by mail' : 'Invite by mail'"
        :disabled="!people.length"
      />
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div class="do">
        <v-btn class="fill" type="submit" :loading="isSaving">Save</v-btn>
        <v-btn class="word" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </SidePanel>
</template>

<style scoped>
.meeting {
  padding: 12px 24px 24px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
ul {
  list-style: none;
  margin: -6px 0 0;
  padding: 0;
}
li,
.pair {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule);
}
.last-day {
  grid-column: span 2;
}
.when {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr);
  gap: 12px;
}
.do {
  display: flex;
  gap: 16px;
  align-items: center;
}
@media (max-width: 700px) {
  .meeting {
    padding: 10px 14px 20px;
  }
}
</style>
