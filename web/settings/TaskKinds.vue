<script setup lang="ts">
import { ref } from 'vue';
import RemovableRows from '../kit/RemovableRows.vue';
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
  <RemovableRows
    v-if="data"
    :heads="['Name', 'Counts as']"
    :rows="data.items.map((kind) => ({ id: kind.id, cells: [kind.name, wordOf(kind.actsAs)] }))"
    remove="Retire"
    :can-remove="session.may('settings.organisation')"
    empty="No kinds of your own yet."
    @remove="retire"
  />
  <form v-if="data && session.may('settings.organisation')" class="make" @submit.prevent="add">
    <v-text-field v-model="name" label="Name" required maxlength="60" placeholder="Test ride" />
    <v-select v-model="actsAs" label="Counts as" :items="TASK_KINDS" />
    <v-btn class="fill" type="submit" :disabled="!name.trim()">Add a kind</v-btn>
  </form>
</template>

<style scoped>
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 640px;
  padding-top: 14px;
}
</style>
