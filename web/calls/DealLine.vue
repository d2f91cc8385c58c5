<script setup lang="ts">
import DateField from '../kit/DateField.vue';
import { UNNAMED_DEAL } from '@emporikon/core/lifecycle/conversion';
import type { SheetReading } from '@emporikon/core/ledger/callSheet';
import { computed, reactive, ref, watch } from 'vue';
import { amountText } from '../shell/format';

/** The deal of a call: as it was read, corrected by hand, opened by hand where none was read, or left out. */
export interface SheetDeal {
  id: string | null;
  leadId: string | null;
  title: string;
  /** As it was typed; the server is told minor units. */
  amount: string;
  currency: string;
  expectedClose: string | null;
}
const props = defineProps<{
  read: SheetReading['deal'];
  openDeals: { id: string; name: string }[];
  openLeads: { id: string; name: string }[];
  currency: string;
}>();
const emit = defineEmits<{ change: [deal: SheetDeal | null] }>();
const edits = reactive<Partial<SheetDeal>>({});
const chosen = ref<boolean | null>(null);
/** What is open already comes first: a deal, else a lead that becomes one, else a new deal. */
const about = ref('');
const proposed = (): string =>
  props.openDeals[0]
    ? `deal:${props.openDeals[0].id}`
    : props.openLeads[0]
      ? `lead:${props.openLeads[0].id}`
      : '';
watch(
  () => [...props.openDeals, ...props.openLeads].map((deal) => deal.id).join(),
  () => (about.value = proposed()),
  { immediate: true },
);
const isOn = computed(() => chosen.value ?? props.read !== null);
const shown = computed((): SheetDeal => {
  const { read } = props;
  return {
    id: about.value.startsWith('deal:') ? about.value.slice(5) : null,
    leadId: about.value.startsWith('lead:') ? about.value.slice(5) : null,
    title: edits.title ?? read?.title ?? UNNAMED_DEAL,
    amount: edits.amount ?? (read ? amountText(read.amountMinor, read.currency) : ''),
    currency: read?.currency ?? props.currency,
    expectedClose: edits.expectedClose ?? read?.expectedClose ?? null,
  };
});
watch([isOn, shown], () => emit('change', isOn.value ? shown.value : null), { immediate: true });
</script>

<template>
  <v-btn v-if="!isOn" class="word" @click="chosen = true">Open a deal</v-btn>
  <div v-else class="deal" data-part="deal">
    <v-select
      v-if="openDeals.length || openLeads.length"
      v-model="about"
      class="inline-edit whole"
      aria-label="Which deal"
      :items="[
        ...openDeals.map((one) => ({ value: `deal:${one.id}`, title: `On the deal “${one.name}”` })),
        ...openLeads.map((one) => ({ value: `lead:${one.id}`, title: `Convert the lead “${one.name}”` })),
        { value: '', title: 'On a new deal' },
      ]"
    />
    <v-text-field
      v-if="!about.startsWith('deal:')"
      class="whole"
      label="Deal"
      :model-value="shown.title"
      @update:model-value="edits.title = $event"
    />
    <v-text-field
      :label="`Value in ${shown.currency}`"
      class="inline-edit num"
      inputmode="decimal"
      :model-value="shown.amount"
      @update:model-value="edits.amount = $event"
    />
    <DateField
      label="Wanted from"
      class="inline-edit num"
      :model-value="shown.expectedClose ?? ''"
      @change="edits.expectedClose = $event || null"
    />
    <v-btn class="word" @click="chosen = false">No deal</v-btn>
  </div>
</template>

<style scoped>
.deal {
  margin-top: 10px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 6px 8px;
  align-items: end;
}
.whole {
  grid-column: 1 / 4;
}
.cap {
  display: block;
}
</style>
