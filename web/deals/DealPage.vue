<script setup lang="ts">
import { computed } from 'vue';
import CardFrame from '../dossier/CardFrame.vue';
import Composer from '../dossier/Composer.vue';
import Fact from '../dossier/Fact.vue';
import LedgerView from '../dossier/LedgerView.vue';
import SideColumn from '../dossier/SideColumn.vue';
import { api } from '../shell/api';
import { calendarDay, day, money } from '../shell/format';
import { minorOf } from '@emporikon/core/ledger/sum';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

const props = defineProps<{ id: string }>();
const undo = useUndo();
const {
  data: deal,
  error,
  load,
} = useFetched(
  () => api('GET /api/deals/:id', { params: { id: props.id } }),
  ['deals', 'deal_roles', 'stages', 'tasks', 'people', 'companies', 'ledger_links'],
);
const { data: team } = useFetched(() => api('GET /api/users'), ['users']);
const { data: stages } = useFetched(() => api('GET /api/stages'), ['stages']);
const side = computed(() => (deal.value ? { nextMove: deal.value.nextMove, deals: [], leads: [] } : null));
const people = computed(() => (deal.value?.people ?? []).map((one) => ({ ...one, jobTitle: one.role })));

type Patch = {
  title?: string;
  amountMinor?: number | null;
  expectedClose?: string | null;
  probability?: number | null;
  stageId?: string;
  ownerId?: string;
};
async function put(patch: Patch, version?: number): Promise<void> {
  const { eventId } = await api('PATCH /api/deals/:id', {
    params: { id: props.id },
    body: { version: version ?? deal.value?.version ?? 1, ...patch },
  });
  undo.tell({ text: 'Changed.', eventId });
  await load();
}

function percentOf(text: string): number | null {
  if (!text) return null;
  const percent = Number(text.replace('%', '').trim());
  if (!Number.isInteger(percent) || percent < 0 || percent > 100)
    throw new Error('A chance is a whole number from 0 to 100.');
  return percent;
}

async function change(patch: Patch): Promise<void> {
  try {
    await put(patch);
  } catch (problem) {
    undo.fail(problem);
    await load();
  }
}
</script>

<template>
  <template v-if="deal && side">
    <CardFrame :name="deal.title">
      <template #role>
        <RouterLink v-if="deal.company" :to="`/companies/${deal.company.id}`" class="quiet-link">{{
          deal.company.name
        }}</RouterLink>
        <span>{{ money(deal.amountMinor, deal.currency) }}</span>
        <RouterLink v-if="deal.leadId" :to="`/leads/${deal.leadId}`" class="quiet-link"
          >from its lead</RouterLink
        >
      </template>
      <template #facts>
        <Fact
          label="Title"
          field="title"
          :value="deal.title"
          :save="(value, version) => put({ title: value }, version)"
        />
        <Fact
          label="Amount"
          field="amountMinor"
          :value="deal.amountMinor === null ? null : String(deal.amountMinor / 100)"
          :shown="money(deal.amountMinor, deal.currency)"
          :save="(value, version) => put({ amountMinor: minorOf(value) }, version)"
        />
        <div class="stage">
          <span class="cap">Stage</span>
          <select
            class="inline-edit"
            :value="deal.stageId"
            aria-label="Stage"
            @change="change({ stageId: ($event.target as HTMLSelectElement).value })"
          >
            <option v-for="one in stages?.items ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select>
          <span class="cap">since {{ day(deal.stageSince) }}, typical {{ deal.stage.typicalDays }} days</span>
        </div>
        <Fact
          label="Expected by"
          field="expectedClose"
          :value="deal.expectedClose"
          :shown="deal.expectedClose ? calendarDay(deal.expectedClose) : undefined"
          kind="date"
          :save="(value, version) => put({ expectedClose: value || null }, version)"
        />
        <Fact
          :label="
            deal.probabilityByHand
              ? `Win probability, by hand (usual ${deal.stage.probability}%, empty goes back to it)`
              : 'Win probability, usual of the stage'
          "
          field="probability"
          :value="`${deal.probability}%`"
          :save="(value, version) => put({ probability: percentOf(value) }, version)"
        />
        <div class="stage">
          <span class="cap">Owner</span>
          <select
            class="inline-edit"
            :value="deal.owner.id"
            aria-label="Owner"
            @change="change({ ownerId: ($event.target as HTMLSelectElement).value })"
          >
            <option v-for="one in team?.items ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select>
        </div>
      </template>
      <template #side><SideColumn :dossier="side" :people="people" people-title="People on it" /></template>
    </CardFrame>
    <LedgerView :key="id" :about="{ dealId: id }" />
    <Composer :about="{ dealId: id }" />
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
.stage {
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
.cap {
  display: block;
  line-height: 1.2;
}
</style>
