<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { counted, monthName, percent, plainNumber, roughMoney } from '../shell/format';
import { useFetched } from '../shell/live';
import { useTeam } from '../shell/useTeam';
import Chart from './Chart.vue';
import { backTestTraces, forecastTraces, layout } from './chart';
import OwnerTable from './OwnerTable.vue';

const chosen = ref({ pipeline: '', owner: '', team: '', basis: 'stage' as 'stage' | 'win' });
const seed = ref(1);
const { data: pipelines } = useFetched(() => api('GET /api/pipelines'), ['pipelines']);
const team = useTeam();
const teams = computed(() => [...new Set(team.value.map((item) => item.team).filter(Boolean))]);
const filter = computed(() => ({
  pipeline: chosen.value.pipeline || undefined,
  owner: chosen.value.owner || undefined,
  team: chosen.value.team || undefined,
  seed: seed.value,
}));
const {
  data: forecast,
  error,
  load,
} = useFetched(
  () => api('GET /api/forecast', { query: { ...filter.value, basis: chosen.value.basis } }),
  ['deals', 'stages', 'currency_rates'],
);
const { data: past, load: loadPast } = useFetched(
  () => api('GET /api/forecast/back-test', { query: { ...filter.value, months: 6 } }),
  ['deals'],
);
watch(
  [chosen, seed],
  () => {
    void load();
    void loadPast();
  },
  { deep: true },
);
const isReady = computed(() => forecast.value && past.value && pipelines.value && team.value.length);
const within = computed(() => (past.value?.items ?? []).filter((item) => item.isWithin).length);
const shown = (minor: number): string => roughMoney(minor, forecast.value?.currency ?? '');
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Forecast</h1>
      <v-select
        v-model="chosen.pipeline"
        class="inline-edit pick"
        aria-label="Which pipeline"
        :items="[
          { value: '', title: 'All pipelines' },
          ...(pipelines?.items ?? []).map((one) => ({ value: one.id, title: one.name })),
        ]"
      />
      <v-select
        v-model="chosen.owner"
        class="inline-edit pick"
        aria-label="Owner"
        :items="[
          { value: '', title: 'Everybody’s' },
          ...team.map((one) => ({ value: one.id, title: one.name })),
        ]"
      />
      <v-select
        v-model="chosen.team"
        class="inline-edit pick"
        aria-label="Team"
        :items="[{ value: '', title: 'Any team' }, ...teams.map((one) => ({ value: one, title: one }))]"
      />
      <v-select
        v-model="chosen.basis"
        class="inline-edit pick"
        aria-label="By which chances"
        :items="[
          { value: 'stage', title: 'By stage' },
          { value: 'win', title: 'By win chance' },
        ]"
      />
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-if="!isReady && !error"><span v-for="n in 14" :key="n" class="ghost"></span></template>
    <template v-if="isReady && forecast && past">
      <p>
        In {{ counted(forecast.months.length, 'month') }}, in 8 of 10 runs between
        <b class="num">{{ shown(forecast.simulated.total.low) }}</b> and
        <b class="num">{{ shown(forecast.simulated.total.high) }}</b>; median
        <b class="num">{{ shown(forecast.simulated.total.middle) }}</b>.
        <span class="soft"
          >{{ plainNumber(forecast.simulated.runs) }} runs; the odds are right to within
          {{ plainNumber(forecast.simulated.total.error * 100, { maximumFractionDigits: 1 }) }}
          percentage points.
          <v-btn class="word" @click="seed += 1">Run again with a new seed</v-btn></span
        >
        <span v-if="forecast.missing.length" class="late">
          Left out, because there is no rate: {{ forecast.missing.join(', ') }}.</span
        >
      </p>
      <Chart
        :of="forecast"
        :traces="() => (forecast ? forecastTraces(forecast) : [])"
        :layout="() => layout(forecast?.currency ?? '')"
        label="The forecast by month; the table below has the same figures"
      />
      <div class="scroll" tabindex="0" role="region" aria-label="By month">
        <v-table class="book">
          <thead>
            <tr>
              <th>Month</th>
              <th class="num">Deals</th>
              <th class="num">Won</th>
              <th class="num">Committed</th>
              <th class="num">Weighted</th>
              <th class="num">Best</th>
              <th class="num">8 in 10 runs between</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(one, at) in forecast.months" :key="one.month">
              <td>{{ monthName(one.month) }}</td>
              <td class="num">{{ one.deals }}</td>
              <td class="num">{{ shown(one.wonMinor) }}</td>
              <td class="num">{{ shown(one.committedMinor) }}</td>
              <td class="num">
                <b>{{ shown(one.weightedMinor) }}</b>
              </td>
              <td class="num">{{ shown(one.bestMinor) }}</td>
              <td class="num soft">
                {{ shown(forecast.simulated.months[at]?.low ?? 0) }} –
                {{ shown(forecast.simulated.months[at]?.high ?? 0) }}
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <p class="cap">
        Committed: won deals, and open deals with a chance of {{ percent(forecast.committedFrom) }} or more.
        Best: all deals. A deal whose expected day has passed counts in this month; a deal without one counts
        when won deals usually close.
      </p>
      <OwnerTable :forecast="forecast" class="next" />
      <h2 class="next">Forecast and result</h2>
      <p class="soft">
        What the forecast said on the first day of each month, beside what was won of the deals that stood
        there. {{ within }} of {{ past.items.length }} came within its range.
      </p>
      <div class="columns">
        <Chart
          :of="past"
          :traces="() => (past ? backTestTraces(past.items, past.currency) : [])"
          :layout="() => layout(past?.currency ?? '')"
          label="Past forecasts and results; the table beside it has the same figures"
        />
        <div class="scroll" tabindex="0" role="region" aria-label="Past forecasts">
          <v-table class="book">
            <thead>
              <tr>
                <th>Month</th>
                <th class="num">Weighted</th>
                <th class="num">8 in 10 runs</th>
                <th class="num">Result</th>
                <th class="num">Won in all</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in past.items" :key="one.month">
                <td>{{ monthName(one.month) }}</td>
                <td class="num">{{ shown(one.weightedMinor) }}</td>
                <td class="num soft">{{ shown(one.low) }} – {{ shown(one.high) }}</td>
                <td class="num" :class="{ late: !one.isWithin }">{{ shown(one.seenMinor) }}</td>
                <td class="num">{{ shown(one.wonMinor) }}</td>
              </tr>
            </tbody>
          </v-table>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.pick {
  width: auto;
  max-width: 170px;
}
.back {
  margin-left: auto;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(380px, 1fr));
  gap: 10px 40px;
}
.next {
  margin-top: 18px;
}
p {
  margin: 2px 0 6px;
}
@media (max-width: 700px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
