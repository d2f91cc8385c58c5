<script setup lang="ts" generic="Row extends { id: string }">
import { useWindowVirtualizer } from '@tanstack/vue-virtual';
import {
  computed,
  onMounted,
  ref,
  useTemplateRef,
  watch,
  type ComponentPublicInstance,
  type FunctionalComponent,
  type Slots,
} from 'vue';
import { useRouter } from 'vue-router';
import { useMedia } from '../../shell/browser';
import type { Column, Heading } from './columns';
import TableRow from './tableRow';
import { useTypedLetters } from './typedLetters';

/** The rows of a table of records. Only those on the screen are drawn, and the keys go from one to the next. */
const props = defineProps<{
  rows: Row[];
  columns: Column[];
  /** Those of the page, for its cells and headings. */
  slots: Slots;
  nameOf: (row: Row) => string;
  to?: ((row: Row) => string) | undefined;
  headings?: ((row: Row, before: Row | null) => Heading[]) | undefined;
  isTyped?: boolean;
  /** Whether a row is a card. */
  isNarrow: boolean;
}>();
const emit = defineEmits<{ nearEnd: []; typed: [letters: string] }>();
const selected = defineModel<string[]>('selected');

/** A row is as high as recordTable.css makes it; a card as its text wraps. */
const [ROW_HEIGHT, CARD_HEIGHT, HEADING_HEIGHT, NEAR_END, AROUND] = [36, 90, 36, 60, 6];
const router = useRouter();
const body = useTemplateRef('body');
const ticked = computed(() => new Set(selected.value));
const isSelectable = computed(() => selected.value !== undefined);
const span = computed(() => props.columns.length + (isSelectable.value ? 1 : 0));
const count = computed(() => props.rows.length);
const headingsAt = (
  at: number,
  { rows, headings }: Pick<typeof props, 'rows' | 'headings'> = props,
): Heading[] => {
  const row = rows[at];
  return row && headings ? headings(row, rows[at - 1] ?? null) : [];
};
const HeadingOf: FunctionalComponent<{ heading: Heading; row: Row }> = (shown) =>
  props.slots.heading?.(shown);
const top = ref(0);
const rowsOf = useWindowVirtualizer(
  computed(() => {
    // It asks about every row whenever their number changes: of the rows themselves, and not of what watches them.
    const { rows, headings } = props;
    const height = props.isNarrow ? CARD_HEIGHT : ROW_HEIGHT;
    return {
      count: rows.length,
      estimateSize: (at: number) => height + headingsAt(at, { rows, headings }).length * HEADING_HEIGHT,
      overscan: AROUND,
      scrollMargin: top.value,
      getItemKey: (at: number) => rows[at]?.id ?? at,
    };
  }),
);
const isMoving = (): boolean => rowsOf.value.isScrolling;
/** On paper stand all the rows that are here. */
const isPrinted = useMedia('print');
const drawn = computed(() => {
  if (isPrinted.value) return props.rows.map((row, at) => ({ row, at, start: 0, end: 0 }));
  return rowsOf.value.getVirtualItems().flatMap((item) => {
    const row = props.rows[item.index];
    return row ? [{ row, at: item.index, start: item.start, end: item.end }] : [];
  });
});
const before = computed(() => Math.max(0, (drawn.value[0]?.start ?? top.value) - top.value));
const after = computed(() =>
  isPrinted.value
    ? 0
    : Math.max(0, rowsOf.value.getTotalSize() - (drawn.value.at(-1)?.end ?? top.value) + top.value),
);
onMounted(() => {
  if (body.value) top.value = body.value.getBoundingClientRect().top + window.scrollY;
});
watch([() => drawn.value.at(-1)?.at ?? 0, () => props.rows], ([last]) => {
  if (!isPrinted.value && last >= count.value - NEAR_END) emit('nearEnd');
});
const measure = (row: unknown): void => {
  if (props.isNarrow) rowsOf.value.measureElement((row as ComponentPublicInstance | null)?.$el as Element);
};

/** The row the keys are at. */
const active = ref(0);
watch(count, (rows) => (active.value = Math.min(active.value, Math.max(0, rows - 1))));
const MOST_FRAMES = 30;
/** The row is drawn some frames after it was scrolled to. */
function focusRow(frames = 0): void {
  const row = body.value?.querySelector<HTMLElement>(`tr[data-index="${active.value}"]`);
  if (row) row.focus({ preventScroll: true });
  else if (frames < MOST_FRAMES) requestAnimationFrame(() => focusRow(frames + 1));
}
function goTo(at: number): void {
  active.value = Math.max(0, Math.min(count.value - 1, at));
  rowsOf.value.scrollToIndex(active.value, { align: 'auto' });
  requestAnimationFrame(() => focusRow());
}
function tick(id: string): void {
  if (!selected.value) return;
  selected.value = ticked.value.has(id)
    ? selected.value.filter((one) => one !== id)
    : [...selected.value, id];
}
const letters = useTypedLetters((text) => emit('typed', text));
/** The place of the row that something happened in, and whether it was the row itself. */
function placeOf(event: Event): { at: number; isRow: boolean } | null {
  const target = event.target as HTMLElement;
  const row = target.closest<HTMLElement>('tr[data-index]');
  return row ? { at: Number(row.dataset.index), isRow: row === target } : null;
}
function follow(event: FocusEvent): void {
  const place = placeOf(event);
  if (place?.isRow) active.value = place.at;
}
function press(event: KeyboardEvent): void {
  const place = placeOf(event);
  const row = place && props.rows[place.at];
  if (!place || !row) return;
  const { at, isRow } = place;
  if (!isRow && (event.target as HTMLElement).closest('input, [role="combobox"]')) return;
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
  else if (isRow && event.key === ' ' && selected.value) tick(row.id);
  else if (isRow && event.key === 'Enter' && props.to?.(row)) void router.push(props.to(row));
  else return;
  event.preventDefault();
}
</script>

<template>
  <tbody ref="body" @focusin="follow" @keydown="press">
    <tr v-if="before" aria-hidden="true" class="gap">
      <td :colspan="span" :style="{ height: `${before}px` }"></td>
    </tr>
    <template v-for="{ row, at } in drawn" :key="row.id">
      <tr v-for="heading in headingsAt(at)" :key="heading.key" class="heading" :data-level="heading.level">
        <td :colspan="span"><HeadingOf :heading="heading" :row="row" /></td>
      </tr>
      <TableRow
        :ref="measure"
        :row="row"
        :at="at"
        :name="nameOf(row)"
        :columns="columns"
        :slots="slots"
        :is-ticked="isSelectable ? ticked.has(row.id) : null"
        :is-active="at === active"
        :is-moving="isMoving"
        @tick="tick"
      />
    </template>
    <tr v-if="after" aria-hidden="true" class="gap">
      <td :colspan="span" :style="{ height: `${after}px` }"></td>
    </tr>
  </tbody>
</template>
