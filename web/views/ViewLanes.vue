<script setup lang="ts">
import type { FoundRecord, QueryField } from '@emporikon/contract/queries';
import type { Comparison, Query } from '@emporikon/core/query/types';
import { rightOn } from '@emporikon/core/rights/kinds';
import { computed, defineAsyncComponent, ref, useTemplateRef } from 'vue';
import { useBulk } from '../bulk/useBulk';
import { useDragging } from '../kit/dragging';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { reloadOn } from '../shell/usePaged';
import { useUndo } from '../shell/undo';
import { isBulkKind, TABLES, type ViewedKind } from './kinds';
import { isMovable, moveTo } from './moves';
import { moveWork } from './moveWork';
import type { CardOf } from './useCards';
import ViewLane from './ViewLane.vue';

/** The records of a view in lanes by a field; a card dragged to another lane takes its value. */
const props = defineProps<{
  kind: ViewedKind;
  query: Query;
  by: QueryField;
  cardOf: CardOf;
  totalWords: (values: readonly (number | string | null)[] | undefined) => string;
}>();
const BulkDialog = defineAsyncComponent(() => import('../bulk/BulkDialog.vue'));
const bulk = useBulk();
const undo = useUndo();
const NONE = '';
const { data: totals, load } = useFetched(
  () =>
    api('POST /api/queries/totals', {
      body: { query: { ...props.query, groups: [{ field: props.by.key }] } as never },
    }),
  TABLES[props.kind],
);
reloadOn(() => [props.query, props.by.key], load);

interface LaneOf {
  value: string | null;
  title: string;
  condition: Comparison;
  count: number;
  sums: string;
}
const lanes = computed<LaneOf[]>(() => {
  const told = new Map(
    (totals.value?.items ?? []).filter(({ keys }) => keys.length).map((one) => [one.keys[0] ?? null, one]),
  );
  const lane = (value: string | null, title: string, condition: Comparison): LaneOf => ({
    ...{ value, title, condition },
    count: told.get(value)?.count ?? 0,
    sums: props.totalWords(told.get(value)?.totals),
  });
  const field = props.by.key;
  const known = (props.by.options ?? []).map(({ value, label }) =>
    lane(value, label, { field, op: 'is', value: [value] }),
  );
  const none = lane(null, `No ${props.by.label.toLowerCase()}`, { field, op: 'empty' });
  return none.count ? [none, ...known] : known;
});
const session = useSession();
const canMove = computed(
  () =>
    isMovable(props.kind, props.by.key) &&
    session.may(rightOn(props.kind, 'change')) &&
    (!isBulkKind(props.kind) || session.may(rightOn(props.kind, 'bulk'))),
);
const places = computed(() =>
  canMove.value ? lanes.value.map(({ value, title }) => ({ value: value ?? NONE, title })) : [],
);

/** The record that more has to be said of before it moves. */
const asking = ref<{ id: string; to: string; ask: 'parked' | 'dropped' } | null>(null);
async function move(id: string, to: string): Promise<void> {
  const { kind } = props;
  const countsAs = props.by.options?.find(({ value }) => value === to)?.countsAs;
  const wanted = moveTo(kind, props.by.key, to || null, countsAs);
  if (!wanted) return undo.tell({ text: 'It cannot be moved there by hand.', eventId: null, wrong: true });
  if ('work' in wanted) return moveOne(id, to, wanted);
  if ('ask' in wanted) asking.value = { id, ...wanted };
  else if (isBulkKind(kind)) await bulk.changeOne(kind, id, wanted.steps);
}
async function moveOne(id: string, to: string, wanted: Parameters<typeof moveWork>[1]): Promise<void> {
  try {
    const eventId = await moveWork(id, wanted);
    const { title = '' } = places.value.find(({ value }) => value === to) ?? {};
    undo.tell({ text: `Moved to ${title}.`, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
}

const root = useTemplateRef<HTMLElement>('root');
const over = ref<string | null>(null);
const laneOf = (elements: readonly Element[]): string | null =>
  elements.map((one) => one.closest<HTMLElement>('[data-lane]')).find(Boolean)?.dataset.lane ?? null;
useDragging(root, {
  item: '[data-card]',
  except: 'input, button, .v-field',
  move: (_item, elements) => (over.value = canMove.value ? laneOf(elements) : null),
  drop: (item, elements) => {
    const to = over.value === null ? null : laneOf(elements);
    const from = item.closest<HTMLElement>('[data-lane]')?.dataset.lane;
    over.value = null;
    if (to !== null && to !== from) void move(item.dataset.card ?? '', to);
  },
});
const moveRow = (row: FoundRecord, to: string): void => void move(row.id, to);
</script>

<template>
  <div ref="root" class="lanes" tabindex="0" role="group" :aria-label="`Lanes by ${by.label.toLowerCase()}`">
    <ViewLane
      v-for="lane in lanes"
      :key="`${by.key}/${lane.value}`"
      v-bind="lane"
      :kind="kind"
      :query="query"
      :is-over="over === (lane.value ?? NONE)"
      :card-of="cardOf"
      :lanes="places"
      @move="moveRow"
    />
    <BulkDialog
      v-if="asking && isBulkKind(kind)"
      :kind="kind"
      :ids="[asking.id]"
      :query="null"
      :count="1"
      :first="asking.ask === 'parked' ? 'parkedUntil' : 'dropReason'"
      :given="{ status: asking.to }"
      @close="asking = null"
    />
  </div>
</template>

<style scoped>
.lanes {
  display: flex;
  gap: 10px;
  align-items: stretch;
  min-height: 50vh;
  overflow-x: auto;
  padding-bottom: 12px;
}
@media (max-width: 700px) {
  .lanes {
    flex-direction: column;
    align-items: stretch;
  }
  .lanes :deep(.lane) {
    max-width: none;
  }
}
</style>
