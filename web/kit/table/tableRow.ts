import { defineComponent, h, type PropType, type Slots, type VNodeChild } from 'vue';
import { VCheckboxBtn } from 'vuetify/components';
import type { Column } from './columns';
import { useTurn } from './inTurn';

/** What a cell of a table shows where its page says nothing else: the field of the row of that name. */
function textOf(row: { id: string }, key: string): string {
  const value = (row as Record<string, unknown>)[key];
  return typeof value === 'string' || typeof value === 'number' ? String(value) : '';
}

/**
 * One row of a table. It is given the slots of the page and asks them itself, so that it is drawn again when something of its
 * own changes, and not whenever another row comes onto the screen.
 */
export default defineComponent({
  name: 'TableRow',
  props: {
    row: { type: Object as PropType<{ id: string }>, required: true },
    /** Its place among all rows. */
    at: { type: Number, required: true },
    name: { type: String, required: true },
    columns: { type: Array as PropType<readonly Column[]>, required: true },
    /** `cell-<key>` for one column, or `cell` for any. */
    slots: { type: Object as PropType<Slots>, required: true },
    /** Null where rows cannot be selected. */
    isTicked: { type: [Boolean, null] as PropType<boolean | null>, required: true },
    isActive: Boolean,
    isMoving: { type: Function as PropType<() => boolean>, required: true },
  },
  emits: { tick: (id: string) => Boolean(id) },
  setup(props, { emit }) {
    const mayDraw = useTurn(props.isMoving);
    const cellOf = (column: Column): VNodeChild =>
      props.slots[`cell-${column.key}`]?.({ row: props.row }) ??
      props.slots.cell?.({ row: props.row, column }) ??
      textOf(props.row, column.key);
    const tickbox = (): VNodeChild =>
      h('td', { class: 'tickbox' }, [
        mayDraw.value
          ? h(VCheckboxBtn, {
              modelValue: props.isTicked,
              'aria-label': `Select ${props.name}`,
              tabindex: -1,
              'onUpdate:modelValue': () => emit('tick', props.row.id),
            })
          : h('span', { class: 'to-come' }),
      ]);
    return () =>
      h(
        'tr',
        {
          'data-index': props.at,
          tabindex: props.isActive ? 0 : -1,
          class: { selected: props.isTicked },
        },
        [
          props.isTicked === null ? null : tickbox(),
          ...props.columns.map((column) =>
            h(
              'td',
              {
                key: column.key,
                class: { num: column.isNumber, name: column.isName, fact: column.onPhone },
              },
              [cellOf(column)],
            ),
          ),
        ],
      );
  },
});
