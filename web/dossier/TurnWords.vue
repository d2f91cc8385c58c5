<script setup lang="ts">
import type { Turn } from '@emporikon/contract/ledger';
import { computed } from 'vue';
import { day } from '../shell/format';

const props = defineProps<{ turn: Turn }>();
const words = computed(() => {
  const { turn, because, since } = props.turn;
  const on = since ? `, ${day(since)}` : '';
  if (turn === 'ours') return `Our turn: ${because}${on}`;
  return turn === 'theirs' ? `Their turn: ${because}${on}` : `Nobody’s turn: ${because}${on}`;
});
</script>

<template>
  <span class="turn" :class="turn.turn">{{ words }}</span>
</template>
