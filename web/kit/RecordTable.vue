<script setup lang="ts" generic="Row extends { id: string }">
import { computed, ref, type VNode } from 'vue';
import { useMedia, useStored } from '../shell/browser';
import { useDragging } from './dragging';
import {
  arranged,
  moveColumn,
  nextSort,
  resizeColumn,
  type Arrangement,
  type Column,
  type Heading,
} from './table/columns';
import ColumnsMenu from './table/ColumnsMenu.vue';
import SortChoice from './table/SortChoice.vue';
import TableBody from './table/TableBody.vue';
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
  /** Whether records have changed that are shown as they were. */
  isOld?: boolean;
  /** What a row is called, for who selects it. */
  nameOf: (row: Row) => string;
  /** Where a row leads; nowhere for an empty address. */
  to?: (row: Row) => string;
  /** The page says which columns there are, and not each device. */
  isFixed?: boolean;
  /** The headings that stand before a row, outermost first, given the row before it. */
  headings?: (row: Row, before: Row | null) => Heading[];
  /** Whether letters that are typed are looked for. */
  isTyped?: boolean;
}>();
const emit = defineEmits<{ more: []; retry: []; typed: [letters: string] }>();
const sort = defineModel<string>('sort', { default: '' });
const direction = defineModel<'asc' | 'desc'>('direction', { default: 'asc' });
const selected = defineModel<string[]>('selected');

const slots = defineSlots<{
  [cell: `cell-${string}`]: (shown: { row: Row }) => VNode[];
  cell?: (shown: { row: Row; column: Column }) => VNode[];
  head?: (shown: { column: Column }) => VNode[];
  heading?: (shown: { heading: Heading; row: Row }) => VNode[];
  foot?: (shown: { column: Column }) => VNode[];
  tools?: () => VNode[];
  empty?: () => VNode[];
}>();
/** Where its columns would be cut, a row is a card. */
const isNarrow = useMedia('screen and (max-width: 900px)');
const kept = useStored<Arrangement>(`emporikon.columns.${props.name}`, {});
const box = ref<HTMLElement | null>(null);
const shown = computed(() => (props.isFixed ? props.columns : arranged(props.columns, kept.value)));
/** Made once a page, and not with every row that comes onto the screen. */
const ids = computed(() => (props.rows ?? []).map(({ id }) => id));
/** The next page is asked for before the end of this one is reached. */
const askForMore = (): void => {
  if (props.hasMore && !props.error) emit('more');
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
    <p v-if="isOld" role="status">
      Records have changed since this list was loaded.
      <v-btn class="word" @click="emit('retry')">Load it again</v-btn>
    </p>
    <p v-if="error" class="wrong" role="alert">
      {{ error }} <v-btn class="word" @click="emit('retry')">Try again</v-btn>
    </p>
    <v-table v-if="rows?.length" class="book" :aria-label="label">
      <colgroup>
        <col v-if="selected" style="width: 30px" />
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
      <TableBody
        v-model:selected="selected"
        :rows="rows"
        :columns="shown"
        :slots="slots"
        :name-of="nameOf"
        :to="to"
        :headings="headings"
        :is-typed="isTyped"
        :is-narrow="isNarrow"
        @near-end="askForMore"
        @typed="emit('typed', $event)"
      />
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
