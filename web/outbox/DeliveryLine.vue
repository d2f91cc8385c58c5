<script setup lang="ts">
import type { Delivery } from '@emporikon/contract/outbox';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';
import { deliveryWords, mayRepeat } from './words';

/** What became of a mail or a call, where it was caused, with another try by hand. */
const props = defineProps<{ delivery: Delivery; what: string; again: string }>();
const undo = useUndo();
const isBusy = ref(false);
const words = computed(() => deliveryWords(props.delivery, props.what));

async function repeat(): Promise<void> {
  isBusy.value = true;
  try {
    await api('POST /api/outbox/:id/retry', { params: { id: props.delivery.id } });
  } catch (error) {
    undo.fail(error);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <p v-if="words" class="delivery" :class="{ late: mayRepeat(delivery) }" role="status">
    {{ words }}
    <v-btn v-if="mayRepeat(delivery)" class="quiet" :loading="isBusy" @click="repeat">{{ again }}</v-btn>
  </p>
</template>

<style scoped>
.delivery {
  margin: 2px 0;
}
</style>
