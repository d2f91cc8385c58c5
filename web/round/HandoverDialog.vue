<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import DateField from '../kit/DateField.vue';
import { api, wordsOf } from '../shell/api';
import { counted } from '../shell/format';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';

/** Hands over the open tasks and leads of somebody who is away, after showing which. */
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const undo = useUndo();
const team = useTeam();
const fromId = ref(session.me?.id ?? '');
const toId = ref<string | null>(null);
const backOn = ref('');
const withTasks = ref(true);
const withLeads = ref(true);
const error = ref('');
const isBusy = ref(false);
const preview = ref<Awaited<ReturnType<typeof load>> | null>(null);

const load = (from: string) => api('GET /api/handovers/preview', { query: { from } });
watch(
  fromId,
  async (from) => {
    preview.value = null;
    try {
      preview.value = await load(from);
      error.value = '';
    } catch (problem) {
      error.value = wordsOf(problem);
    }
  },
  { immediate: true },
);
const names = computed(() => team.value.map(({ id, name }) => ({ value: id, title: name })));
const others = computed(() => names.value.filter(({ value }) => value !== fromId.value));
const shown = computed(() =>
  (preview.value?.first ?? []).filter(({ kind }) => (kind === 'task' ? withTasks.value : withLeads.value)),
);
const count = computed(
  () =>
    (withTasks.value ? (preview.value?.tasks ?? 0) : 0) + (withLeads.value ? (preview.value?.leads ?? 0) : 0),
);

async function handOver(): Promise<void> {
  if (!toId.value) return;
  isBusy.value = true;
  try {
    const { eventId, handover } = await api('POST /api/handovers', {
      body: {
        fromId: fromId.value,
        toId: toId.value,
        backOn: backOn.value || null,
        tasks: withTasks.value,
        leads: withLeads.value,
      },
    });
    undo.tell({
      text: `Handed over ${counted(handover.tasks, 'task')} and ${counted(handover.leads, 'lead')} to ${handover.to.name}.`,
      eventId,
    });
    emit('close');
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog :model-value="true" aria-label="Hand over work" @update:model-value="emit('close')">
    <form class="sheet" @submit.prevent="handOver">
      <h2>Hand over work</h2>
      <p class="soft">Open tasks and leads go to a colleague, and come back on the day you name.</p>
      <v-select v-if="session.me?.role !== 'rep'" v-model="fromId" label="Whose work" :items="names" />
      <v-select v-model="toId" label="Who takes it over" :items="others" />
      <DateField
        v-model="backOn"
        label="Comes back on"
        hint="Leave empty to give it back by hand."
        persistent-hint
      />
      <div class="what">
        <v-checkbox v-model="withTasks" :label="counted(preview?.tasks ?? 0, 'open task')" />
        <v-checkbox v-model="withLeads" :label="counted(preview?.leads ?? 0, 'open lead')" />
      </div>
      <ul v-if="shown.length" aria-label="What is handed over" tabindex="0">
        <li v-for="item in shown" :key="item.id">
          {{ item.name }} <span class="soft">{{ item.kind }}</span>
        </li>
        <li v-if="count > shown.length" class="soft">and {{ count - shown.length }} more</li>
      </ul>
      <p v-if="preview && !count" class="empty">There is nothing open to hand over.</p>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div class="do">
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="!toId || !count">Hand over</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 12px;
  padding: 20px 24px;
  background: var(--sheet);
}
h2,
p {
  margin: 0;
}
.what {
  display: flex;
  gap: 20px;
}
ul {
  max-height: 180px;
  overflow-y: auto;
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
li {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule2);
}
.do {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
}
</style>
