<script setup lang="ts">
import type { About } from '@emporikon/contract/ledger';
import { computed } from 'vue';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useFetched } from '../shell/live';

/** My letters to somebody that have not gone out: drafts, and those that wait for their time. */
const props = defineProps<{ about: About }>();
const read = (state: 'draft' | 'waiting' | 'failed') =>
  api('GET /api/letters', { query: { ...props.about, state, limit: 5 } }).then(({ items }) => items);
const { data } = useFetched(
  async () => (await Promise.all([read('waiting'), read('failed'), read('draft')])).flat(),
  ['letters'],
);
const open = computed(() => data.value ?? []);
</script>

<template>
  <div v-if="open.length" class="letters">
    <span class="cap">Letters not sent yet</span>
    <div v-for="one in open" :key="one.id">
      <RouterLink :to="`/letters/${one.id}`" class="quiet-link">{{ one.subject || 'No subject' }}</RouterLink>
      <span :class="one.state === 'failed' ? 'wrong' : 'soft'">
        {{
          one.state === 'waiting'
            ? `goes out ${day(one.leavesAt ?? '')} ${clock(one.leavesAt ?? '')}`
            : one.state === 'failed'
              ? 'did not go out'
              : 'draft'
        }}</span
      >
    </div>
  </div>
</template>

<style scoped>
.cap {
  display: block;
}
</style>
