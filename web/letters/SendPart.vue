<script setup lang="ts">
import type { Letter } from '@emporikon/contract/letters';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useFetched } from '../shell/live';
import DateField from '../kit/DateField.vue';
import TimeField from '../kit/TimeField.vue';

/** What has to be right before a letter goes out, and when it does. */
const props = defineProps<{ letter: Letter; isBusy: boolean }>();
const emit = defineEmits<{ send: [at: string | undefined, anyway: boolean]; takeBack: []; discard: [] }>();
const isChoosing = ref(false);
const isAnyway = ref(false);
const ownDay = ref('');
const ownTime = ref('09:00');
const { data: times, load } = useFetched(
  () => api('GET /api/letters/:id/times', { params: { id: props.letter.id } }),
  [],
);
const NAMES = {
  'next hour': 'In working hours',
  morning: 'Next working morning',
  monday: 'Monday morning',
} as const;
const isDraft = computed(() => props.letter.state === 'draft' || props.letter.state === 'failed');
const theirs = (at: string): string => (times.value?.isTheirs ? ` (${at.slice(11, 16)} their time)` : '');
const missing = computed(() => [
  ...(props.letter.recipients.length ? [] : ['whom it is to']),
  ...(props.letter.subject.trim() ? [] : ['a subject']),
  ...props.letter.gaps,
]);
const needsAnyway = computed(() => props.letter.warnings.length > 0 && !isAnyway.value);
const canSend = computed(() => isDraft.value && !missing.value.length && !needsAnyway.value && !props.isBusy);

function choose(): void {
  isChoosing.value = !isChoosing.value;
  if (isChoosing.value) void load();
}
function sendAt(at: string): void {
  isChoosing.value = false;
  emit('send', at, isAnyway.value);
}
function sendOwn(): void {
  const at = new Date(`${ownDay.value}T${ownTime.value || '09:00'}`);
  if (!Number.isNaN(at.getTime())) sendAt(at.toISOString());
}
const send = (): void => {
  if (canSend.value) emit('send', undefined, isAnyway.value);
};
defineExpose({ send });
</script>

<template>
  <div class="before">
    <template v-if="isDraft">
      <h2>Before sending</h2>
      <p v-if="letter.trouble" class="wrong" role="alert">{{ letter.trouble }}</p>
      <p v-if="missing.length" class="wait">Still missing: {{ missing.join(', ') }}</p>
      <template v-if="letter.warnings.length">
        <p v-for="warning in letter.warnings" :key="warning" class="wait">{{ warning }}</p>
        <v-checkbox v-model="isAnyway" label="Send it all the same" />
      </template>
      <p v-if="!missing.length && !letter.warnings.length" class="soft">
        Everything is filled in. Once sent, you have ten seconds to take it back.
      </p>
      <div class="do">
        <v-btn class="fill" :disabled="!canSend" :loading="isBusy" @click="send"
          >Send <span class="hint">Ctrl Enter</span></v-btn
        >
        <v-btn class="quiet" :disabled="!canSend" :aria-expanded="isChoosing" @click="choose"
          >Send later</v-btn
        >
      </div>
      <div v-if="isChoosing && times" class="times" role="group" aria-label="When to send it">
        <v-btn v-for="one in times.items" :key="one.name" class="word" @click="sendAt(one.at)"
          >{{ NAMES[one.name] }}, {{ day(one.at) }} {{ clock(one.at) }}{{ theirs(one.at) }}</v-btn
        >
        <form class="own" @submit.prevent="sendOwn">
          <DateField v-model="ownDay" label="On" />
          <TimeField v-model="ownTime" label="At" />
          <v-btn class="quiet" type="submit" :disabled="!ownDay">Set the time</v-btn>
        </form>
      </div>
      <v-btn class="word" @click="emit('discard')">Discard this letter</v-btn>
    </template>
    <template v-else-if="letter.state === 'waiting'">
      <h2>On its way</h2>
      <p>
        Goes out <b>{{ day(letter.leavesAt ?? '') }} {{ clock(letter.leavesAt ?? '') }}</b
        >. Until then you can take it back.
      </p>
      <div class="do">
        <v-btn class="fill" :loading="isBusy" @click="emit('takeBack')">Take it back</v-btn>
      </div>
    </template>
  </div>
</template>

<style scoped>
.before {
  display: grid;
  gap: 8px;
  justify-items: start;
}
h2,
p {
  margin: 0;
}
.wait {
  color: var(--wait);
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.hint {
  margin-left: 8px;
  font-size: 12px;
  font-weight: 500;
}
.times {
  display: grid;
  gap: 2px;
  justify-items: start;
}
.own {
  display: grid;
  grid-template-columns: 1fr 100px;
  gap: 8px;
  align-items: end;
  margin: 6px 0;
}
</style>
