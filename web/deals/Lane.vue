<script setup lang="ts">
import type { Board, DealRow, Stage } from '@emporikon/contract/deals';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { counted, money, plainNumber, roughMoney } from '../shell/format';
import { useMedia } from '../shell/browser';
import { cardWords } from './cardWords';
import { placeDeals } from './placing';
import { useVisibleRows } from './visible';

const props = defineProps<{
  stage: Board['stages'][number];
  deals: DealRow[];
  /** Whether there are further cards that are not here yet. */
  hasMore: boolean;
  /** Where its deals can go; none for who may not move them. */
  stages: Stage[];
  /** Whether a dragged card is over it. */
  isOver: boolean;
}>();
const emit = defineEmits<{
  move: [deal: DealRow, stageId: string];
  shift: [deal: DealRow, by: 1 | -1];
  more: [];
}>();
const isNarrow = useMedia('(max-width: 700px)');

/** Two lines of a name, and one below them. */
const ROW = 64;
const MOST_LISTED = 30;
const axis = ref<HTMLElement | null>(null);
const isWhole = ref(false);
/** The card somebody is at: only it has the list of where it can go, which would be much for thousands. */
const isWith = ref('');
const width = ref<number>();
const measurer = new ResizeObserver(
  ([entry]) => (width.value = Math.round(entry?.contentRect.width ?? 0) || undefined),
);
watch(axis, (now) => {
  measurer.disconnect();
  if (now) measurer.observe(now);
});
onBeforeUnmount(() => measurer.disconnect());
const places = computed(() => placeDeals(props.deals, props.stage.usualDays, width.value));
const rows = computed(() => places.value.reduce((most, one) => Math.max(most, one.row + 1), 1));
const visible = useVisibleRows(axis, rows, ROW);
/** The cards that are drawn: on a phone the first ones, else those in the rows on the screen. */
const drawn = computed(() => {
  if (isNarrow.value) return isWhole.value ? places.value : places.value.slice(0, MOST_LISTED);
  const { first, last } = visible.value;
  return places.value.filter((one) => one.row >= first && one.row <= last);
});
const sums = computed(() => props.stage.sums.map((sum) => money(sum.plain, sum.currency)).join(', '));
const asideOf = (deal: DealRow, isLate: boolean): string =>
  cardWords(deal, { isOpen: props.stage.kind === 'open', isLate });
const isBare = (deal: DealRow): boolean => !deal.nextMove && props.stage.kind === 'open';

const NEAR_END = 300;
/** Further cards are asked for before the end of those that are here is reached. */
function scrolled(event: Event): void {
  const { scrollTop, clientHeight, scrollHeight } = event.target as HTMLElement;
  if (props.hasMore && scrollTop + clientHeight > scrollHeight - NEAR_END) emit('more');
}

function press(event: KeyboardEvent, deal: DealRow): void {
  if (!event.shiftKey || (event.key !== 'ArrowDown' && event.key !== 'ArrowUp')) return;
  event.preventDefault();
  emit('shift', deal, event.key === 'ArrowDown' ? 1 : -1);
}
</script>

<template>
  <section
    class="lane"
    :class="{ over: isOver }"
    :aria-label="stage.name"
    :data-lane="stage.name"
    :data-stage="stage.id"
  >
    <div class="label">
      <h2>{{ stage.kind === 'won' ? `${stage.name} this month` : stage.name }}</h2>
      <span class="cap num"
        >{{ plainNumber(stage.count)
        }}<template v-if="stage.count">
          ·
          <span :title="stage.sums.length > 1 ? sums : undefined">{{
            money(stage.total.plain, stage.total.currency)
          }}</span></template
        ><template v-if="stage.kind === 'open'"> · {{ stage.usualChance }}%</template></span
      >
      <span v-if="stage.kind === 'open' && stage.count" class="cap num"
        >weighted {{ roughMoney(stage.total.weighted, stage.total.currency) }}</span
      >
    </div>
    <div class="scroller" @scroll.passive="scrolled">
      <div ref="axis" class="axis" :style="isNarrow ? {} : { minHeight: `${rows * ROW + 22}px` }">
        <i
          v-for="week in 8"
          :key="week"
          class="week"
          :style="{ left: `calc((100% - 184px) * ${(week - 1) / 7})` }"
        ></i>
        <i
          v-if="stage.kind === 'open'"
          class="typical"
          :style="{ left: `calc((100% - 184px) * ${Math.min(stage.usualDays, 49) / 49})` }"
          ><span>typical {{ counted(stage.usualDays, 'day') }}</span></i
        >
        <article
          v-for="{ deal, share, row, isLate } in drawn"
          :key="deal.id"
          v-memo="[deal, row, share, isLate, isNarrow, isWith === deal.id, stages]"
          class="deal"
          :class="[deal.turn.turn, { stuck: isLate && stage.kind === 'open' }]"
          :data-deal="deal.id"
          :style="isNarrow ? {} : { left: `calc((100% - 184px) * ${share})`, top: `${row * ROW + 7}px` }"
          @pointerenter="isWith = deal.id"
          @focusin="isWith = deal.id"
        >
          <RouterLink
            :to="`/deals/${deal.id}`"
            aria-keyshortcuts="Shift+ArrowDown Shift+ArrowUp"
            draggable="false"
            :title="deal.news?.sentence ?? undefined"
            @keydown="press($event, deal)"
            ><b>{{ deal.title }}</b></RouterLink
          >
          <div class="r">
            <span :class="{ none: isBare(deal) && !deal.news?.sentence }">{{ asideOf(deal, isLate) }}</span>
            <span class="num">{{ money(deal.amountMinor, deal.currency) }}</span>
          </div>
          <v-select
            v-if="stages.length && (isNarrow || isWith === deal.id)"
            class="to"
            :model-value="stage.id"
            :aria-label="`Move ${deal.title} to`"
            :items="stages"
            item-value="id"
            item-title="name"
            @update:model-value="emit('move', deal, $event)"
          />
        </article>
        <v-btn
          v-if="isNarrow && !isWhole && places.length > MOST_LISTED"
          class="quiet"
          @click="isWhole = true"
          >Show all {{ places.length }}</v-btn
        >
      </div>
      <v-btn
        v-if="hasMore && (isWhole || !isNarrow || places.length <= MOST_LISTED)"
        class="quiet"
        @click="emit('more')"
        >{{ deals.length }} of {{ plainNumber(stage.count) }} shown; show more</v-btn
      >
    </div>
  </section>
</template>

<style scoped>
.lane {
  flex: 1 0 auto;
  contain: layout style;
  display: grid;
  grid-template-columns: 170px 1fr;
  border-top: 1px solid var(--rule);
}
.lane.over {
  background: var(--lit);
}
.label {
  padding: 8px 12px 0 0;
}
.scroller {
  display: flex;
  flex-direction: column;
  max-height: 70vh;
  overflow-y: auto;
  overscroll-behavior: auto;
}
.axis {
  position: relative;
  flex: 1 0 auto;
}
.week {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 1px;
  background: var(--rule2);
}
.typical {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: repeating-linear-gradient(var(--theirs) 0 2px, transparent 2px 5px);
}
.typical span {
  position: absolute;
  left: 5px;
  bottom: 2px;
  font-size: 11px;
  color: var(--theirs);
  white-space: nowrap;
}
.deal {
  position: absolute;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-bottom: 2px solid var(--soft);
  padding: 4px 9px 3px;
  width: 184px;
  height: 59px;
  line-height: 1.3;
  font-size: 13px;
  border-radius: 2px;
  contain: strict;
  cursor: grab;
  user-select: none;
  -webkit-touch-callout: none;
}
.deal.dragged {
  opacity: 0.45;
}
.deal a {
  text-decoration: none;
}
.deal b {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
  height: 34px;
}
.deal.ours {
  border-bottom-color: var(--ours);
}
.deal.theirs {
  border-bottom-color: var(--theirs);
}
.deal.stuck {
  border-color: var(--wait-line);
}
.r {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  color: var(--soft);
}
.r span:first-child {
  overflow: clip;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.none {
  color: var(--wait);
}
.to {
  position: absolute;
  right: 2px;
  top: 2px;
  width: 24px;
  height: 24px;
  opacity: 0;
  border: 1px solid var(--rule);
  background: var(--sheet);
  color: var(--ink);
  font: 13px var(--ui);
  cursor: pointer;
}
.to:focus-visible,
.deal:hover .to {
  opacity: 1;
}
@media (max-width: 700px) {
  .scroller {
    max-height: none;
  }
  .lane {
    grid-template-columns: 1fr;
    padding-bottom: 8px;
  }
  .typical,
  .week {
    display: none;
  }
  .deal {
    position: relative;
    contain: layout style;
    width: auto;
    margin: 6px 0;
    padding-right: 56px;
  }
  .deal a {
    display: block;
    padding-block: 6px;
    margin-block: -6px;
  }
  .to {
    opacity: 1;
    top: 5px;
    right: 5px;
    width: 44px;
    height: 44px;
  }
  .to :deep(.v-select__selection) {
    display: none;
  }
}
</style>
