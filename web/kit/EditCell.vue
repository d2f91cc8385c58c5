<script setup lang="ts">
import type { ZodType } from 'zod';
import { computed, nextTick, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue';
import { useFieldPresence } from '../presence/usePresence';
import { editingWords } from '../presence/words';
import { ApiProblem } from '../shell/api';
import { decimalMark } from '../shell/format';
import { typedNumber } from '../shell/typedNumber';
import { useUndo } from '../shell/undo';
import { useDraft } from '../shell/useDraft';
import ClashChoice from './ClashChoice.vue';
import EditField from './EditField.vue';
import type { CellKind, CellOption } from './cells';

/**
 * A value that is edited where it stands: pressed, it becomes a field; Enter, Save or leaving the field saves it over the
 * version it was read at; Escape or Cancel leaves it. When somebody else saved first, both values are there to choose from.
 */
const props = withDefaults(
  defineProps<{
    /** The value as it is edited; several values stand a line each. */
    value: string | number | null;
    label: string;
    /** Saves the text over a version; without it the value can only be read. */
    save?: ((text: string, version: number) => Promise<unknown>) | undefined;
    kind?: CellKind;
    /** The value as it is read, where that is another. */
    shown?: string | undefined;
    placeholder?: string;
    disabled?: boolean;
    options?: readonly CellOption[];
    currency?: string;
    /** A sentence below the field. */
    help?: string;
    /** Checks the text before it is sent; of the contract, where the field is sent as text. */
    schema?: ZodType;
    /** The version of the record; left out, that of the page's record. */
    version?: number | undefined;
    /** The name of the field in the record, to find the other value in a clash. */
    field?: string;
    /** The value as the server holds it, where that is not the text that is edited. */
    stored?: unknown;
    /** How a value of the server is written for people. */
    format?: (value: unknown) => string;
  }>(),
  { kind: 'text', placeholder: 'Add' },
);
const undo = useUndo();
const form = useTemplateRef('form');
const wrong = ref('');
const { text, isEditing, clash, begin, keep, putMine, keepTheirs, cancel } = useDraft({
  value: () => String(props.value ?? ''),
  ...(props.version === undefined ? {} : { version: () => props.version }),
  stored: () => props.stored ?? props.value,
  save: async (typed, version) => {
    const done = await props.save?.(
      props.kind === 'number' ? typedNumber(typed, decimalMark()) : typed,
      version,
    );
    if (done instanceof ApiProblem) throw done;
  },
  theirs: (record) => (props.field ? record[props.field] : undefined),
  fail: (error) => undo.fail(error),
});

const presence = useFieldPresence();
/** Who else edits this very field. */
const elsewhere = computed(() => editingWords(presence.others.value, props.label));
watch(isEditing, (editing) => presence.edit(editing ? props.label : null));
onBeforeUnmount(() => isEditing.value && presence.edit(null));

function edit(): void {
  wrong.value = '';
  begin();
  void nextTick(() => {
    const field = form.value?.querySelector<HTMLInputElement>('input, textarea');
    field?.focus();
    field?.select();
  });
}

async function settle(): Promise<void> {
  if (!isEditing.value) return;
  const checked = props.schema?.safeParse(text.value.trim());
  wrong.value = checked?.success === false ? (checked.error.issues[0]?.message ?? 'Not valid') : '';
  if (!wrong.value) await keep();
}

/** Leaving the field saves, unless the focus goes to its own buttons or to a list that it opened. */
function leave(event: FocusEvent): void {
  const to = event.relatedTarget as HTMLElement | null;
  if (!to?.closest('.v-overlay') && !form.value?.contains(to)) void settle();
}
</script>

<template>
  <form
    v-if="isEditing"
    ref="form"
    class="editing"
    @submit.prevent="settle"
    @focusout="leave"
    @keydown.esc.stop.prevent="cancel"
  >
    <EditField
      v-model="text"
      :kind="kind"
      :label="label"
      :options="options"
      :currency="currency"
      :help="help"
      :error="wrong"
      @settle="settle"
    />
    <span class="do" @mousedown.prevent>
      <v-btn class="word on" type="submit">Save</v-btn>
      <v-btn class="word" @click="cancel">Cancel</v-btn>
    </span>
  </form>
  <v-btn
    v-else-if="save && !disabled && presence.mayChange()"
    class="plain cell"
    :aria-label="`${label}: ${(shown ?? value) || placeholder}, change`"
    @click="edit"
  >
    <span v-if="value !== null && value !== ''">{{ shown ?? value }}</span><span v-else class="soft">{{
      placeholder
    }}</span>
  </v-btn>
  <slot v-else name="reading"
    ><span>{{ shown ?? value }}</span></slot
  >
  <span v-if="elsewhere" class="elsewhere" role="status">{{ elsewhere }}</span>
  <ClashChoice
    v-if="clash"
    :theirs="clash.theirs"
    :mine="text"
    :format="format"
    @theirs="keepTheirs"
    @mine="putMine"
  />
</template>

<style scoped>
.editing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 8px;
  min-width: 96px;
}
.editing > :first-child {
  flex: 1 1 110px;
}
.do {
  display: inline-flex;
  gap: 10px;
}
.cell {
  min-width: 24px;
  max-width: 100%;
  overflow-wrap: anywhere;
}
.elsewhere {
  display: block;
  color: var(--wait);
  font-size: 12px;
}
.cell:hover {
  text-decoration: underline;
  text-decoration-color: var(--rule);
  text-underline-offset: 3px;
}
</style>
