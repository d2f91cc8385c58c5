<script setup lang="ts">
import DateField from '../kit/DateField.vue';
import type { ConversionProposal, LeadDetail } from '@emporikon/contract/leads';
import { minorOf } from '@emporikon/core/ledger/sum';
import type { DealRole } from '@emporikon/core/lifecycle/conversion';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { amountText, money, percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import ConvertPeople from './ConvertPeople.vue';

const props = defineProps<{ lead: LeadDetail }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
const isBusy = ref(false);
const touched = ref(false);
const KEEP = 'as it is';
const MAKE = 'make it';
const draft = ref({ title: '', amount: '', currency: '', expectedClose: '', stageId: '' });
const dealId = ref('');
const companyId = ref(KEEP);
const personId = ref(KEEP);
const parts = ref<{ personId: string; role: DealRole }[]>([]);
const { data: found } = useFetched(
  () => api('GET /api/leads/:id/conversion', { params: { id: props.lead.id } }),
  ['leads', 'people', 'companies', 'deals', 'tasks', 'lead_answers', 'contact_points', 'ledger_links'],
);
const { data: pipelines } = useFetched(() => api('GET /api/pipelines'), ['pipelines']);
const { data: stages } = useFetched(() => api('GET /api/stages'), ['stages']);
const firsts = computed(() =>
  (pipelines.value?.items ?? [])
    .filter((item) => item.active)
    .flatMap((item) => {
      const stage = stages.value?.items.find((each) => each.pipelineId === item.id && each.kind === 'open');
      return stage ? [{ id: stage.id, name: item.name }] : [];
    }),
);

/** What was read fills the form until somebody types in it. */
watch(
  () => props.lead.proposal,
  ({ title, amountMinor, currency, expectedClose }) => {
    if (!touched.value)
      draft.value = {
        ...draft.value,
        title,
        amount: amountText(amountMinor, currency),
        currency,
        expectedClose: expectedClose ?? '',
      };
  },
  { immediate: true },
);
watch(found, (now, before) => {
  if (now && !before)
    parts.value = now.people
      .filter((person) => person.isProposed)
      .map((person) => ({ personId: person.id, role: person.role }));
});
/** Why the one chosen, or else the likeliest, may be the same. */
const why = computed(() => {
  const of = (matches: ConversionProposal['company']['matches'], id: string): string => {
    const match = matches.find((match) => match.id === id) ?? matches[0];
    return match
      ? `${match.label}: ${match.reasons
          .map((reason) => reason.text)
          .slice(0, 3)
          .join(', ')}`
      : '';
  };
  return {
    company: of(found.value?.company.matches ?? [], companyId.value),
    person: of(found.value?.person.matches ?? [], personId.value),
  };
});
const carried = computed(() =>
  (found.value?.carried ?? [])
    .map(
      (one) => `${one.count} ${one.what}${one.names.length ? ` (${one.names.slice(0, 3).join(', ')})` : ''}`,
    )
    .join(', '),
);

function companySent(): { companyId?: string; companyName?: string } {
  if (companyId.value === MAKE) return { companyName: found.value?.company.name };
  return companyId.value === KEEP ? {} : { companyId: companyId.value };
}

/** The parts as they are sent: that of the lead's own person, whoever they turned out to be, and those of the others. */
const partsSent = (): { role?: DealRole; people: { personId: string; role: DealRole }[] } => ({
  role: parts.value.find((part) => part.personId === props.lead.person.id)?.role,
  people: parts.value.filter((part) => part.personId !== props.lead.person.id),
});

async function convert(): Promise<void> {
  if (isBusy.value) return;
  isBusy.value = true;
  try {
    const { deal, eventId, created } = await api('POST /api/leads/:id/conversion', {
      params: { id: props.lead.id },
      body: {
        title: draft.value.title,
        amountMinor: minorOf(draft.value.amount, draft.value.currency),
        currency: draft.value.currency,
        expectedClose: draft.value.expectedClose || null,
        stageId: draft.value.stageId || undefined,
        dealId: dealId.value || undefined,
        ...companySent(),
        ...(personId.value === KEEP ? {} : { personId: personId.value }),
        ...partsSent(),
      },
    });
    undo.tell({
      text: created ? `Converted: ${deal.name}.` : `Added to ${deal.name}.`,
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
    undo.tell({ text: 'The conversion was undone.', eventId: null });
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
    <v-btn v-if="lead.conversionEventId" class="word back" @click="takeBack"> Undo the conversion </v-btn>
  </div>
  <form v-else class="convert" @submit.prevent="convert" @input="touched = true">
    <h2>Convert to a deal</h2>
    <v-select
      v-if="found?.openDeals.length"
      v-model="dealId"
      class="field"
      label="Open deals and leads"
      :items="[
        { value: '', title: 'Make a new deal' },
        ...found.openDeals.map((one) => ({
          value: one.id,
          title: `${one.name}, ${one.stage}, ${money(one.amountMinor, one.currency)}: ${one.why}`,
        })),
      ]"
    />
    <template v-if="!dealId">
      <v-text-field v-model="draft.title" class="field" label="Title" required maxlength="300" />
      <div class="pair">
        <v-text-field v-model="draft.amount" class="field" label="Amount" inputmode="decimal" />
        <v-text-field
          v-model="draft.currency"
          class="field"
          label="Currency"
          required
          pattern="[A-Z]{3}"
          maxlength="3"
        />
      </div>
      <div class="pair">
        <DateField v-model="draft.expectedClose" class="field" label="Expected by" />
        <v-select
          v-if="firsts.length > 1"
          v-model="draft.stageId"
          class="field"
          label="Pipeline"
          :items="[
            { value: '', title: firsts[0]?.name },
            ...firsts.slice(1).map((one) => ({ value: one.id, title: one.name })),
          ]"
        />
      </div>
      <v-select
        v-if="found && (found.company.matches.length || (!found.company.current && found.company.name))"
        v-model="companyId"
        class="field"
        label="Company"
        :items="[
          { value: KEEP, title: found.company.current?.name ?? 'None' },
          ...(found.company.current ? [] : [{ value: MAKE, title: `${found.company.name}, new` }]),
          ...found.company.matches.map((one) => ({
            value: one.id,
            title: `${one.label}, ${percent(one.probability)} likely the same`,
          })),
        ]"
        :hint="why.company"
        persistent-hint
      />
    </template>
    <v-select
      v-if="found?.person.matches.length"
      v-model="personId"
      class="field"
      :label="`${lead.person.name} may be somebody you know`"
      :items="[
        { value: KEEP, title: 'Somebody else' },
        ...found.person.matches.map((one) => ({
          value: one.id,
          title: `${one.label}, ${percent(one.probability)} likely the same`,
        })),
      ]"
      :hint="why.person"
      persistent-hint
    />
    <ConvertPeople v-if="found" v-model="parts" :people="found.people" />
    <v-btn class="fill" type="submit" :loading="isBusy" :disabled="lead.status === 'dropped'">Convert</v-btn>
    <span class="cap"
      >The deal keeps: {{ lead.person.name }}{{ lead.company ? `, ${lead.company.name}` : ''
      }}{{ carried ? `, ${carried}` : '' }}</span
    >
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
  min-width: 0;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
p {
  margin: 0;
}
.field {
  min-width: 0;
}
.field input,
.field select {
  min-height: 32px;
  max-width: 100%;
}
@media (max-width: 700px) {
  .convert {
    border: 0;
    padding: 0;
  }
}
</style>
