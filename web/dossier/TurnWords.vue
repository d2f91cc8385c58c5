<script setup lang="ts">
import type { Turn } from '@emporikon/contract/ledger';
import { computed, ref } from 'vue';
import { day } from '../shell/format';

/** Whose turn it is, and why; pointed at, the rule by which that is so. */
const props = defineProps<{ turn: Turn }>();
const words = computed(() => {
  const { turn, since } = props.turn;
  const because = props.turn.because.replace(/[.,;]+$/, '');
  const on = since ? `, ${day(since)}` : '';
  if (turn === 'ours') return `Our turn: ${because}${on}`;
  return turn === 'theirs' ? `Their turn: ${because}${on}` : `Nobody’s turn: ${because}${on}`;
});
/** The rule is there while somebody points at the words or has gone to them by keyboard. */
const isNear = ref(false);
const RULES: Record<Turn['turn'], string> = {
  ours: 'Something they asked, or something we promised, is still open. An answer, a call or “Not our turn” closes it; a voicemail or a note does not.',
  theirs:
    'We asked something, sent a quote, or they promised something. Their answer closes it, or a call in which you speak.',
  nobody: 'Nothing is left to answer on either side.',
};
</script>

<template>
  <span
    class="turn"
    :class="turn.turn"
    tabindex="0"
    @pointerenter="isNear = true"
    @pointerleave="isNear = false"
    @focus="isNear = true"
    @blur="isNear = false"
    >{{ words
    }}<v-tooltip
      v-if="isNear"
      model-value
      activator="parent"
      location="bottom"
      max-width="340"
      :open-on-hover="false"
      :text="RULES[turn.turn]"
  /></span>
</template>
