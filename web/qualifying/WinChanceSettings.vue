<script setup lang="ts">
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { day, percent, plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** What the win chance was learned from, how well it holds, and why leads were dropped. */
const session = useSession();
const undo = useUndo();
const { data: model, load } = useFetched(() => api('GET /api/win-model'), ['lead_scores']);
const { data: drops } = useFetched(() => api('GET /api/figures/drops'), ['leads']);
const score = (value: number): string => plainNumber(value, { maximumFractionDigits: 3 });

async function train(): Promise<void> {
  try {
    await api('POST /api/win-model/training');
    undo.tell({ text: 'Retraining has started.', eventId: null });
    setTimeout(() => void load(), 3000);
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <PageHead
    title="Win chance"
    help="How likely a lead is to end in a won deal, learned from the leads you have closed."
  />
  <template v-if="!model || !drops"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <div v-else class="halves">
    <section>
      <h2>Accuracy</h2>
      <p>
        <template v-if="model.kind === 'learnt'"
          >Learned from {{ plainNumber(model.closed) }} closed leads, {{ plainNumber(model.won) }} of them
          won.</template
        ><template v-else-if="model.held"
          >Learning did no better than the average on the newest leads, so the average is used:
          {{ plainNumber(model.won) }} of {{ plainNumber(model.closed) }} were won.</template
        ><template v-else
          >{{ plainNumber(model.closed) }} leads closed, {{ plainNumber(model.won) }} of them won. At least 40
          closed leads are needed to learn from, 8 of them won and 8 lost. Until then every lead has the
          average.</template
        >
        <span v-if="model.madeAt" class="soft"> Last trained {{ day(model.madeAt) }}.</span>
      </p>
      <template v-if="model.held">
        <p class="cap">
          Tested on the newest {{ plainNumber(model.held.count) }}, which it had not seen. Brier score
          {{ score(model.held.brier) }}; always guessing the average gives {{ score(model.held.baseBrier) }}.
        </p>
        <v-table class="book">
          <thead>
            <tr>
              <th class="num">Chance given</th>
              <th class="num">Won</th>
              <th class="num">95% between</th>
              <th class="num">Leads</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="bin in model.held.bins" :key="bin.given">
              <td class="num">{{ percent(bin.given) }}</td>
              <td class="num">{{ percent(bin.came) }}</td>
              <td class="num soft">{{ percent(bin.low) }} – {{ percent(bin.high) }}</td>
              <td class="num">{{ plainNumber(bin.count) }}</td>
            </tr>
          </tbody>
        </v-table>
      </template>
      <v-btn v-if="session.may('settings.scoring')" class="quiet first" @click="train">Retrain now</v-btn>
    </section>
    <section>
      <h2>Why leads were dropped</h2>
      <v-table v-if="drops.reasons.length" class="book">
        <thead>
          <tr>
            <th>Reason</th>
            <th class="num">Leads</th>
            <th class="num">Share</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in drops.reasons.slice(0, 12)" :key="one.reason">
            <td>{{ one.reason }}</td>
            <td class="num">{{ plainNumber(one.count) }}</td>
            <td class="num soft">{{ percent(one.count / drops.dropped) }}</td>
          </tr>
        </tbody>
      </v-table>
      <p v-else class="empty">No lead has been dropped yet.</p>
    </section>
  </div>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 24px 40px;
}
p {
  margin: 4px 0 8px;
}
.first {
  margin-top: 12px;
}
</style>
