<script setup lang="ts">
import { ref } from 'vue';
import { api } from '../shell/api';
import { calendarDay } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSave } from './useSave';

/** What one unit of the house currency bought, from which day on. */
defineProps<{ mayEdit: boolean }>();
const { data, load } = useFetched(() => api('GET /api/rates'), ['currency_rates']);
const save = useSave(load);
const today = new Date().toISOString().slice(0, 10);
const draft = ref({ currency: '', day: today, perHouse: '' });

async function set(): Promise<void> {
  const body = {
    ...draft.value,
    currency: draft.value.currency.toUpperCase(),
    perHouse: draft.value.perHouse.replace(',', '.'),
  };
  if ((await save(`Rate of ${body.currency} set.`, () => api('PUT /api/rates', { body }))) === true)
    draft.value = { currency: '', day: today, perHouse: '' };
}
</script>

<template>
  <section>
    <h2>Rates</h2>
    <p class="soft">
      For one {{ data?.house }}, from that day on. Sums in other currencies are added up at the rate of the
      day.
    </p>
    <table v-if="data?.items.length" class="book">
      <tbody>
        <tr v-for="one in data.items" :key="one.id">
          <td>{{ one.currency }}</td>
          <td class="num">{{ one.perHouse }}</td>
          <td>from {{ calendarDay(one.day) }} {{ one.day.slice(0, 4) }}</td>
          <td>
            <button
              v-if="mayEdit"
              class="word"
              :aria-label="`Remove the rate of ${one.currency} from ${one.day}`"
              @click="save('Rate removed.', () => api('DELETE /api/rates/:id', { params: { id: one.id } }))"
            >
              remove
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <form v-if="mayEdit" @submit.prevent="set">
      <input
        v-model="draft.currency"
        class="inline-edit few"
        required
        pattern="[A-Za-z]{3}"
        maxlength="3"
        placeholder="GBP"
        aria-label="Currency"
      />
      <input
        v-model="draft.perHouse"
        class="inline-edit few"
        required
        inputmode="decimal"
        placeholder="0.86"
        aria-label="How much of it"
      />
      <input v-model="draft.day" class="inline-edit day" required type="date" aria-label="From" />
      <button class="word" type="submit">Set the rate</button>
    </form>
  </section>
</template>

<style scoped>
form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  padding-top: 8px;
}
.few {
  width: 80px;
}
.day {
  width: 140px;
}
p {
  margin: 4px 0 8px;
}
</style>
