<script setup lang="ts">
import type { DealRow } from '@emporikon/contract/deals';
import { daysOf } from '@emporikon/core/lifecycle/periods';
import type { DealAsk } from '@emporikon/core/lifecycle/stages';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api } from '../shell/api';
import { usePageKeys, useStored } from '../shell/browser';
import { money, roughMoney } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import AddDeal from './AddDeal.vue';
import AfterMove from './AfterMove.vue';
import BoardFilters, { type Chosen } from './BoardFilters.vue';
import DealTable from './DealTable.vue';
import Lane from './Lane.vue';
import { useBoard } from './useBoard';

const undo = useUndo();
const route = useRoute();
const router = useRouter();
const view = useStored<'lanes' | 'table'>('emporikon.deals.view', 'lanes');
const chosen = ref<Chosen>({ owner: '', team: '', tag: '', period: 'any' });
const { data: pipelines } = useFetched(() => api('GET /api/pipelines'), ['pipelines', 'deals']);
const active = computed(() => (pipelines.value?.items ?? []).filter((item) => item.active));
const asked = computed(() => (typeof route.query.pipeline === 'string' ? route.query.pipeline : ''));
const current = computed(() => asked.value || active.value[0]?.id || '');
const { data, error, load, cardsOf, nextOf, more } = useBoard(current, () => {
  const { owner, team, tag, period } = chosen.value;
  return {
    owner: owner || undefined,
    team: team || undefined,
    tag: tag || undefined,
    ...daysOf(period, new Date().toISOString().slice(0, 10)),
  };
});
watch([chosen, current], load);
const AXIS = [0, 7, 14, 21, 28, 35, 42, 49];
const lanes = computed(() => (data.value?.stages ?? []).filter((stage) => stage.kind !== 'lost'));
const shown = computed(() => lanes.value.flatMap((stage) => cardsOf(stage.id)));
const hasMore = computed(() => lanes.value.some((stage) => nextOf(stage.id)));
const moreOfAll = async (): Promise<void> => {
  for (const stage of lanes.value) await more(stage.id);
};
const said = ref('');
const isAdding = ref(false);
const after = ref<{ deal: DealRow; kind: 'open' | 'won' | 'lost'; notKnown: DealAsk[] } | null>(null);

async function move(deal: DealRow, stageId: string): Promise<void> {
  if (deal.stageId === stageId) return;
  const stage = data.value?.stages.find((stage) => stage.id === stageId);
  try {
    const { eventId, notKnown } = await api('PATCH /api/deals/:id', {
      params: { id: deal.id },
      body: { version: deal.version, stageId },
    });
    said.value = `${deal.title} moved to ${stage?.name ?? ''}`;
    undo.tell({ text: `Moved: ${deal.title} to ${stage?.name ?? ''}.`, eventId });
    const kind = stage?.kind ?? 'open';
    after.value = kind !== 'open' || notKnown.length ? { deal, kind, notKnown } : null;
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
  requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-deal="${deal.id}"] a`)?.focus());
}

/** One stage on or back, for the keyboard. */
function shift(deal: DealRow, by: 1 | -1): void {
  const stages = data.value?.stages ?? [];
  const next = stages[stages.findIndex((stage) => stage.id === deal.stageId) + by];
  if (next) void move(deal, next.id);
}

usePageKeys((event) => {
  if (event.key === 't' && !event.ctrlKey && !event.metaKey)
    view.value = view.value === 'lanes' ? 'table' : 'lanes';
});
</script>

<template>
  <div class="bar">
    <h1>Pipeline</h1>
    <select
      class="inline-edit which"
      aria-label="Which pipeline"
      :value="current"
      @change="router.replace({ query: { pipeline: ($event.target as HTMLSelectElement).value } })"
    >
      <option v-for="one in active" :key="one.id" :value="one.id">{{ one.name }}</option>
    </select>
    <span class="soft sums"
      ><template v-if="data"
        >{{ data.open.toLocaleString() }} open ·
        <b class="num ink">{{ money(data.total.plain, data.total.currency) }}</b> · weighted
        <b class="num ink">{{ roughMoney(data.total.weighted, data.total.currency) }}</b><template
          v-if="data.total.missing.length"
        >
          · without {{ data.total.missing.join(', ') }}, which have no rate</template
        ></template
      ></span
    >
    <span class="right"
      ><button class="word" :aria-expanded="isAdding" @click="isAdding = !isAdding">add a deal</button>
      <RouterLink to="/forecast" class="word">forecast</RouterLink>
      <RouterLink to="/pipelines" class="word">stages and prices</RouterLink></span
    >
    <span
      ><button class="word" :aria-pressed="view === 'lanes'" @click="view = 'lanes'">lanes</button>
      <button class="word" :aria-pressed="view === 'table'" @click="view = 'table'">table</button>
      <span class="key">t</span></span
    >
  </div>
  <AddDeal
    v-if="isAdding"
    :stage-id="data?.stages.find((stage) => stage.kind === 'open')?.id"
    @done="isAdding = false"
  />
  <BoardFilters v-model="chosen" :board="data" />
  <AfterMove
    v-if="after"
    :key="after.deal.id + after.kind"
    :deal="after.deal"
    :kind="after.kind"
    :not-known="after.notKnown"
    @done="after = null"
  />
  <p v-if="error" class="wrong page" role="alert">{{ error }}</p>
  <p class="visually-hidden" role="status">{{ said }}</p>
  <DealTable
    v-if="data && view === 'table'"
    :stages="data.stages"
    :deals="shown"
    :has-more="hasMore"
    @more="moreOfAll"
  />
  <div v-else-if="data" class="lanes">
    <div class="days">
      <span>days in this stage</span>
      <div class="axis">
        <span v-for="at in AXIS" :key="at" :style="{ left: `${(at / 49) * 100}%` }"
          >{{ at }}{{ at === 49 ? ' +' : '' }}</span
        >
      </div>
    </div>
    <Lane
      v-for="stage in lanes"
      :key="stage.id"
      :stage="stage"
      :deals="cardsOf(stage.id)"
      :has-more="nextOf(stage.id) !== null"
      :stages="data.stages"
      @move="move"
      @shift="shift"
      @more="more(stage.id)"
    />
    <p class="cap foot">
      Drag a deal to another lane, or press Shift with ↑ ↓ on it. Its number of days begins anew.
    </p>
  </div>
  <div v-else class="page"><span v-for="n in 8" :key="n" class="ghost"></span></div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 4px 18px;
  align-items: baseline;
  padding: 12px 24px 2px;
  flex-wrap: wrap;
}
.bar h1 {
  font-size: 17px;
}
.which {
  width: auto;
  min-width: 120px;
}
.ink {
  color: var(--ink);
}
.right {
  margin-left: auto;
  display: flex;
  gap: 14px;
}
.days {
  display: grid;
  grid-template-columns: 170px 1fr;
  color: var(--soft);
  font-size: 12px;
}
.axis {
  position: relative;
  height: 20px;
  margin-right: 184px;
}
.axis span {
  position: absolute;
  white-space: nowrap;
}
.lanes {
  flex: 1;
  display: flex;
  flex-direction: column;
  padding: 0 24px 12px;
}
.foot {
  margin: 6px 0 0;
}
@media (max-width: 700px) {
  .bar,
  .lanes {
    padding-left: 14px;
    padding-right: 14px;
  }
  .days {
    display: none;
  }
}
</style>
