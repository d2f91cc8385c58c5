<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import { ref, shallowRef } from 'vue';
import { api, wordsOf } from '../shell/api';
import { clock, day } from '../shell/format';

/** Times at which all are free, by plain words, of which one is taken. */
const props = defineProps<{ colleagueIds: readonly string[]; except?: string }>();
const emit = defineEmits<{ take: [time: { start: string; end: string }] }>();
const wish = ref('');
const found = shallowRef<Reply<'GET /api/calendar/free-times'> | null>(null);
const error = ref('');
const isLooking = ref(false);

async function look(): Promise<void> {
  isLooking.value = true;
  error.value = '';
  try {
    found.value = await api('GET /api/calendar/free-times', {
      query: {
        wish: wish.value,
        ...(props.colleagueIds.length ? { with: props.colleagueIds.join(',') } : {}),
        ...(props.except ? { except: props.except } : {}),
      },
    });
  } catch (problem) {
    found.value = null;
    error.value = wordsOf(problem);
  } finally {
    isLooking.value = false;
  }
}
</script>

<template>
  <div class="free">
    <div class="ask">
      <v-text-field
        v-model="wish"
        label="Find a free time"
        placeholder="next week, 45 min"
        :error-messages="error"
        maxlength="200"
        @keydown.enter.prevent="look"
      />
      <v-btn class="line" :loading="isLooking" @click="look">Find</v-btn>
    </div>
    <p v-if="found && !found.items.length" class="soft" role="status">
      Nobody is free at once for {{ found.minutes }} minutes then. Try another day or a shorter time.
    </p>
    <ul v-else-if="found" aria-label="Free times">
      <li v-for="time in found.items" :key="time.start">
        <v-btn class="word" @click="emit('take', time)"
          >{{ day(time.start) }}, {{ clock(time.start) }}–{{ clock(time.end) }}</v-btn
        >
      </li>
    </ul>
  </div>
</template>

<style scoped>
.ask {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: end;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: 0 12px;
}
</style>
