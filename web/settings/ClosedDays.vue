<script setup lang="ts">
import { ref } from 'vue';
import DateField from '../kit/DateField.vue';
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
  <p v-if="data && !data.items.length" class="empty">No closed days yet.</p>
  <v-table v-if="data?.items.length" class="book narrow">
    <thead>
      <tr>
        <th>Day</th>
        <th>Name</th>
        <th><span class="visually-hidden">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in data.items" :key="one.id">
        <td>{{ fullDay(one.day) }}</td>
        <td>{{ one.name }}</td>
        <td>
          <v-btn
            v-if="session.me?.role !== 'rep'"
            class="word"
            :aria-label="`Remove ${one.name}`"
            @click="remove(one.id, fullDay(one.day))"
            >Remove</v-btn
          >
        </td>
      </tr>
    </tbody>
  </v-table>
  <form v-if="data && session.me?.role !== 'rep'" class="make" @submit.prevent="add">
    <DateField v-model="day" label="Day" required />
    <v-text-field v-model="name" label="Name" required maxlength="80" placeholder="Stocktaking" />
    <v-btn class="fill" type="submit" :disabled="!day || !name.trim()">Add a closed day</v-btn>
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
