<script setup lang="ts">
import type { DealRow, Pipeline } from '@emporikon/contract/deals';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { usePageKeys, useStored } from '../shell/browser';
import { money } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import DealTable from './DealTable.vue';
import Lane from './Lane.vue';

const session = useSession();
const undo = useUndo();
const whose = ref<'all' | 'mine'>('all');
const view = useStored<'lanes' | 'table'>('emporikon.deals.view', 'lanes');
const { data, error, load } = useFetched(
  () => api('GET /api/deals', { query: { owner: whose.value === 'mine' ? session.me?.id : undefined } }),
  ['deals', 'stages', 'tasks', 'ledger_links', 'companies'],
);
watch(whose, load);
const AXIS = [0, 7, 14, 21, 28, 35, 42, 49];
const lanes = computed(() => (data.value?.stages ?? []).filter((stage) => stage.kind !== 'lost'));
const inLane = (stage: Pipeline['stages'][number]): DealRow[] =>
  (data.value?.deals ?? []).filter((deal) => deal.stageId === stage.id);
const said = ref('');

async function move(deal: DealRow, stageId: string): Promise<void> {
  if (deal.stageId === stageId) return;
  const stage = data.value?.stages.find((one) => one.id === stageId);
  try {
    const { eventId } = await api('PATCH /api/deals/:id', {
      params: { id: deal.id },
      body: { version: deal.version, stageId },
    });
    said.value = `${deal.title} moved to ${stage?.name ?? ''}`;
    undo.tell({ text: `Moved: ${deal.title} to ${stage?.name ?? ''}.`, eventId });
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
    <span v-if="data" class="soft"
      >{{ data.open }} open<template v-for="sum in data.sums" :key="sum.currency">
        · <b class="num ink">{{ money(sum.plain, sum.currency) }}</b> · weighted
        <b class="num ink">{{ money(sum.weighted, sum.currency) }}</b></template
      ></span
    >
    <span class="right"
      ><button class="word" :aria-pressed="whose === 'mine'" @click="whose = 'mine'">mine</button
      ><button class="word" :aria-pressed="whose === 'all'" @click="whose = 'all'">all</button></span
    >
    <span
      ><button class="word" :aria-pressed="view === 'lanes'" @click="view = 'lanes'">lanes</button>
      <button class="word" :aria-pressed="view === 'table'" @click="view = 'table'">table</button>
      <span class="key">t</span></span
    >
  </div>
  <p v-if="error" class="wrong page" role="alert">{{ error }}</p>
  <p class="visually-hidden" role="status">{{ said }}</p>
  <DealTable v-if="data && view === 'table'" :pipeline="data" />
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
      :deals="inLane(stage)"
      :stages="data.stages"
      @move="move"
      @shift="shift"
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
  padding: 12px 24px 6px;
  flex-wrap: wrap;
}
.bar h1 {
  font-size: 17px;
}
.ink {
  color: var(--ink);
}
.right {
  margin-left: auto;
  display: flex;
  gap: 10px;
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
