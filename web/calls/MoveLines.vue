<script setup lang="ts">
import type { SheetMove } from '@emporikon/core/ledger/callSheet';
import { computed, reactive, watch } from 'vue';
import { clock, due } from '../shell/format';
import { fromField, toField } from './moment';

/** The follow-ups as they were read, each correctable; what a hand changed stays while more is typed. */
const props = defineProps<{ moves: SheetMove[] }>();
const emit = defineEmits<{ change: [moves: SheetMove[]] }>();
const edits = reactive<Record<string, Partial<SheetMove> & { isOut?: boolean }>>({});
const KINDS = { call: 'Call', mail: 'Mail', meeting: 'Meeting', task: 'Task' } as const;

const lines = computed(() =>
  props.moves.map((move) => ({
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
      now.filter((one) => !one.isOut),
    ),
  { immediate: true },
);
const edit = (key: string, patch: Partial<SheetMove> & { isOut?: boolean }): void => {
  edits[key] = { ...edits[key], ...patch };
};
const retime = (key: string, value: string, allDay: boolean): void => {
  const dueAt = fromField(value, allDay);
  if (dueAt) edit(key, { dueAt, endAt: null, assumedDate: false });
};
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
      :aria-label="`Follow-up ${index + 1}`"
      @input="edit(move.key, { title: ($event.target as HTMLInputElement).value })"
    />
    <input
      class="inline-edit num"
      :type="move.allDay ? 'date' : 'datetime-local'"
      :value="toField(move.dueAt, move.allDay)"
      :aria-label="`When to do follow-up ${index + 1}`"
      @change="retime(move.key, ($event.target as HTMLInputElement).value, move.allDay)"
    />
    <button type="button" class="word" @click="edit(move.key, { isOut: !move.isOut })">
      {{ move.isOut ? 'keep' : 'drop' }}
    </button>
    <span class="cap said num"
      >{{ due(move) }}<template v-if="move.endAt"> – {{ clock(move.endAt) }}</template
      >{{ move.assumedDate ? ' (no day was said: the next working day)' : '' }}</span
    >
  </div>
</template>

<style scoped>
.move {
  display: grid;
  grid-template-columns: 92px 1fr 168px auto;
  gap: 2px 8px;
  align-items: center;
  padding-top: 6px;
}
.said {
  grid-column: 2 / 5;
}
.out input,
.out .said {
  text-decoration: line-through;
}
@media (max-width: 700px) {
  .move {
    grid-template-columns: 92px 1fr;
  }
  .said {
    grid-column: 1 / 3;
  }
}
</style>
