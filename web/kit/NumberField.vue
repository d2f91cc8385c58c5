<script setup lang="ts">
import { ref, watch } from 'vue';

/**
 * A whole number. `change` comes once the field is left or Enter is pressed, with what then stands in it; an emptied field
 * goes back to what it was. Further attributes go to Vuetify's number input.
 */
const model = defineModel<number | null>();
const emit = defineEmits<{ change: [value: number] }>();
const shown = ref(model.value ?? null);
let settled = model.value ?? null;

watch(model, (next) => {
  // What is being typed comes back here, and is not settled by that.
  if ((next ?? null) === shown.value) return;
  shown.value = next ?? null;
  settled = next ?? null;
});
function type(value: number | null): void {
  shown.value = value;
  if (value !== null) model.value = value;
}
function settle(): void {
  if (shown.value === null) shown.value = settled;
  else if (shown.value !== settled) {
    settled = shown.value;
    emit('change', shown.value);
  }
}
</script>

<template>
  <v-number-input
    :model-value="shown"
    @update:model-value="type"
    @focusout="settle"
    @keydown.enter="settle"
  />
</template>
