<script setup lang="ts">
import { api } from '../shell/api';
import { ago } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** For managers: who came upon a record that they cannot see. */
const session = useSession();
const undo = useUndo();
const { data, load } = useFetched(
  async () => (session.me?.role === 'rep' ? { items: [] } : api('GET /api/hidden-matches')),
  ['hidden_matches', 'people', 'companies'],
);
async function settle(id: string): Promise<void> {
  try {
    const { eventId } = await api('POST /api/hidden-matches/:id/settle', { params: { id } });
    undo.tell({ text: 'Taken off the list.', eventId });
  } catch (error) {
    undo.fail(error);
  }
  await load();
}
</script>

<template>
  <section v-if="data?.items.length" class="hidden" aria-label="Records that colleagues cannot see">
    <p v-for="one in data.items" :key="one.id">
      {{ one.by.name }} tried to add
      <RouterLink class="quiet-link" :to="`/${one.record.kind}/${one.record.id}`">{{
        one.record.name
      }}</RouterLink>, which they cannot see, {{ ago(one.at) }} ago.
      <v-btn class="word" @click="settle(one.id)">Dismiss</v-btn>
    </p>
  </section>
</template>

<style scoped>
.hidden {
  border: 1px solid var(--wait-line);
  border-radius: 3px;
  padding: 8px 14px;
  margin-bottom: 10px;
}
.hidden p {
  margin: 2px 0;
}
</style>
