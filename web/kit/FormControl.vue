<script setup lang="ts">
import { computed } from 'vue';
import DateField from './DateField.vue';
import MoneyField from './MoneyField.vue';
import RecordField from './RecordField.vue';
import TagField from './TagField.vue';
import TimeField from './TimeField.vue';
import type { FormField, RecordValue } from './forms';

/** The control of one field of a form, by its kind. */
const props = defineProps<{ field: FormField; error: string }>();
const model = defineModel<unknown>({ required: true });
const text = computed({
  get: () => (model.value as string | null) ?? '',
  set: (value: string) => (model.value = value),
});
const record = computed({
  get: () => model.value as RecordValue | null,
  set: (value: RecordValue | null) => (model.value = value),
});
const tags = computed({
  get: () => model.value as string[],
  set: (value: string[]) => (model.value = value),
});
const shared = computed(() => ({
  label: props.field.isRequired ? `${props.field.label} (required)` : props.field.label,
  placeholder: props.field.placeholder,
  errorMessages: props.error || [],
  ...(props.field.help ? { hint: props.field.help, persistentHint: true } : {}),
}));
</script>

<template>
  <v-textarea v-if="field.kind === 'long'" v-model="text" v-bind="shared" rows="2" auto-grow />
  <v-select v-else-if="field.kind === 'choice'" v-model="text" v-bind="shared" :items="field.options" />
  <DateField v-else-if="field.kind === 'date'" v-model="text" v-bind="shared" />
  <TimeField v-else-if="field.kind === 'time'" v-model="text" v-bind="shared" />
  <MoneyField v-else-if="field.kind === 'money'" v-model="text" v-bind="shared" :currency="field.currency" />
  <TagField v-else-if="field.kind === 'tags'" v-model="tags" v-bind="shared" />
  <RecordField
    v-else-if="field.kind === 'person' || field.kind === 'company' || field.kind === 'deal'"
    v-model="record"
    v-bind="shared"
    :kind="field.kind"
    :may-be-new="field.mayBeNew"
  />
  <v-text-field
    v-else
    v-model="text"
    v-bind="shared"
    :type="field.kind === 'email' ? 'email' : field.kind === 'phone' ? 'tel' : 'text'"
  />
</template>
