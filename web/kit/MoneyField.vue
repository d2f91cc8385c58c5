<script setup lang="ts">
import { minorOf } from '@emporikon/core/ledger/sum';
import { ref } from 'vue';
import { wordsOf } from '../shell/api';

/**
 * A sum as it is typed, with a decimal comma or point, or short ("40k"); the currency stands behind it. What is no sum is
 * said at the field. Further attributes go to the text field.
 */
const text = defineModel<string>({ required: true });
const props = defineProps<{ currency: string }>();
const error = ref('');

function check(): void {
  try {
    minorOf(text.value, props.currency);
    error.value = '';
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
</script>

<template>
  <v-text-field
    v-model="text"
    :suffix="currency"
    :error-messages="error"
    inputmode="decimal"
    autocomplete="off"
    class="money-field"
    @blur="check"
    @update:model-value="error = ''"
  />
</template>

<style scoped>
.money-field :deep(.v-text-field__suffix) {
  font-size: 12px;
  color: var(--soft);
  opacity: 1;
  padding: 0 8px 0 4px;
  min-height: 0;
}
</style>
