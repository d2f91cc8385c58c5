<script setup lang="ts">
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
const typed = (event: Event): string => (event.target as HTMLInputElement).value;
</script>

<template>
  <button v-if="!isOn" type="button" class="word" @click="chosen = true">Open a deal</button>
  <div v-else class="deal" data-part="deal">
    <select
      v-if="openDeals.length || openLeads.length"
      v-model="about"
      class="inline-edit whole"
      aria-label="Which deal"
    >
      <option v-for="one in openDeals" :key="one.id" :value="`deal:${one.id}`">
        On the deal “{{ one.name }}”
      </option>
      <option v-for="one in openLeads" :key="one.id" :value="`lead:${one.id}`">
        Convert the lead “{{ one.name }}”
      </option>
      <option value="">On a new deal</option>
    </select>
    <label v-if="!about.startsWith('deal:')" class="whole"
      ><span class="cap">Deal</span>
      <input
        class="inline-edit"
        aria-label="What the deal is about"
        :value="shown.title"
        @input="edits.title = typed($event)"
    /></label>
    <label
      ><span class="cap">Value in {{ shown.currency }}</span>
      <input
        class="inline-edit num"
        inputmode="decimal"
        aria-label="Value of the deal"
        :value="shown.amount"
        @input="edits.amount = typed($event)"
    /></label>
    <label
      ><span class="cap">Wanted from</span>
      <input
        class="inline-edit num"
        type="date"
        aria-label="When the deal is expected"
        :value="shown.expectedClose ?? ''"
        @change="edits.expectedClose = typed($event) || null"
    /></label>
    <button type="button" class="word" @click="chosen = false">no deal</button>
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
