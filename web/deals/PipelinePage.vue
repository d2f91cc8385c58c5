<script setup lang="ts">
import type { DealRow } from '@emporikon/contract/deals';
import { daysOf, type Period } from '@emporikon/core/lifecycle/periods';
import type { DealAsk } from '@emporikon/core/lifecycle/stages';
import { computed, nextTick, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api } from '../shell/api';
import { usePageKeys } from '../shell/browser';
import { money, plainNumber, roughMoney } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { useDragging } from '../kit/dragging';
import NewButton from '../make/NewButton.vue';
import AfterMove from './AfterMove.vue';
import BoardFilters, { type Chosen } from './BoardFilters.vue';
import DealTable from './DealTable.vue';
import Lane from './Lane.vue';
import { reloadOn } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { useBoard, type BoardQuery } from './useBoard';

const undo = useUndo();
const session = useSession();
const route = useRoute();
const router = useRouter();
const view = computed(() => (route.path === '/deals/table' ? 'table' : 'lanes'));
const filters = {
  q: useQueryRef<string>('q', ''),
  owner: useQueryRef<string>('owner', ''),
  team: useQueryRef<string>('team', ''),
  tag: useQueryRef<string>('tag', ''),
  period: useQueryRef<Period>('period', 'any'),
};
const chosen = computed<Chosen>({
  get: () => ({
    q: filters.q.value,
    owner: filters.owner.value,
    team: filters.team.value,
    tag: filters.tag.value,
    period: filters.period.value,
  }),
  set: (next) => {
    for (const key of ['q', 'owner', 'team', 'tag'] as const) filters[key].value = next[key];
    filters.period.value = next.period;
  },
});
const { data: pipelines } = useFetched(() => api('GET /api/pipelines'), ['pipelines', 'deals']);
const active = computed(() => (pipelines.value?.items ?? []).filter((item) => item.active));
const asked = computed(() => (typeof route.query.pipeline === 'string' ? route.query.pipeline : ''));
const current = computed(() => asked.value || active.value[0]?.id || '');
const query = (): BoardQuery => {
  const { q, owner, team, tag, period } = chosen.value;
  return {
    q: q || undefined,
    owner: owner || undefined,
    team: team || undefined,
    tag: tag || undefined,
    ...daysOf(period, new Date().toISOString().slice(0, 10)),
  };
};
const { data, error, load, cardsOf, nextOf, more } = useBoard(current, query);
reloadOn(() => [chosen.value, current.value], load);
const AXIS = [0, 7, 14, 21, 28, 35, 42, 49];
const lanes = computed(() => (data.value?.stages ?? []).filter((stage) => stage.kind !== 'lost'));
const mayMove = computed(() => session.may('deals.change'));
const said = ref('');
const after = ref<{ deal: DealRow; kind: 'open' | 'won' | 'lost'; notKnown: DealAsk[] } | null>(null);

async function move(deal: DealRow, stageId: string): Promise<void> {
  if (deal.stageId === stageId || !mayMove.value) return;
  const stage = data.value?.stages.find((stage) => stage.id === stageId);
  try {
    const { eventId, notKnown } = await api('PATCH /api/deals/:id', {
      params: { id: deal.id },
      body: { version: deal.version, stageId },
    });
    said.value = `${deal.title} moved to ${stage?.name ?? ''}`;
    undo.tell({ text: `Moved: ${deal.title} to ${stage?.name ?? ''}.`, eventId, about: { dealId: deal.id } });
    const kind = stage?.kind ?? 'open';
    after.value = kind !== 'open' || notKnown.length ? { deal, kind, notKnown } : null;
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
  await nextTick();
  board.value?.querySelector<HTMLElement>(`[data-deal="${deal.id}"] a`)?.focus();
}

const board = ref<HTMLElement | null>(null);
const overStage = ref('');
const stageUnder = (over: readonly Element[]): string =>
  over.flatMap((element) => element.closest<HTMLElement>('[data-stage]')?.dataset.stage ?? [])[0] ?? '';
useDragging(board, {
  item: '.deal',
  except: '.to',
  move: (_, over) => void (overStage.value = mayMove.value ? stageUnder(over) : ''),
  drop: (card, over) => {
    overStage.value = '';
    const stageId = stageUnder(over);
    const deal = lanes.value.flatMap(({ id }) => cardsOf(id)).find(({ id }) => id === card.dataset.deal);
    if (deal && stageId) void move(deal, stageId);
  },
});

/** One stage on or back, for the keyboard. */
function shift(deal: DealRow, by: 1 | -1): void {
  const stages = data.value?.stages ?? [];
  const next = stages[stages.findIndex((stage) => stage.id === deal.stageId) + by];
  if (next) void move(deal, next.id);
}

usePageKeys((event) => {
  if (event.key === 't' && !event.ctrlKey && !event.metaKey)
    void router.replace({ path: view.value === 'lanes' ? '/deals/table' : '/deals', query: route.query });
});
</script>

<template>
  <div class="bar">
    <h1>Deals</h1>
    <v-select
      class="inline-edit which"
      aria-label="Which pipeline"
      :model-value="current"
      :items="active"
      item-value="id"
      item-title="name"
      @update:model-value="router.replace({ query: { ...route.query, pipeline: $event } })"
    />
    <span class="soft sums"
      ><template v-if="data"
        >{{ plainNumber(data.open) }} open ·
        <b class="num ink">{{ money(data.total.plain, data.total.currency) }}</b> · weighted
        <b class="num ink">{{ roughMoney(data.total.weighted, data.total.currency) }}</b><template
          v-if="data.total.missing.length"
        >
          · without {{ data.total.missing.join(', ') }}, which have no rate</template
        ></template
      ></span
    >
    <span class="right"
      ><NewButton what="deal" />
      <RouterLink v-if="session.may('settings.deals')" to="/settings/pipelines" class="word"
        >Stages</RouterLink
      ></span
    >
  </div>
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
    :pipeline="current"
    :chosen="chosen"
    :query="query"
  />
  <div v-else-if="data" ref="board" class="lanes">
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
      :stages="mayMove ? data.stages : []"
      :is-over="overStage === stage.id"
      @move="move"
      @shift="shift"
      @more="more(stage.id)"
    />
    <p v-if="mayMove" class="cap foot">
      Drag a deal to another lane, or press Shift with ↑ or ↓ on it. Its days in the stage start again.
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
  /* The title and the one strong action share the first line. */
  .bar {
    align-items: center;
  }
  .right {
    flex-direction: row-reverse;
    align-items: center;
  }
  .which,
  .sums {
    order: 1;
  }
  .which {
    flex: 1 0 50%;
  }
}
</style>
