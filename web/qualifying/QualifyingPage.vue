<script setup lang="ts">
import { computed } from 'vue';
import { api } from '../shell/api';
import { day, percent } from '../shell/format';
import { gatherFetches, useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import FitSheet from './FitSheet.vue';
import OwnerSheet from './OwnerSheet.vue';
import PlanSheet from './PlanSheet.vue';

const waiting = gatherFetches();
const session = useSession();
const undo = useUndo();
const mayEdit = computed(() => session.me?.role !== 'rep');
const { data: warmth, load: loadWarmth } = useFetched(() => api('GET /api/warmth-rules'), ['warmth_rules']);
const { data: model, load: loadModel } = useFetched(() => api('GET /api/win-model'), ['lead_scores']);
const { data: drops } = useFetched(() => api('GET /api/figures/drops'), ['leads']);
const isReady = computed(() => !waiting.value && warmth.value && model.value && drops.value);
const number = (value: number): string =>
  new Intl.NumberFormat(navigator.language, { maximumFractionDigits: 3 }).format(value);

async function putWarmth(patch: { halfLifeDays?: number; points?: Record<string, number> }): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/warmth-rules', {
      body: { version: warmth.value?.version ?? 1, ...patch },
    });
    undo.tell({ text: 'Changed.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await loadWarmth();
}

async function train(): Promise<void> {
  try {
    await api('POST /api/win-model/training');
    undo.tell({ text: 'It learns anew in the background.', eventId: null });
    setTimeout(() => void loadModel(), 3000);
  } catch (problem) {
    undo.fail(problem);
  }
}
const valueOf = (event: Event): number => Number((event.target as HTMLInputElement).value);
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Qualifying</h1>
      <span class="soft">by what a lead is judged{{ mayEdit ? '' : '; a manager can change it' }}</span>
    </div>
    <template v-if="!isReady"><span v-for="n in 12" :key="n" class="ghost"></span></template>
    <FitSheet v-show="isReady" :may-edit="mayEdit" />
    <div v-show="isReady" class="columns">
      <section>
        <h2>Warmth</h2>
        <p class="soft">Each thing they do is worth so much, and half of it after each half-life.</p>
        <fieldset v-if="warmth" :disabled="!mayEdit">
          <label class="row"
            ><span>Half-life, days</span
            ><input
              class="inline-edit"
              type="number"
              min="1"
              max="365"
              :value="warmth.halfLifeDays"
              @change="putWarmth({ halfLifeDays: valueOf($event) })"
          /></label>
          <label v-for="one in warmth.kinds" :key="one.kind" class="row"
            ><span>{{ one.label }}</span
            ><input
              class="inline-edit"
              type="number"
              min="0"
              max="100"
              :value="one.points"
              @change="putWarmth({ points: { [one.kind]: valueOf($event) } })"
          /></label>
        </fieldset>
        <template v-else><span v-for="n in 6" :key="n" class="ghost"></span></template>
      </section>
      <section>
        <h2>Win chance</h2>
        <template v-if="model">
          <p>
            <template v-if="model.kind === 'learnt'"
              >Learnt from {{ model.closed }} closed leads, {{ model.won }} of them won.</template
            ><template v-else-if="model.held"
              >What was learnt did no better than the base rate on the newest, so the base rate is used:
              {{ model.won }} of {{ model.closed }} were won.</template
            ><template v-else
              >{{ model.closed }} leads were closed, {{ model.won }} of them won. That is too few to learn
              from; 40, with 8 of each, are needed. Until then each has the base rate.</template
            >
            <span v-if="model.madeAt" class="soft"> {{ day(model.madeAt) }}</span>
          </p>
          <table v-if="model.held" class="book">
            <caption class="cap">
              On the newest
              {{
                model.held.count
              }}, not seen in learning: Brier score
              {{
                number(model.held.brier)
              }}, that of the base rate
              {{
                number(model.held.baseBrier)
              }}
            </caption>
            <thead>
              <tr>
                <th class="num">Given</th>
                <th class="num">Came true</th>
                <th class="num">Between</th>
                <th class="num">Leads</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="bin in model.held.bins" :key="bin.given">
                <td class="num">{{ percent(bin.given) }}</td>
                <td class="num">{{ percent(bin.came) }}</td>
                <td class="num soft">{{ percent(bin.low) }} – {{ percent(bin.high) }}</td>
                <td class="num">{{ bin.count }}</td>
              </tr>
            </tbody>
          </table>
          <button v-if="mayEdit" class="word" @click="train">Learn anew now</button>
        </template>
        <template v-else><span v-for="n in 4" :key="n" class="ghost"></span></template>
      </section>
      <div>
        <OwnerSheet :may-edit="mayEdit" />
        <PlanSheet class="next" :may-edit="mayEdit" />
        <section class="next">
          <h2>Why leads were dropped</h2>
          <table v-if="drops?.reasons.length" class="book">
            <tbody>
              <tr v-for="one in drops.reasons.slice(0, 12)" :key="one.reason">
                <td>{{ one.reason }}</td>
                <td class="num">{{ one.count }}</td>
                <td class="num soft">{{ percent(one.count / drops.dropped) }}</td>
              </tr>
            </tbody>
          </table>
          <p v-else-if="drops" class="empty">None was dropped yet.</p>
          <template v-else><span v-for="n in 4" :key="n" class="ghost"></span></template>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 24px 40px;
  margin-top: 20px;
}
.next {
  margin-top: 20px;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
}
.row {
  display: grid;
  grid-template-columns: 1fr 90px;
  align-items: center;
  gap: 10px;
  padding: 2px 0;
}
p {
  margin: 4px 0 8px;
}
caption {
  text-align: left;
  padding-bottom: 4px;
}
</style>
