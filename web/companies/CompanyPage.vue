<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import PhoneButton from '../calls/PhoneButton.vue';
import CardFrame from '../dossier/CardFrame.vue';
import Composer from '../dossier/Composer.vue';
import Fact from '../dossier/Fact.vue';
import LedgerView from '../dossier/LedgerView.vue';
import SideColumn from '../dossier/SideColumn.vue';
import { api } from '../shell/api';
import { shortDay } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

const props = defineProps<{ id: string }>();
const undo = useUndo();
const {
  data: company,
  error,
  load,
} = useFetched(
  () => api('GET /api/companies/:id', { params: { id: props.id } }),
  ['companies', 'people', 'claims', 'tasks', 'leads', 'deals', 'ledger_links'],
);
const FACTS = [
  { field: 'name', label: 'Name', claim: 'companyName' },
  { field: 'domain', label: 'Domain', claim: null },
  { field: 'url', label: 'Web', claim: 'url' },
  { field: 'phone', label: 'Switchboard', claim: null },
  { field: 'address', label: 'Address', claim: 'address' },
] as const;

const claimOf = (field: Claim['field'] | null): Claim | null =>
  company.value?.claims.find((claim) => claim.field === field) ?? null;
const put =
  (field: (typeof FACTS)[number]['field']) =>
  async (value: string, version?: number): Promise<void> => {
    const { eventId } = await api('PATCH /api/companies/:id', {
      params: { id: props.id },
      body: { version: version ?? company.value?.version ?? 1, [field]: value || null },
    });
    undo.tell({ text: 'Changed.', eventId });
    await load();
  };
</script>

<template>
  <template v-if="company">
    <CardFrame :name="company.name">
      <template #role
        ><span
          >{{ company.people.length }} {{ company.people.length === 1 ? 'person' : 'people' }} · since
          {{ shortDay(company.since)
          }}<template v-if="company.owner"> · {{ company.owner.name }}</template></span
        ></template
      >
      <template #facts
        ><Fact
          v-for="one in FACTS"
          :key="one.field"
          :label="one.label"
          :field="one.field"
          :value="company[one.field]"
          :claim="claimOf(one.claim)"
          :save="put(one.field)"
      /></template>
      <template #side
        ><SideColumn :dossier="company" :people="company.people" people-title="People"
      /></template>
    </CardFrame>
    <div v-if="company.phone" class="ways">
      <PhoneButton :number="company.phone" :shown="`Call ${company.phone}`" />
    </div>
    <LedgerView :key="id" :about="{ companyId: id }" />
    <Composer :about="{ companyId: id }" />
  </template>
  <div v-else class="page">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-else
      ><span class="ghost" style="width: 30%; height: 24px"></span><span class="ghost"></span
      ><span class="ghost"></span
    ></template>
  </div>
</template>

<style scoped>
.ways {
  padding: 4px 24px;
}
</style>
