<script setup lang="ts">
import { computed } from 'vue';
import DateField from './DateField.vue';
import MoneyField from './MoneyField.vue';
import RecordPicker from './RecordPicker.vue';
import type { CellKind, CellOption } from './cells';

/** The field of an `EditCell`, by kind. `settle` comes when a choice is made that needs no further word. */
const props = defineProps<{
  kind: CellKind;
  label: string;
  options?: readonly CellOption[];
  currency?: string;
  help?: string;
  error: string;
}>();
const text = defineModel<string>({ required: true });
const emit = defineEmits<{ settle: [] }>();
const several = computed(() => text.value.split('\n').filter(Boolean));
const shared = computed(() => ({
  'aria-label': props.label,
  errorMessages: props.error,
  hint: props.help,
  persistentHint: props.help !== undefined,
}));

function choose(value: string | null): void {
  text.value = value ?? '';
  emit('settle');
}
</script>

<template>
  <v-textarea v-if="kind === 'long'" v-model="text" v-bind="shared" rows="3" auto-grow />
  <DateField v-else-if="kind === 'date'" v-model="text" v-bind="shared" @change="emit('settle')" />
  <MoneyField v-else-if="kind === 'money'" v-model="text" :currency="currency ?? ''" v-bind="shared" />
  <v-select
    v-else-if="kind === 'choice'"
    :model-value="text"
    :items="options ?? []"
    v-bind="shared"
    @update:model-value="choose"
  />
  <v-select
    v-else-if="kind === 'several'"
    :model-value="several"
    :items="options ?? []"
    multiple
    v-bind="shared"
    @update:model-value="text = $event.join('\n')"
  />
  <RecordPicker
    v-else-if="kind === 'person' || kind === 'company'"
    :kind="kind"
    :label="label"
    @pick="choose($event.id)"
  />
  <v-text-field
    v-else
    v-model="text"
    :type="kind === 'phone' ? 'tel' : 'text'"
    :inputmode="kind === 'number' ? 'numeric' : undefined"
    v-bind="shared"
  />
</template>
