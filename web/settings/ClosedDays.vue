<script setup lang="ts">
import { ref } from 'vue';
import DateField from '../kit/DateField.vue';
import RemovableRows from '../kit/RemovableRows.vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { fullDay } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useTaskAction } from '../tasks/useTaskAction';

/** Days on which the whole organisation is closed. */
const session = useSession();
const run = useTaskAction();
const { data, error } = useFetched(() => api('GET /api/closed-days'), ['closed_days']);
const day = ref('');
const name = ref('');

async function add(): Promise<void> {
  const body = { day: day.value, name: name.value.trim() };
  if (await run(`Closed on ${fullDay(day.value)}.`, () => api('POST /api/closed-days', { body }))) {
    day.value = '';
    name.value = '';
  }
}
const remove = (id: string, shown: string): Promise<boolean> =>
  run(`Open on ${shown} again.`, () => api('DELETE /api/closed-days/:id', { params: { id } }));
</script>

<template>
  <PageHead
    title="Closed days"
    help="Days on which nobody works, beside weekends and the public holidays of each colleague’s country. Working days skip them, and no task is proposed for one."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <RemovableRows
    v-if="data"
    :heads="['Day', 'Name']"
    :rows="data.items.map(({ id, day: on, name: called }) => ({ id, cells: [fullDay(on), called] }))"
    :can-remove="session.may('settings.organisation')"
    empty="No closed days yet."
    @remove="remove"
  />
  <form v-if="data && session.may('settings.organisation')" class="make" @submit.prevent="add">
    <DateField v-model="day" label="Day" required />
    <v-text-field v-model="name" label="Name" required maxlength="80" placeholder="Stocktaking" />
    <v-btn class="fill" type="submit" :disabled="!day || !name.trim()">Add a closed day</v-btn>
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
