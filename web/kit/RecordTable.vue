<script setup lang="ts" generic="Row extends { id: string }">
import { useWindowVirtualizer } from '@tanstack/vue-virtual';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useMedia, useStored } from '../shell/browser';
import { useDragging } from './dragging';
import { useTypedLetters } from './table/typedLetters';
import { arranged, moveColumn, nextSort, resizeColumn, type Arrangement, type Column } from './table/columns';
import ColumnsMenu from './table/ColumnsMenu.vue';
import SortChoice from './table/SortChoice.vue';
import TickAll from './TickAll.vue';

/**
 * A list of records as a table: the server gives it in pages and in order, only the rows on the screen are drawn, and its
 * columns are arranged by everybody for themselves. A cell is the slot `cell-<key>`, or the text of that field.
 */
const props = defineProps<{
  /** What the arrangement of its columns is kept as. */
  name: string;
  label: string;
  columns: Column[];
  /** Null until the first page is here. */
  rows: Row[] | null;
  error?: string;
  hasMore?: boolean;
  /** What a row is called, for who selects it. */
  nameOf: (row: Row) => string;
  /** Where a row leads; nowhere for an empty address. */
  to?: (row: Row) => string;
  /** The page says which columns there are, and not each device. */
  isFixed?: boolean;
  /** The headings that stand before a row, outermost first, given the row before it. */
  headings?: (row: Row, before: Row | null) => { level: number; key: string }[];
  /** Whether letters that are typed are looked for. */
  isTyped?: boolean;
}>();
const emit = defineEmits<{ more: []; retry: []; typed: [letters: string] }>();
const sort = defineModel<string>('sort', { default: '' });
const direction = defineModel<'asc' | 'desc'>('direction', { default: 'asc' });
const selected = defineModel<string[]>('selected');

/** A row is as high as recordTable.css makes it; a card as its text wraps. */
const [ROW_HEIGHT, CARD_HEIGHT, HEADING_HEIGHT, NEAR_END] = [36, 90, 36, 15];
const router = useRouter();
/** Where its columns would be cut, a row is a card. */
const isNarrow = useMedia('screen and (max-width: 900px)');
const kept = useStored<Arrangement>(`emporikon.columns.${props.name}`, {});
const box = ref<HTMLElement | null>(null);
const shown = computed(() => (props.isFixed ? props.columns : arranged(props.columns, kept.value)));
/** Made once a page, and not with every row that comes onto the screen. */
const ids = computed(() => (props.rows ?? []).map(({ id }) => id));
const ticked = computed(() => new Set(selected.value));
const isSelectable = computed(() => selected.value !== undefined);
const span = computed(() => shown.value.length + (isSelectable.value ? 1 : 0));
const count = computed(() => props.rows?.length ?? 0);
const headingsAt = (at: number): { level: number; key: string }[] => {
  const row = props.rows?.[at];
  return row && props.headings ? props.headings(row, props.rows?.[at - 1] ?? null) : [];
};
const top = ref(0);
const rowsOf = useWindowVirtualizer(
  computed(() => ({
    count: count.value,
    estimateSize: (at: number) =>
      (isNarrow.value ? CARD_HEIGHT : ROW_HEIGHT) + headingsAt(at).length * HEADING_HEIGHT,
    overscan: 20,
    scrollMargin: top.value,
    getItemKey: (at: number) => props.rows?.[at]?.id ?? at,
  })),
);
/** On paper stand all the rows that are here. */
const isPrinted = useMedia('print');
const drawn = computed(() => {
  if (isPrinted.value) return (props.rows ?? []).map((row, at) => ({ row, at, start: 0, end: 0 }));
  return rowsOf.value.getVirtualItems().flatMap((item) => {
    const row = props.rows?.[item.index];
    return row ? [{ row, at: item.index, start: item.start, end: item.end }] : [];
  });
});
const before = computed(() => Math.max(0, (drawn.value[0]?.start ?? top.value) - top.value));
const after = computed(() =>
  isPrinted.value
    ? 0
    : Math.max(0, rowsOf.value.getTotalSize() - (drawn.value.at(-1)?.end ?? top.value) + top.value),
);
const place = (): void => {
  const body = box.value?.querySelector('tbody');
  if (body) top.value = body.getBoundingClientRect().top + window.scrollY;
};
onMounted(place);
watch(
  () => props.rows === null,
  () => void nextTick(place),
);
/** The next page is asked for before the end of this one is reached. */
watch([() => drawn.value.at(-1)?.at ?? 0, () => props.rows], ([last]) => {
  if (props.hasMore && !props.error && !isPrinted.value && last >= count.value - NEAR_END) emit('more');
});

const textOf = (row: Row, key: string): string => {
  const value = (row as Record<string, unknown>)[key];
  return typeof value === 'string' || typeof value === 'number' ? String(value) : '';
};

function turn(column: Column): void {
  ({ sort: sort.value, direction: direction.value } = nextSort(column, {
    sort: sort.value,
    direction: direction.value,
  }));
}
const isRising = (column: Column): boolean => (direction.value === 'asc') !== (column.isReversed ?? false);
const sortOf = (column: Column): 'ascending' | 'descending' | 'none' | undefined => {
  if (!column.sort) return undefined;
  if (column.sort !== sort.value) return 'none';
  return isRising(column) ? 'ascending' : 'descending';
};

/** The row the keys are at. */
const active = ref(0);
watch(count, (rows) => (active.value = Math.min(active.value, Math.max(0, rows - 1))));
const MOST_FRAMES = 30;
/** The row is drawn some frames after it was scrolled to. */
function focusRow(frames = 0): void {
  const row = box.value?.querySelector<HTMLElement>(`tr[data-index="${active.value}"]`);
  if (row) row.focus({ preventScroll: true });
  else if (frames < MOST_FRAMES) requestAnimationFrame(() => focusRow(frames + 1));
}
function goTo(at: number): void {
  active.value = Math.max(0, Math.min(count.value - 1, at));
  rowsOf.value.scrollToIndex(active.value, { align: 'auto' });
  requestAnimationFrame(() => focusRow());
}
function select(row: Row): void {
  if (!selected.value) return;
  selected.value = ticked.value.has(row.id)
    ? selected.value.filter((id) => id !== row.id)
    : [...selected.value, row.id];
}
const letters = useTypedLetters((text) => emit('typed', text));
function press(event: KeyboardEvent, row: Row, at: number): void {
  const target = event.target as HTMLElement;
  const isRow = target === event.currentTarget;
  if (!isRow && target.closest('input, [role="combobox"]')) return;
  const STEPS: Record<string, number> = {
    ArrowDown: at + 1,
    ArrowUp: at - 1,
    PageDown: at + 15,
    PageUp: at - 15,
    Home: 0,
    End: count.value - 1,
  };
  const next = STEPS[event.key];
  if (next !== undefined) goTo(next);
  else if (isRow && props.isTyped && letters.take(event)) event.stopPropagation();
  else if (isRow && event.key === ' ' && selected.value) select(row);
  else if (isRow && event.key === 'Enter' && props.to?.(row)) void router.push(props.to(row));
  else return;
  event.preventDefault();
}

/** A grip moved by pixels gives the column its share of them. */
function resize(event: PointerEvent, column: Column): void {
  const grip = event.currentTarget as HTMLElement;
  const total = shown.value.reduce((sum, { width }) => sum + width, 0);
  const pixels = box.value?.clientWidth ?? 1;
  const from = kept.value;
  const start = event.clientX;
  grip.setPointerCapture(event.pointerId);
  const follow = ({ clientX }: PointerEvent): void => {
    kept.value = resizeColumn(props.columns, from, column.key, ((clientX - start) / pixels) * total);
  };
  const end = (): void => {
    grip.removeEventListener('pointermove', follow);
    grip.removeEventListener('pointerup', end);
    grip.removeEventListener('pointercancel', end);
  };
  grip.addEventListener('pointermove', follow);
  grip.addEventListener('pointerup', end);
  grip.addEventListener('pointercancel', end);
}
useDragging(box, {
  item: 'th[data-column]',
  except: '.grip',
  drop: (head, over) => {
    const onto = over.flatMap((element) => element.closest<HTMLElement>('th[data-column]') ?? [])[0];
    const [key, place] = [head.dataset.column, onto?.dataset.column];
    if (key && place) kept.value = moveColumn(props.columns, kept.value, key, place);
  },
});
</script>

<template>
  <div ref="box" class="record-table" :class="{ cards: isNarrow }">
    <div class="tools">
      <slot name="tools" />
      <template v-if="rows?.length">
        <SortChoice
          v-if="isNarrow && !isFixed"
          v-model:sort="sort"
          v-model:direction="direction"
          :columns="columns"
        />
        <ColumnsMenu v-else-if="!isFixed" v-model="kept" :columns="columns" />
      </template>
    </div>
    <p v-if="error" class="wrong" role="alert">
      {{ error }} <v-btn class="word" @click="emit('retry')">Try again</v-btn>
    </p>
    <v-table v-if="rows?.length" class="book" :aria-label="label">
      <colgroup>
        <col v-if="isSelectable" style="width: 30px" />
        <col v-for="column in shown" :key="column.key" :style="{ width: `${column.width}%` }" />
      </colgroup>
      <thead>
        <tr>
          <TickAll v-if="selected" v-model="selected" :ids="ids" />
          <th
            v-for="column in shown"
            :key="column.key"
            scope="col"
            :class="{ num: column.isNumber }"
            :data-column="column.key"
            :aria-sort="sortOf(column)"
          >
            <slot name="head" :column="column"
              ><v-btn v-if="column.sort" class="plain head" @click="turn(column)"
                >{{ column.title
                }}<span v-if="column.sort === sort" aria-hidden="true">{{
                  isRising(column) ? ' ↑' : ' ↓'
                }}</span></v-btn
              ><template v-else>{{ column.title }}</template></slot
            >
            <span
              v-if="!isFixed"
              class="grip"
              aria-hidden="true"
              @pointerdown.prevent.stop="resize($event, column)"
            ></span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="before" aria-hidden="true" class="gap">
          <td :colspan="span" :style="{ height: `${before}px` }"></td>
        </tr>
        <template v-for="{ row, at } in drawn" :key="row.id">
          <tr
            v-for="heading in headingsAt(at)"
            :key="heading.key"
            class="heading"
            :data-level="heading.level"
          >
            <td :colspan="span"><slot name="heading" :heading="heading" :row="row" /></td>
          </tr>
          <tr
            :ref="(element) => isNarrow && rowsOf.measureElement(element as Element)"
            :data-index="at"
            :tabindex="at === active ? 0 : -1"
            :class="{ selected: ticked.has(row.id) }"
            @focus="active = at"
            @keydown="press($event, row, at)"
          >
            <td v-if="selected" class="tickbox">
              <v-checkbox-btn
                :model-value="ticked.has(row.id)"
                :aria-label="`Select ${nameOf(row)}`"
                tabindex="-1"
                @update:model-value="select(row)"
              />
            </td>
            <td
              v-for="column in shown"
              :key="column.key"
              :class="{ num: column.isNumber, name: column.isName, fact: column.onPhone }"
            >
              <slot :name="`cell-${column.key}`" :row="row"
                ><slot name="cell" :row="row" :column="column">{{ textOf(row, column.key) }}</slot></slot
              >
            </td>
          </tr>
        </template>
        <tr v-if="after" aria-hidden="true" class="gap">
          <td :colspan="span" :style="{ height: `${after}px` }"></td>
        </tr>
      </tbody>
      <tfoot v-if="$slots.foot">
        <tr>
          <td v-if="selected"></td>
          <td v-for="column in shown" :key="column.key" :class="{ num: column.isNumber }">
            <slot name="foot" :column="column" />
          </td>
        </tr>
      </tfoot>
    </v-table>
    <slot v-else-if="rows" name="empty" />
    <div v-else-if="!error" aria-label="Loading" role="status">
      <span v-for="n in 8" :key="n" class="ghost"></span>
    </div>
    <p v-if="hasMore && rows?.length" class="soft more" role="status">
      {{ error ? 'The rest could not be loaded.' : 'Loading more …' }}
    </p>
  </div>
</template>

<style scoped src="./table/recordTable.css"></style>
