<script setup lang="ts">
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { counted, percent, plainNumber, shortDay } from '../shell/format';
import { useFetched } from '../shell/live';

/** How a lead is judged: fit, warmth, completeness and win chance, each opened to its reasons. */
const props = defineProps<{ leadId: string }>();
const { data: judged } = useFetched(
  () => api('GET /api/leads/:id/judgement', { params: { id: props.leadId } }),
  [
    'leads',
    'lead_answers',
    'people',
    'companies',
    'contact_points',
    'ledger_links',
    'signals',
    'fit_rules',
    'warmth_rules',
    'lead_scores',
  ],
);
type Part = 'fit' | 'warmth' | 'chance';
const open = ref<Part | null>(null);
const turn = (part: Part): void => void (open.value = open.value === part ? null : part);
const chance = computed(() => judged.value?.chance);
const signed = (points: number): string =>
  plainNumber(points, { maximumFractionDigits: 0, signDisplay: 'exceptZero' });
</script>

<template>
  <section class="judged" aria-label="Scores of this lead">
    <template v-if="judged && chance">
      <div class="line">
        <v-btn class="word" :aria-expanded="open === 'chance'" @click="turn('chance')">
          Win chance <b class="num">{{ percent(chance.chance) }}</b>
        </v-btn>
        <v-btn class="word" :aria-expanded="open === 'fit'" @click="turn('fit')">
          Fit <b class="num">{{ judged.fit.score }}</b>
        </v-btn>
        <v-btn class="word" :aria-expanded="open === 'warmth'" @click="turn('warmth')">
          Warmth <b class="num">{{ judged.warmth.score }}</b>
        </v-btn>
        <span class="soft">
          <template v-if="chance.base"
            >{{ chance.base.won }} of {{ counted(chance.base.closed, 'closed lead') }} won; more are needed to
            learn from</template
          >
          <template v-else-if="chance.reasons.length"
            >{{ chance.reasons[0]?.words }}, {{ signed(chance.reasons[0]?.points ?? 0) }}</template
          >
        </span>
      </div>
      <ul v-if="open === 'fit'" class="reasons">
        <li v-for="part in judged.fit.parts" :key="part.ruleId" :class="{ soft: part.outcome !== 'holds' }">
          <span class="num">{{ part.outcome === 'holds' ? signed(part.points) : '0' }}</span>
          <span
            >{{ part.words }}:
            {{
              part.outcome === 'not known'
                ? 'not known'
                : `${part.found}${part.outcome === 'fails' ? ', so not' : ''}`
            }}</span
          >
        </li>
        <li v-if="!judged.fit.parts.length" class="soft">
          There is no rule yet.
          <RouterLink class="quiet-link" to="/settings/fit">Fit rules</RouterLink>
        </li>
      </ul>
      <ul v-else-if="open === 'warmth'" class="reasons">
        <li v-for="part in judged.warmth.parts.slice(0, 12)" :key="`${part.kind} ${part.at}`">
          <span class="num">{{ signed(part.points) }}</span>
          <span
            >{{ part.kind }} <span class="soft">{{ shortDay(part.at) }}, {{ part.words }}</span></span
          >
        </li>
        <li v-if="judged.warmth.cooled" class="late">
          <span class="num">½</span><span>cooled: nothing of ours was opened for 30 days</span>
        </li>
        <li v-if="!judged.warmth.parts.length" class="soft">They have shown no interest yet.</li>
      </ul>
      <ul v-else-if="open === 'chance'" class="reasons">
        <li v-for="reason in chance.reasons.slice(0, 8)" :key="reason.words">
          <span class="num">{{ signed(reason.points) }}</span><span>{{ reason.words }}</span>
        </li>
        <li v-if="chance.base" class="soft">
          <span
            >Between {{ percent(chance.base.low) }} and {{ percent(chance.base.high) }} of all leads, going by
            those closed so far.</span
          >
        </li>
      </ul>
    </template>
    <div v-else class="line"><span class="ghost" style="width: 40%"></span></div>
  </section>
</template>

<style scoped>
.line .word b {
  margin-left: 4px;
}
.judged {
  padding: 2px 24px;
  border-bottom: 1px solid var(--rule2);
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  align-items: baseline;
  min-height: 28px;
}
.line .word {
  font-size: 14px;
}
.line b {
  color: var(--ink);
}
.reasons {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
  columns: 2;
  column-gap: 32px;
}
.reasons li {
  display: flex;
  gap: 10px;
  padding: 2px 0;
  break-inside: avoid;
}
.reasons .num {
  width: 34px;
  text-align: right;
  flex: none;
}
@media (max-width: 700px) {
  .judged {
    padding: 2px 14px;
  }
  .reasons {
    columns: 1;
  }
}
</style>
