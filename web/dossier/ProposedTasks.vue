<script setup lang="ts">
import type { EntryDetail } from '@emporikon/contract/ledger';
import { api } from '../shell/api';
import { usePageKeys } from '../shell/browser';
import { due } from '../shell/format';
import { useTaskAction } from '../tasks/useTaskAction';

/** The tasks that a message asks for, each with its sentence; one key takes the first. */
const props = defineProps<{ entry: EntryDetail }>();
const emit = defineEmits<{ taken: [] }>();
const run = useTaskAction();

async function take(move: EntryDetail['proposed'][number]): Promise<void> {
  const { people, companies, deals, leads, id } = props.entry;
  const isTaken = await run(`Added: ${move.title}, ${due(move)}.`, () =>
    api('POST /api/tasks', {
      body: {
        ...move,
        entryId: id,
        personId: people[0]?.id ?? null,
        companyId: companies[0]?.id ?? null,
        dealId: deals[0]?.id ?? null,
        leadId: leads[0]?.id ?? null,
      },
    }),
  );
  if (isTaken) emit('taken');
}
usePageKeys((event) => {
  const [first] = props.entry.proposed;
  if (event.key !== 't' || event.ctrlKey || event.metaKey || !first) return;
  event.preventDefault();
  void take(first);
});
</script>

<template>
  <template v-if="entry.proposed.length">
    <h3>Proposed tasks</h3>
    <ul>
      <li v-for="move in entry.proposed" :key="move.asked" data-proposed>
        <div>
          <b>{{ move.title }}</b>, {{ due(move) }}
          <div class="asked">“{{ move.asked }}”</div>
        </div>
        <v-btn class="word" :aria-label="`Add the task ${move.title}`" title="Key: t" @click="take(move)"
          >Add</v-btn
        >
      </li>
    </ul>
  </template>
</template>

<style scoped>
h3 {
  margin: 18px 0 2px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-top: 1px solid var(--rule);
}
.asked {
  color: var(--soft);
  overflow-wrap: anywhere;
}
</style>
