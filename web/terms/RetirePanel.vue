<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { Term } from '@emporikon/contract/terms';
import { computed, ref, watch } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { useStarting } from '../bulk/useStarting';
import { api } from '../shell/api';
import { shownCount } from '../shell/format';

/** Takes a term out of use, and asks what becomes of the records that have it. */
const props = defineProps<{ term: Term; others: readonly Term[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const told = ref<Reply<'GET /api/terms/:id/uses'> | null>(null);
const to = ref<string | null>(null);
const { isBusy, wrong, act } = useStarting(() => emit('done'));
const isUsed = computed(() => Boolean(told.value?.records || told.value?.uses.length));

watch(
  () => props.term.id,
  async (id) => {
    told.value = await api('GET /api/terms/:id/uses', { params: { id } }).catch(() => null);
  },
  { immediate: true },
);

const retire = (): Promise<void> =>
  act(
    () => api('POST /api/terms/:id/retirement', { params: { id: props.term.id }, body: { to: to.value } }),
    `Retired “${props.term.name}”.`,
  );
const remove = (): Promise<void> =>
  act(() => api('DELETE /api/terms/:id', { params: { id: props.term.id } }), `Removed “${props.term.name}”.`);
</script>

<template>
  <SidePanel :label="`Retire “${term.name}”`" @close="emit('close')">
    <form class="panel" @submit.prevent="retire">
      <p>It can no longer be chosen. You can use it again later.</p>
      <p v-if="told">
        {{ shownCount(told.records) }} {{ told.records === 1 ? 'record has' : 'records have' }} it, as far as
        you may see them.
        <template v-if="told.uses.length">Also named by {{ told.uses.join(', ') }}.</template>
      </p>
      <v-select
        v-model="to"
        label="Records that have it"
        :items="[
          { value: null, title: 'Keep it' },
          ...others.map((term) => ({ value: term.key, title: `Change to ${term.name}` })),
        ]"
      />
      <p v-if="to" class="soft">
        Every record changes, also those you do not see. It runs in the background and can be undone.
      </p>
      <div class="verbs">
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="term.isRetired && !to">{{
          term.isRetired ? 'Change records' : 'Retire'
        }}</v-btn>
        <v-btn v-if="told && !isUsed" class="quiet" :loading="isBusy" @click="remove">Remove</v-btn>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </form>
  </SidePanel>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 12px;
  padding: 16px 24px;
}
.verbs {
  display: flex;
  gap: 12px;
}
p {
  margin: 0;
}
</style>
