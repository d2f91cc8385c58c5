<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import { computed, ref } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { counted, when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** Who wrote to the rep's own mailbox and is in nobody's records; mail of people in the records is filed by itself. */
type Stranger = Reply<'GET /api/strangers'>['items'][number];
const undo = useUndo();
const isOpen = ref(false);
const busy = ref('');
const { data, load } = useFetched(
  () => api('GET /api/strangers'),
  ['mailboxes', 'contact_points', 'mailbox_messages'],
);
const items = computed(() => data.value?.items ?? []);

async function decide({ mailboxId, address, name }: Stranger, never: boolean): Promise<void> {
  busy.value = address;
  try {
    const { eventId } = await api('POST /api/mailboxes/:id/correspondents', {
      params: { id: mailboxId },
      body: { address, name, never },
    });
    undo.tell({
      text: never
        ? `${address} will not be suggested again.`
        : `Added ${name || address}. Past messages follow.`,
      eventId,
    });
  } catch (problem) {
    undo.fail(problem);
  }
  busy.value = '';
  await load();
}
</script>

<template>
  <v-btn v-if="items.length" class="word" :aria-expanded="isOpen" @click="isOpen = !isOpen">{{
    counted(items.length, 'stranger')
  }}</v-btn>
  <SidePanel v-if="isOpen" label="Strangers in your mailbox" @close="isOpen = false">
    <p class="soft">
      They wrote to your mailbox in the last 30 days and are in nobody’s records. Only you see them.
    </p>
    <ul>
      <li v-for="one in items" :key="`${one.mailboxId} ${one.address}`">
        <span class="who"
          ><b>{{ one.name || one.address }}</b> <span class="soft">{{ one.address }}</span><br /><span
            class="soft"
            >{{ counted(one.received, 'message') }}, last {{ when(one.last) }}</span
          ></span
        >
        <v-btn class="word on" :disabled="busy === one.address" @click="decide(one, false)">Add</v-btn>
        <v-btn class="word" :disabled="busy === one.address" @click="decide(one, true)">Never</v-btn>
      </li>
    </ul>
    <p v-if="!items.length" class="empty">No strangers have written to you lately.</p>
  </SidePanel>
</template>

<style scoped>
p {
  margin: 0;
  padding: 12px 24px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 24px;
}
li {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 8px 0;
  border-top: 1px solid var(--rule2);
}
.who {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
