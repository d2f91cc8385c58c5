<script setup lang="ts">
import { ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { TASK_KINDS } from '../tasks/kinds';
import { useTaskAction } from '../tasks/useTaskAction';

/** Kinds of tasks of the organisation's own. */
const session = useSession();
const run = useTaskAction();
const { data, error } = useFetched(() => api('GET /api/task-kinds'), ['task_kinds']);
const name = ref('');
const actsAs = ref<(typeof TASK_KINDS)[number]['value']>('task');
const wordOf = (kind: string): string => TASK_KINDS.find(({ value }) => value === kind)?.title ?? kind;

async function add(): Promise<void> {
  const body = { name: name.value.trim(), actsAs: actsAs.value };
  if (await run(`Added ${body.name}.`, () => api('POST /api/task-kinds', { body }))) name.value = '';
}
const retire = (id: string, shown: string): Promise<boolean> =>
  run(`${shown} is no longer offered.`, () => api('DELETE /api/task-kinds/:id', { params: { id } }));
</script>

<template>
  <PageHead
    title="Kinds of tasks"
    help="Beside calls, mails, meetings, visits and things to do. Each stands in the history as what it counts as."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <p v-if="data && !data.items.length" class="empty">No kinds of your own yet.</p>
  <v-table v-if="data?.items.length" class="book narrow">
    <thead>
      <tr>
        <th>Name</th>
        <th>Counts as</th>
        <th><span class="visually-hidden">Retire</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="kind in data.items" :key="kind.id">
        <td>{{ kind.name }}</td>
        <td>{{ wordOf(kind.actsAs) }}</td>
        <td>
          <v-btn
            v-if="session.me?.role !== 'rep'"
            class="word"
            :aria-label="`Retire ${kind.name}`"
            @click="retire(kind.id, kind.name)"
            >Retire</v-btn
          >
        </td>
      </tr>
    </tbody>
  </v-table>
  <form v-if="data && session.me?.role !== 'rep'" class="make" @submit.prevent="add">
    <v-text-field v-model="name" label="Name" required maxlength="60" placeholder="Test ride" />
    <v-select v-model="actsAs" label="Counts as" :items="TASK_KINDS" />
    <v-btn class="fill" type="submit" :disabled="!name.trim()">Add a kind</v-btn>
  </form>
</template>

<style scoped>
.narrow {
  max-width: 640px;
}
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 640px;
  padding-top: 14px;
}
</style>
