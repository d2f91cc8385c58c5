<script setup lang="ts">
import type { Intent } from '@emporikon/contract/intents';
import { computed } from 'vue';
import { due, money, percent } from '../shell/format';

const props = defineProps<{ intent: Intent; isLit: boolean; isOpen: boolean }>();
const emit = defineEmits<{ point: [on: boolean]; fate: [] }>();
const NAMES = {
  ask: 'They ask',
  date: 'When',
  money: 'Money',
  quantity: 'Quantity',
  interest: 'In favour',
  objection: 'Concern',
} as const;
const name = computed(() =>
  props.intent.kind === 'promise'
    ? props.intent.value.by === 'ours'
      ? 'We promised'
      : 'They promise'
    : NAMES[props.intent.kind],
);

const words = computed(() => {
  const { intent } = props;
  if (intent.kind === 'ask') return intent.value.what;
  if (intent.kind === 'date')
    return `${due({ dueAt: intent.value.at, allDay: intent.value.allDay })} (“${intent.text}”)`;
  if (intent.kind === 'money')
    return `${intent.value.approximate ? 'about ' : ''}${money(intent.value.minor, intent.value.currency)}`;
  if (intent.kind === 'quantity') return `${intent.value.count} ${intent.value.of}`;
  return intent.value.what;
});
</script>

<template>
  <div
    class="row"
    :class="{ on: isLit }"
    :data-intent="intent.kind"
    @mouseenter="emit('point', true)"
    @mouseleave="emit('point', false)"
    @focusin="emit('point', true)"
    @focusout="emit('point', false)"
  >
    <span class="cap">{{ name }}</span>
    <span :class="['words', { gone: intent.fate === 'rejected' }]" :title="intent.text">{{ words }}</span>
    <span class="end">
      <span class="odds num">{{ percent(intent.confidence) }}</span>
      <v-btn
        v-if="isOpen"
        class="word"
        :aria-label="`${intent.fate === 'rejected' ? 'Restore' : 'Reject'}: ${words}`"
        @click="emit('fate')"
      >
        {{ intent.fate === 'rejected' ? 'Restore' : 'Reject' }}
      </v-btn>
    </span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 0 6px;
  padding: 1px 0;
  line-height: 1.35;
  border-top: 1px solid var(--rule2);
  align-items: baseline;
}
.row.on {
  background: var(--lit);
}
.row.on .odds,
.row.on .cap,
.row.on .word {
  color: var(--ink);
}
.words {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
}
.gone {
  text-decoration: line-through;
  color: var(--soft);
}
.odds {
  font-size: 12px;
  color: var(--soft);
}
.end {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
</style>
