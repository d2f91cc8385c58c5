<script setup lang="ts">
import type { LeadDetail } from '@emporikon/contract/leads';
import { DEAL_ROLES } from '@emporikon/core/lifecycle/conversion';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { minorOf } from '@emporikon/core/ledger/sum';
import { useUndo } from '../shell/undo';

const props = defineProps<{ lead: LeadDetail }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
const isBusy = ref(false);
const touched = ref(false);
const draft = ref({
  title: '',
  amount: '',
  currency: 'EUR',
  expectedClose: '',
  role: 'decides' as (typeof DEAL_ROLES)[number],
});

/** What was read fills the form until somebody types in it. */
watch(
  () => props.lead.proposal,
  ({ title, amountMinor, currency, expectedClose }) => {
    if (!touched.value)
      draft.value = {
        ...draft.value,
        title,
        amount: amountMinor === null ? '' : String(amountMinor / 100),
        currency,
        expectedClose: expectedClose ?? '',
      };
  },
  { immediate: true },
);
const carried = computed(() =>
  [
    props.lead.person.name,
    ...(props.lead.company ? [props.lead.company.name] : []),
    'the ledger',
    ...(props.lead.nextMove ? ['the next move'] : []),
  ].join(', '),
);

async function convert(): Promise<void> {
  if (isBusy.value) return;
  isBusy.value = true;
  try {
    const { deal, eventId } = await api('POST /api/leads/:id/conversion', {
      params: { id: props.lead.id },
      body: {
        title: draft.value.title,
        amountMinor: minorOf(draft.value.amount),
        currency: draft.value.currency,
        expectedClose: draft.value.expectedClose || null,
        role: draft.value.role,
      },
    });
    undo.tell({
      text: `Converted: ${deal.name}.`,
      eventId,
      links: [
        { text: 'Open the deal', to: `/deals/${deal.id}` },
        { text: 'See it in the pipeline', to: '/deals' },
      ],
    });
    emit('changed');
  } catch (error) {
    undo.fail(error);
  } finally {
    isBusy.value = false;
  }
}

async function takeBack(): Promise<void> {
  if (!props.lead.conversionEventId) return;
  try {
    await api('POST /api/events/:id/undo', { params: { id: props.lead.conversionEventId } });
    undo.tell({ text: 'The conversion was taken back.', eventId: null });
    emit('changed');
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <div v-if="lead.deal" class="convert">
    <h2>Converted</h2>
    <p>
      The deal is
      <RouterLink :to="`/deals/${lead.deal.id}`" class="quiet-link">{{ lead.deal.name }}</RouterLink>.
    </p>
    <button v-if="lead.conversionEventId" class="word back" @click="takeBack">
      Take the conversion back
    </button>
  </div>
  <form v-else class="convert" @submit.prevent="convert" @input="touched = true">
    <h2>Make it a deal</h2>
    <label class="field"
      ><span class="cap">Title</span><input v-model="draft.title" required maxlength="300"
    /></label>
    <div class="pair">
      <label class="field"
        ><span class="cap">Amount</span><input v-model="draft.amount" inputmode="decimal"
      /></label>
      <label class="field"
        ><span class="cap">Currency</span
        ><input v-model="draft.currency" required pattern="[A-Z]{3}" maxlength="3"
      /></label>
    </div>
    <div class="pair">
      <label class="field"
        ><span class="cap">Expected by</span><input v-model="draft.expectedClose" type="date"
      /></label>
      <label class="field"
        ><span class="cap">{{ lead.person.name.split(' ')[0] }}</span
        ><select v-model="draft.role">
          <option v-for="role in DEAL_ROLES" :key="role" :value="role">{{ role }}</option>
        </select></label
      >
    </div>
    <v-btn class="fill" type="submit" :loading="isBusy" :disabled="lead.status === 'dropped'">Convert</v-btn>
    <span class="cap">carries along: {{ carried }}</span>
  </form>
</template>

<style scoped>
.back {
  justify-self: start;
}
.convert {
  display: grid;
  gap: 7px;
  align-content: start;
  border-left: 1px solid var(--rule);
  padding-left: 22px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
p {
  margin: 0;
}
.field input,
.field select {
  min-height: 32px;
}
@media (max-width: 700px) {
  .convert {
    border: 0;
    padding: 0;
  }
}
</style>
