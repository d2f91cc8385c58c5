<script setup lang="ts">
import type { SheetMove } from '@emporikon/core/ledger/callSheet';
import { computed, reactive, ref, watch } from 'vue';
import { clock, due } from '../shell/format';
import { fromField, toField } from './moment';

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
const retime = (key: string, value: string, allDay: boolean): void => {
  const dueAt = fromField(value, allDay);
  if (dueAt) edit(key, { dueAt, endAt: null, assumedDate: false });
};
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
    <select
      class="inline-edit"
      :value="move.kind"
      :aria-label="`Kind of follow-up ${index + 1}`"
      @change="edit(move.key, { kind: ($event.target as HTMLSelectElement).value as SheetMove['kind'] })"
    >
      <option v-for="(name, kind) in KINDS" :key="kind" :value="kind">{{ name }}</option>
    </select>
    <input
      class="inline-edit"
      :value="move.title"
      placeholder="what to do"
      :aria-label="`Follow-up ${index + 1}`"
      @input="edit(move.key, { title: ($event.target as HTMLInputElement).value })"
    />
    <button type="button" class="word" @click="edit(move.key, { isOut: !move.isOut })">
      {{ move.isOut ? 'keep' : 'drop' }}
    </button>
    <button type="button" class="word" @click="setHour(move, move.key)">
      {{ move.allDay ? 'at a time' : 'all day' }}
    </button>
    <input
      class="inline-edit num"
      :type="move.allDay ? 'date' : 'datetime-local'"
      :value="toField(move.dueAt, move.allDay)"
      :aria-label="`When to do follow-up ${index + 1}`"
      @change="retime(move.key, ($event.target as HTMLInputElement).value, move.allDay)"
    />
    <span class="cap num said">{{
      move.assumedDate ? 'no day was said' : move.endAt ? `until ${clock(move.endAt)}` : ''
    }}</span>
    <span class="visually-hidden">{{ due(move) }}</span>
  </div>
  <button type="button" class="word" @click="add">Add a follow-up</button>
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
