<script setup lang="ts">
import { ApiProblem } from './api';
import { useUndo } from './undo';
import { useDraft } from './useDraft';

/**
 * A value edited in place in a table or sheet; it is saved when it has been changed, over the version it was read at.
 * Further attributes go to the input.
 */
const props = defineProps<{
  value: string | number;
  label: string;
  disabled: boolean;
  version?: number;
  /** The name of the field in the record, to find the other value in a clash. */
  field?: string;
  save: (text: string, version: number) => Promise<unknown>;
}>();
defineOptions({ inheritAttrs: false });
const undo = useUndo();
const { text, isEditing, clash, begin, keep, putMine, keepTheirs, cancel } = useDraft({
  value: () => String(props.value),
  version: () => props.version,
  stored: () => props.value,
  save: async (typed, version) => {
    const done = await props.save(typed, version);
    if (done instanceof ApiProblem) throw done;
  },
  theirs: (record) => (props.field ? record[props.field] : undefined),
  fail: (error) => undo.fail(error),
});
</script>

<template>
  <input
    v-bind="$attrs"
    class="inline-edit"
    :value="isEditing || clash ? text : value"
    :disabled="disabled"
    :aria-label="label"
    @focus="begin"
    @input="text = ($event.target as HTMLInputElement).value"
    @keydown.enter.prevent="keep"
    @keydown.esc.stop="cancel"
    @blur="keep"
  />
  <div v-if="clash" class="clash" role="alert">
    Somebody saved <b>{{ clash.theirs ?? 'another value' }}</b> meanwhile; you wrote
    <b>{{ text || 'nothing' }}</b>.
    <button type="button" class="word on" @click="keepTheirs">Keep theirs</button>
    <button type="button" class="word on" @click="putMine">Put mine</button>
  </div>
</template>

<style scoped>
.clash {
  border-left: 3px solid var(--wait-line);
  padding-left: 8px;
  font-size: 13px;
}
</style>
