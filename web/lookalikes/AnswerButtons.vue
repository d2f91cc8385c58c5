<script setup lang="ts">
import type { ToldApart } from '@emporikon/contract/lookAlikes';

defineProps<{
  kind: 'person' | 'company';
  isBusy: boolean;
  /** Whether they were found alike, and are not compared because somebody chose them. */
  isFound: boolean;
  survivorName: string;
}>();
defineEmits<{ same: []; apart: [as: ToldApart['how']]; related: []; skip: [] }>();
</script>

<template>
  <div class="answers">
    <v-btn class="fill" :disabled="isBusy" @click="$emit('same')">Same: merge <kbd>S</kbd></v-btn>
    <v-btn class="quiet" :disabled="isBusy" @click="$emit('apart', 'different')"
      >Different <kbd>D</kbd></v-btn
    >
    <v-btn class="quiet" :disabled="isBusy" @click="$emit('apart', 'namesakes')"
      >Namesakes <kbd>N</kbd></v-btn
    >
    <v-btn v-if="kind === 'person'" class="quiet" :disabled="isBusy" @click="$emit('apart', 'fatherAndSon')"
      >Father and son <kbd>F</kbd></v-btn
    >
    <template v-if="isFound">
      <v-btn v-if="kind === 'company'" class="quiet" :disabled="isBusy" @click="$emit('related')"
        >Branches of {{ survivorName }}</v-btn
      >
      <v-btn class="quiet" @click="$emit('skip')">Skip <kbd>K</kbd></v-btn>
    </template>
  </div>
</template>

<style scoped>
.answers {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
  padding-bottom: 12px;
}
kbd {
  font: 12px var(--ui);
  opacity: 0.75;
  margin-left: 6px;
}
</style>
