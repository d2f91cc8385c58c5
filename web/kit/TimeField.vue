<script setup lang="ts">
import { ref, watch } from 'vue';
import { readTypedTime } from '@emporikon/core/calendar/typedTime';

/** A time of day (HH:MM) that is typed: "9", "9.30", "3pm". Further attributes go to the text field. */
const model = defineModel<string>({ required: true });
const text = ref(model.value);
const error = ref('');
watch(model, (next) => (text.value = next));

function settle(): void {
  const time = readTypedTime(text.value);
  error.value = time ? '' : 'Type a time, such as 9, 9.30 or 3pm.';
  if (!time) return;
  text.value = time;
  model.value = time;
}
</script>

<template>
  <v-text-field
    v-model="text"
    :error-messages="error"
    inputmode="numeric"
    autocomplete="off"
    @blur="settle"
    @keydown.enter="settle"
  />
</template>
