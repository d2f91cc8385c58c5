<script setup lang="ts">
import { ref, watch } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

const undo = useUndo();
const { data: line, load } = useFetched(() => api('GET /api/line'), ['phone_lines']);
const number = ref('');
watch(line, (now) => (number.value = now?.number ?? ''));
const WORDS = {
  connected: 'The phone system is connected.',
  none: 'No phone system is connected.',
  down: 'The phone system does not answer.',
} as const;

async function save(): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/line', {
      body: { number: number.value.replace(/[\s()-]/g, '') },
    });
    undo.tell({ text: 'Phone line saved.', eventId });
    await load();
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <PageHead
    title="Phone line"
    help="When this number rings, the caller is shown to you with what you know about them."
  >
    <span v-if="line" class="soft">{{ WORDS[line.exchange] }}</span>
  </PageHead>
  <form class="row" @submit.prevent="save">
    <v-text-field v-model="number" label="Your number" type="tel" placeholder="+44 20 7946 0100" required />
    <v-btn class="fill" type="submit">Save</v-btn>
  </form>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: end;
  max-width: 420px;
}
</style>
