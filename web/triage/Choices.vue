<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import { CHOICES, type As } from './choices';

/** What somebody of a pile is to us: each choice a button with its key. */
defineProps<{
  plans: readonly Reply<'GET /api/plans'>['items'][number][];
  hasCard: boolean;
  hasDecided: boolean;
}>();
const emit = defineEmits<{
  decide: [as: As, planId: string | undefined, words: string | undefined];
  skip: [];
  back: [];
}>();
</script>

<template>
  <div class="choices" role="group" aria-label="What they are to you">
    <span class="cap">Prospect</span>
    <div>
      <v-btn
        v-for="(plan, at) in plans"
        :key="plan.id"
        :class="at ? 'line' : 'fill'"
        :disabled="!hasCard"
        @click="emit('decide', 'prospect', plan.id, `prospect, ${plan.name.toLowerCase()}`)"
        >{{ plan.name }} <span class="hint">{{ at + 1 }}</span></v-btn
      >
      <v-btn class="quiet" :disabled="!hasCard" @click="emit('decide', 'prospect', undefined, undefined)"
        >No plan <span class="hint">p</span></v-btn
      >
    </div>
    <span class="cap">Somebody else</span>
    <div>
      <v-btn
        v-for="one in CHOICES"
        :key="one.key"
        class="quiet"
        :disabled="!hasCard"
        @click="emit('decide', one.as, undefined, one.words.toLowerCase())"
        >{{ one.words }} <span class="hint">{{ one.key }}</span></v-btn
      >
    </div>
    <span class="cap">Not now</span>
    <div>
      <v-btn class="word" :disabled="!hasCard" @click="emit('skip')">Later <span class="key">k</span></v-btn>
      <v-btn class="word" :disabled="!hasDecided" @click="emit('back')">
        Bring back <span class="key">u</span>
      </v-btn>
    </div>
  </div>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 8px 16px;
  align-items: center;
  padding: 14px 0;
}
.choices > div {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
}
.hint {
  font-size: 11px;
  margin-left: 8px;
  border: 1px solid currentColor;
  border-radius: 3px;
  padding: 0 5px;
}
@media (max-width: 700px) {
  .choices {
    grid-template-columns: 1fr;
  }
}
</style>
