<script setup lang="ts">
import type { SheetMove } from '@emporikon/core/ledger/callSheet';
import { clock, due } from '../shell/format';

defineProps<{ moves: SheetMove[] }>();
const KINDS = { call: 'Call', mail: 'Mail', meeting: 'Meeting', task: 'Task' } as const;
</script>

<template>
  <div
    v-for="(move, index) in moves"
    :key="index"
    class="move"
    data-part="move"
    :title="`From “${move.from}”`"
  >
    <span class="cap">{{ KINDS[move.kind] }}</span>
    <input v-model="move.title" class="inline-edit" :aria-label="`Follow-up ${index + 1}`" />
    <span class="num"
      >{{ due(move) }}<template v-if="move.endAt"> – {{ clock(move.endAt) }}</template
      ><span v-if="move.assumedDate" class="soft"> (next working day)</span></span
    >
  </div>
</template>

<style scoped>
.move {
  display: grid;
  grid-template-columns: 56px 1fr auto;
  gap: 8px;
  align-items: center;
  padding-top: 6px;
}
</style>
