<script setup lang="ts">
import type { FollowUp, Letter } from '@emporikon/contract/letters';
import { computed, ref, watch } from 'vue';
import { api, wordsOf } from '../shell/api';
import { due } from '../shell/format';

/** What comes next after a letter, in plain words, and whether it still does once they have answered. */
const props = defineProps<{ letter: Letter; disabled: boolean }>();
const emit = defineEmits<{ put: [followUp: FollowUp | null] }>();
const words = ref('');
const error = ref('');
const followUp = computed(() => props.letter.followUp);
const PAUSE_MS = 250;
let timer: ReturnType<typeof setTimeout> | undefined;
const UNLESS = /[,;]?\s*\bunless\b.*$/i;

watch(words, (line) => {
  clearTimeout(timer);
  error.value = '';
  if (!line.trim()) return;
  timer = setTimeout(() => void read(line), PAUSE_MS);
});

async function read(line: string): Promise<void> {
  const { person, companyId, dealId } = props.letter.about;
  const about = {
    ...(person ? { personId: person.id } : {}),
    ...(companyId ? { companyId } : {}),
    ...(dealId ? { dealId } : {}),
  };
  try {
    const { nextMove } = await api('POST /api/composer', { body: { line: line.replace(UNLESS, ''), about } });
    if (words.value !== line) return;
    if (!nextMove) return void (error.value = 'Say what to do and when, such as: call in 3 working days');
    const { title, kind, dueAt, allDay } = nextMove;
    emit('put', { title, kind, dueAt, allDay, unlessAnswered: followUp.value?.unlessAnswered ?? true });
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
function remove(): void {
  words.value = '';
  emit('put', null);
}
</script>

<template>
  <div class="follow">
    <v-text-field
      v-model="words"
      label="Follow up"
      placeholder="call in 3 working days"
      maxlength="300"
      autocomplete="off"
      :disabled="disabled"
      :error-messages="error"
    />
    <p v-if="followUp" class="made">
      <b>{{ followUp.title }}</b>, {{ due(followUp) }}
      <v-btn v-if="!disabled" class="word" @click="remove">Remove</v-btn>
    </p>
    <v-checkbox
      v-if="followUp"
      :model-value="followUp.unlessAnswered"
      label="Drop it if they answer first"
      :disabled="disabled"
      @update:model-value="emit('put', { ...followUp, unlessAnswered: $event === true })"
    />
  </div>
</template>

<style scoped>
.made {
  margin: 4px 0 0;
  font-size: 13px;
}
</style>
