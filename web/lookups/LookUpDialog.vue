<script setup lang="ts">
import { counted } from '../shell/format';
import { vFocus } from '../kit/focus';
import Progress from '../kit/Progress.vue';
import type { LookUpPlan, LookUpRun } from '@emporikon/contract/lookups';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { api, wordsOf } from '../shell/api';
import { price } from './money';

const props = defineProps<{ people?: string[]; companies?: string[]; leads?: string[]; name?: string }>();
const emit = defineEmits<{ close: []; done: [] }>();
const plan = shallowRef<LookUpPlan | null>(null);
const run = shallowRef<LookUpRun | null>(null);
const error = ref('');
let timer: ReturnType<typeof setTimeout> | undefined;
onScopeDispose(() => clearTimeout(timer));

const body = computed(() => ({ people: props.people, companies: props.companies, leads: props.leads }));
const subject = computed(() => props.name ?? `${plan.value?.subjects ?? 0} at once`);
const cost = (minor: number): string => price(minor, plan.value?.currency ?? '');
const isShort = computed(() => (plan.value ? plan.value.most > plan.value.left : false));

async function load(): Promise<void> {
  try {
    plan.value = await api('POST /api/look-ups/plan', { body: body.value });
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void load();

const POLL_MS = 400;
async function follow(): Promise<void> {
  if (!run.value) return;
  try {
    run.value = await api('GET /api/look-ups/runs/:id', { params: { id: run.value.id } });
  } catch (problem) {
    error.value = wordsOf(problem);
  }
  if (run.value.state === 'running') timer = setTimeout(() => void follow(), POLL_MS);
  else emit('done');
}

async function start(): Promise<void> {
  error.value = '';
  try {
    run.value = await api('POST /api/look-ups', { body: body.value });
    await follow();
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}

async function stop(): Promise<void> {
  if (!run.value) return;
  try {
    run.value = await api('POST /api/look-ups/runs/:id/stop', { params: { id: run.value.id } });
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="680"
    scrollable
    aria-labelledby="look-up-title"
    @update:model-value="emit('close')"
  >
    <v-card class="sheet">
      <h2 id="look-up-title">Look up {{ subject }}</h2>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="plan && !run">
        <template v-if="plan.steps.length">
          <p class="soft">Sources are asked in this order, best value first, until enough is known.</p>
          <ol>
            <li v-for="step in plan.steps" :key="step.source">
              <span
                ><b>{{ step.label }}</b> may tell {{ step.because
                }}<template v-if="step.after">; asked once {{ step.after }} told the domain</template></span
              >
              <span class="num soft">worth {{ cost(step.gain) }}, costs {{ cost(step.cost) }}</span>
            </li>
          </ol>
        </template>
        <ul v-else-if="plan.questions.length">
          <li v-for="one in plan.questions" :key="one.source">
            <span
              ><b>{{ one.label }}</b
              >, at most {{ counted(one.count, 'question') }}</span
            >
            <span class="num soft">about {{ cost(one.cost) }}</span>
          </li>
        </ul>
        <p v-else>
          No source is worth asking: enough is known, there is too little to search by, or no source is on.
        </p>
        <p v-if="plan.questions.length">
          About <b>{{ cost(plan.expected) }}</b>, at most {{ cost(plan.most) }}, of {{ cost(plan.left) }} that
          are left this month.
          <span v-if="isShort" class="late">It stops when the allowance is used up.</span>
        </p>
      </template>
      <template v-else-if="run">
        <Progress
          :max="run.total"
          :value="run.state === 'running' ? run.done : run.total"
          label="Looked up"
        />
        <p role="status">
          <template v-if="run.state === 'running'">{{ run.done }} of {{ run.total }} looked up …</template>
          <template v-else-if="run.filled + run.suggested"
            >{{ counted(run.filled, 'fact') }} filled in, {{ run.suggested }} suggested, for
            {{ cost(run.spent) }}.</template
          >
          <template v-else>Nothing new was found. It cost {{ cost(run.spent) }}.</template>
          <span v-if="run.trouble" class="late"> {{ run.trouble }}</span>
        </p>
      </template>
      <template v-else-if="!error"><span v-for="n in 3" :key="n" class="ghost"></span></template>
      <div class="foot">
        <v-btn v-if="plan?.questions.length && !run" v-focus class="fill" @click="start">Look up</v-btn>
        <v-btn v-if="run?.state === 'running'" class="quiet" @click="stop">Stop</v-btn>
        <v-btn class="quiet" @click="emit('close')">{{ run ? 'Close' : 'Not now' }}</v-btn>
        <RouterLink class="quiet-link" to="/settings/look-ups">Sources and allowance</RouterLink>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  padding: 18px 22px;
}
ol,
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  counter-reset: at;
}
ol li::before {
  counter-increment: at;
  content: counter(at);
  color: var(--soft);
  width: 14px;
}
li {
  display: flex;
  gap: 10px;
  padding: 7px 0;
  border-top: 1px solid var(--rule2);
  align-items: baseline;
}
li .num {
  margin-left: auto;
}
p {
  margin: 6px 0 10px;
}
.foot {
  display: flex;
  gap: 14px;
  align-items: center;
  padding-top: 12px;
}
</style>
