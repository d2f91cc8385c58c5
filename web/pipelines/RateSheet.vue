<script setup lang="ts">
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import DateField from '../kit/DateField.vue';
import { ref } from 'vue';
import { api } from '../shell/api';
import { fullDay, plainNumber, todayOf } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSave } from './useSave';

/** What one unit of the house currency bought, from which day on. */

const session = useSession();
const { data, load } = useFetched(() => api('GET /api/rates'), ['currency_rates']);
const save = useSave(load);
const today = todayOf();
const draft = ref({ currency: '', day: today, perHouse: '' });

async function set(): Promise<void> {
  const body = {
    ...draft.value,
    currency: draft.value.currency.toUpperCase(),
    perHouse: draft.value.perHouse.replace(',', '.'),
  };
  if ((await save(`Saved the rate of ${body.currency}.`, () => api('PUT /api/rates', { body }))) === true)
    draft.value = { currency: '', day: today, perHouse: '' };
}
</script>

<template>
  <PageHead
    title="Currencies"
    :help="`Sums in other currencies are converted to ${data?.house ?? ''} at the rate that holds on the day.`"
  />
  <v-table v-if="data?.items.length" class="book narrow">
    <thead>
      <tr>
        <th>Currency</th>
        <th class="num">For one {{ data.house }}</th>
        <th>From</th>
        <th><span class="visually-hidden">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in data.items" :key="one.id">
        <td>{{ one.currency }}</td>
        <td class="num">{{ plainNumber(Number(one.perHouse), { maximumFractionDigits: 8 }) }}</td>
        <td>{{ fullDay(one.day) }}</td>
        <td>
          <v-btn
            v-if="session.may('settings.deals')"
            class="word"
            :aria-label="`Remove the rate of ${one.currency} from ${one.day}`"
            @click="save('Rate removed.', () => api('DELETE /api/rates/:id', { params: { id: one.id } }))"
          >
            Remove
          </v-btn>
        </td>
      </tr>
    </tbody>
  </v-table>
  <p v-else-if="data" class="empty">No rates yet. Sums in other currencies are left out of totals.</p>
  <form v-if="data && session.may('settings.deals')" class="add" @submit.prevent="set">
    <v-text-field
      v-model="draft.currency"
      label="Currency"
      required
      pattern="[A-Za-z]{3}"
      maxlength="3"
      placeholder="GBP"
    />
    <v-text-field
      v-model="draft.perHouse"
      :label="`For one ${data?.house ?? ''}`"
      required
      inputmode="decimal"
      placeholder="0.86"
    />
    <DateField v-model="draft.day" required label="From" />
    <v-btn class="fill" type="submit">Save the rate</v-btn>
  </form>
</template>

<style scoped>
.narrow {
  max-width: 640px;
}
.add {
  display: grid;
  grid-template-columns: 110px 140px 190px auto;
  gap: 10px;
  align-items: end;
  justify-content: start;
  padding-top: 14px;
}
@media (max-width: 900px) {
  .add {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
