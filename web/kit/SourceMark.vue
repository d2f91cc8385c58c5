<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import { computed, defineAsyncComponent, ref } from 'vue';
import { fieldName } from '../shell/format';

const props = defineProps<{ claim: Claim | null; suggestion?: Claim | null }>();
const EvidenceDialog = defineAsyncComponent(() => import('./EvidenceDialog.vue'));
const shown = ref<Claim | null>(null);
const letter = computed<'H' | 'L' | 'E'>(() =>
  props.claim?.byHand ? 'H' : props.claim?.lookUpId ? 'L' : 'E',
);
const WORDS = { H: 'Entered by hand', L: 'Looked up', E: 'Read from' } as const;
const word = computed(() =>
  letter.value === 'E'
    ? `${WORDS.E} ${props.claim?.source ?? ''}`
    : props.claim?.source.toLowerCase() === WORDS[letter.value].toLowerCase()
      ? WORDS[letter.value]
      : `${WORDS[letter.value]}: ${props.claim?.source ?? ''}`,
);
/** The word is there while somebody points at the letter, touches it or has gone to it by keyboard. */
const isNear = ref(false);
</script>

<template>
  <v-btn
    v-if="claim"
    class="mark"
    :aria-label="`Where ${fieldName(claim.field, claim.type)} comes from: ${claim.source}`"
    @click="shown = claim"
    @pointerenter="isNear = true"
    @pointerleave="isNear = false"
    @focus="isNear = true"
    @blur="isNear = false"
  >
    <span>{{ letter }}</span>
    <v-tooltip v-if="isNear" model-value activator="parent" :open-on-hover="false" :text="word" />
  </v-btn>
  <v-btn
    v-if="suggestion"
    class="mark"
    :aria-label="`Another value was read: ${suggestion.value}`"
    :title="`also read: ${suggestion.value}`"
    @click="shown = suggestion"
  >
    <span class="other">?</span>
  </v-btn>
  <EvidenceDialog v-if="shown" :claim="shown" @close="shown = null" />
</template>

<style scoped>
.mark {
  position: relative;
  display: inline-flex;
  align-items: center;
  justify-content: center;
  width: 24px;
  height: 24px;
  margin: -5px 0 -5px 1px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  vertical-align: 1px;
}
span {
  display: inline-flex;
  align-items: center;
  justify-content: center;
  width: 15px;
  height: 15px;
  border-radius: 50%;
  border: 1px solid var(--rule);
  font: 600 9px var(--ui);
  color: var(--soft);
}
.mark::after {
  content: '';
  position: absolute;
  inset: 0;
}
@media (pointer: coarse) {
  .mark::after {
    inset: -10px;
  }
}
.mark:hover span {
  border-color: var(--ours);
}
.other {
  border-color: var(--wait-line);
  color: var(--wait);
}
</style>
