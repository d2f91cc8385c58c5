<script setup lang="ts">
import type { Forecast } from '@emporikon/contract/forecast';
import { computed, ref } from 'vue';
import { monthName, roughMoney } from '../shell/format';

/** The forecast of each owner, month by month, by the measure chosen. */
const props = defineProps<{ forecast: Forecast }>();
const MEASURES = {
  weightedMinor: 'weighted',
  committedMinor: 'committed',
  bestMinor: 'best',
  wonMinor: 'won',
} as const;
type Measure = keyof typeof MEASURES;
const measure = ref<Measure>('weightedMinor');
const months = computed(() => props.forecast.months.map((month) => month.month));
const rows = computed(() => {
  const owners = new Map(props.forecast.cells.map((cell) => [cell.owner.id, cell.owner.name]));
  const of = (id: string, month?: string): number =>
    props.forecast.cells
      .filter((cell) => cell.owner.id === id && (month === undefined || cell.month === month))
      .reduce((sum, cell) => sum + cell[measure.value], 0);
  return [...owners]
    .map(([id, name]) => ({ id, name, months: months.value.map((month) => of(id, month)), total: of(id) }))
    .sort((a, b) => b.total - a.total);
});
const shown = (minor: number): string => (minor ? roughMoney(minor, props.forecast.currency) : '');
</script>

<template>
  <section>
    <div class="head">
      <h2>By owner</h2>
      <span
        ><v-btn
          v-for="(words, key) in MEASURES"
          :key="key"
          class="word"
          :aria-pressed="measure === key"
          @click="measure = key"
        >
          {{ words }}
        </v-btn></span
      >
    </div>
    <div v-if="rows.length" class="scroll" tabindex="0" role="region" aria-label="By owner">
      <v-table class="book">
        <thead>
          <tr>
            <th>Owner</th>
            <th v-for="month in months" :key="month" class="num">{{ monthName(month) }}</th>
            <th class="num">Total</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.id">
            <td>{{ row.name }}</td>
            <td v-for="(minor, at) in row.months" :key="at" class="num">{{ shown(minor) }}</td>
            <td class="num">
              <b>{{ shown(row.total) }}</b>
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p v-else class="empty">No deals are expected in these months.</p>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  gap: 18px;
  align-items: baseline;
}
.head span {
  display: flex;
  gap: 12px;
}
</style>
