<script setup lang="ts">
import type { SheetMove } from '@emporikon/core/ledger/callSheet';
import { computed, reactive, ref, watch } from 'vue';
import { clock, due } from '../shell/format';
import DateField from '../kit/DateField.vue';
import TimeField from '../kit/TimeField.vue';
import { fromField, toField } from '../shell/moment';

/** The follow-ups as they were read or added, each correctable; what a hand changed stays while more is typed. */
const props = defineProps<{ moves: SheetMove[] }>();
const emit = defineEmits<{ change: [moves: SheetMove[]] }>();
type Edit = Partial<SheetMove> & { isOut?: boolean };
const edits = reactive<Record<string, Edit>>({});
const added = ref<SheetMove[]>([]);
const KINDS = { call: 'Call', mail: 'Mail', meeting: 'Meeting', task: 'Task' } as const;

const lines = computed(() =>
  [...props.moves, ...added.value].map((move) => ({
    ...move,
    ...edits[move.from],
    key: move.from,
    isOut: edits[move.from]?.isOut === true,
  })),
);
watch(
  lines,
  (now) =>
    emit(
      'change',
      now.filter((one) => !one.isOut && one.title.trim()),
    ),
  { immediate: true },
);
const edit = (key: string, patch: Edit): void => {
  edits[key] = { ...edits[key], ...patch };
};
/** Moves a follow-up to a day, and to a time of that day. */
function redate(
  move: SheetMove,
  key: string,
  day: string,
  time = toField(move.dueAt, false).slice(11),
): void {
  const dueAt = fromField(move.allDay ? day : `${day}T${time}`, move.allDay);
  if (dueAt) edit(key, { dueAt, endAt: null, assumedDate: false });
}
/** From a day to nine on that day, or back to the day. */
const setHour = (move: SheetMove, key: string): void => {
  const day = toField(move.dueAt, true);
  const dueAt = move.allDay ? fromField(`${day}T09:00`, false) : fromField(day, true);
  if (dueAt) edit(key, { dueAt, allDay: !move.allDay, endAt: null, assumedDate: false });
};
function add(): void {
  const tomorrow = new Date(Date.now() + 86_400_000).toISOString();
  added.value.push({
    title: '',
    kind: 'task',
    dueAt: fromField(toField(tomorrow, true), true) ?? tomorrow,
    endAt: null,
    allDay: true,
    assumedDate: false,
    from: `added by hand, ${added.value.length + 1}`,
  });
}
</script>

<template>
  <div
    v-for="(move, index) in lines"
    :key="move.key"
    class="move"
    :class="{ out: move.isOut }"
    data-part="move"
    :title="`From “${move.from}”`"
  >
    <v-select
      class="inline-edit"
      :model-value="move.kind"
      :aria-label="`Kind of follow-up ${index + 1}`"
      :items="Object.entries(KINDS).map(([kind, name]) => ({ value: kind, title: name }))"
      @update:model-value="edit(move.key, { kind: $event as SheetMove['kind'] })"
    />
    <v-text-field
      class="inline-edit"
      :model-value="move.title"
      placeholder="What to do"
      :aria-label="`Follow-up ${index + 1}`"
      @update:model-value="edit(move.key, { title: $event })"
    />
    <v-btn class="word" @click="edit(move.key, { isOut: !move.isOut })">
      {{ move.isOut ? 'Keep' : 'Drop' }}
    </v-btn>
    <v-btn class="word" @click="setHour(move, move.key)">
      {{ move.allDay ? 'Set a time' : 'All day' }}
    </v-btn>
    <div class="when">
      <DateField
        :model-value="toField(move.dueAt, true)"
        :aria-label="`Day of follow-up ${index + 1}`"
        @change="redate(move, move.key, $event)"
      />
      <TimeField
        v-if="!move.allDay"
        class="time"
        :model-value="toField(move.dueAt, false).slice(11)"
        :aria-label="`Time of follow-up ${index + 1}`"
        @update:model-value="redate(move, move.key, toField(move.dueAt, true), $event)"
      />
    </div>
    <span class="cap num said">{{
      move.assumedDate ? 'no day was said' : move.endAt ? `until ${clock(move.endAt)}` : ''
    }}</span>
    <span class="visually-hidden">{{ due(move) }}</span>
  </div>
  <v-btn class="word" @click="add">Add a follow-up</v-btn>
</template>

<style scoped>
.move {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) 92px;
  gap: 2px 8px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule2);
}
.out input {
  text-decoration: line-through;
}
.said {
  white-space: nowrap;
}
</style>
