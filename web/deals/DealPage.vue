<script setup lang="ts">
import type { Begun } from '../make/around';
import { DEAL_ASKS, type DealAsk } from '@emporikon/core/lifecycle/stages';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { newMeeting } from '../meetings/link';
import RecordFields from '../fields/RecordFields.vue';
import HistoryLink from '../history/HistoryLink.vue';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import VisibilityLine from '../visibility/VisibilityLine.vue';
import ActionLine from '../dossier/ActionLine.vue';
import CloneButton from '../cloning/CloneButton.vue';
import WriteButton from '../letters/WriteButton.vue';
import NewLinks from '../make/NewLinks.vue';
import CardFrame from '../dossier/CardFrame.vue';
import Composer from '../dossier/Composer.vue';
import Fact from '../dossier/Fact.vue';
import LedgerView from '../dossier/LedgerView.vue';
import SideColumn from '../dossier/SideColumn.vue';
import { noteRecent } from '../find/recent';
import { api } from '../shell/api';
import { useStored } from '../shell/browser';
import { amountText, calendarDay, counted, day, money, percent } from '../shell/format';
import { minorOf } from '@emporikon/core/ledger/sum';
import { gatherFetches, useFetched } from '../shell/live';
import TagField from '../kit/TagField.vue';
import { useUndo } from '../shell/undo';
import { provideVersion } from '../shell/useDraft';
import { useTeam } from '../shell/useTeam';
import { percentOf } from './cardWords';
import AfterMove from './AfterMove.vue';
import AfterDeals from '../projects/AfterDeals.vue';
import DealLines from './DealLines.vue';
import DealPeople from './DealPeople.vue';
import Quotes from './Quotes.vue';
import { useStageItems } from './useStageItems';

const props = defineProps<{ id: string }>();
const present = usePresence(() => props.id, 'deals.change');
const undo = useUndo();
/** The parts of the page read for themselves; it is shown when all are there, so that nothing in it moves. */
const isWaiting = gatherFetches();
const {
  data: deal,
  error,
  load,
} = useFetched(
  () => api('GET /api/deals/:id', { params: { id: props.id } }),
  [
    'deals',
    'deal_roles',
    'deal_lines',
    'stages',
    'tasks',
    'people',
    'companies',
    'ledger_links',
    'lead_scores',
  ],
  () => [props.id],
);
const team = useTeam();
const stageItems = useStageItems(() => deal.value?.pipelineId);
const side = computed(() => (deal.value ? { moves: deal.value.moves, deals: [], leads: [] } : null));
const begun = computed((): Begun => ({
  deal: { id: props.id, label: deal.value?.title ?? '' },
  ...(deal.value?.company ? { company: { id: deal.value.company.id, label: deal.value.company.name } } : {}),
}));
const isOpen = computed(() => deal.value?.stage.kind === 'open');
const isProject = ref(false);
const MakeFromDeal = defineAsyncComponent(() => import('../projects/MakeFromDeal.vue'));
const linesAre = useStored('emporikon.deal.lines', false);
/** Once they were unfolded they stay: what was typed is not lost by folding them. */
const linesWere = ref(linesAre.value);
watch(linesAre, (now) => (linesWere.value ||= now));

type Patch = {
  title?: string;
  amountMinor?: number | null;
  expectedClose?: string | null;
  probability?: number | null;
  stageId?: string;
  ownerId?: string;
  currency?: string;
  tags?: string[];
  closeReason?: string | null;
};
const after = ref<{ kind: 'open' | 'won' | 'lost'; notKnown: DealAsk[] } | null>(null);
provideVersion(() => deal.value?.version);
async function put(patch: Patch, version?: number): Promise<void> {
  const { eventId, notKnown } = await api('PATCH /api/deals/:id', {
    params: { id: props.id },
    body: { version: version ?? deal.value?.version ?? 1, ...patch },
  });
  const isTold = patch.stageId !== undefined || patch.ownerId !== undefined;
  undo.tell({ text: 'Changed.', eventId, ...(isTold ? { about: { dealId: props.id } } : {}) });
  await load();
  const kind = deal.value?.stage.kind ?? 'open';
  if (patch.stageId) after.value = kind !== 'open' || notKnown.length ? { kind, notKnown } : null;
}

async function change(patch: Patch): Promise<void> {
  try {
    await put(patch);
  } catch (problem) {
    undo.fail(problem);
    await load();
  }
}
watch(deal, (now) => {
  if (now) noteRecent({ kind: 'deal', id: now.id, label: now.title, hint: now.company?.name ?? '' });
});
</script>

<template>
  <div v-if="deal && side" v-show="!isWaiting" class="whole-page">
    <CardFrame kind="deal" :name="deal.title" :paper="`/api/deals/${deal.id}/summary.pdf`">
      <template #role>
        <RouterLink v-if="deal.company" :to="`/companies/${deal.company.id}`" class="quiet-link">{{
          deal.company.name
        }}</RouterLink>
        <span>{{ money(deal.amountMinor, deal.currency) }}</span>
        <RouterLink v-if="deal.leadId" :to="`/leads/${deal.leadId}`" class="quiet-link"
          >From the lead</RouterLink
        >
        <VisibilityLine :id="deal.id" kind="deals" /> · <HistoryLink :id="id" />
        <PresenceLine :others="present" />
      </template>
      <template #facts>
        <Fact
          label="Title"
          field="title"
          :value="deal.title"
          :save="(value, version) => put({ title: value }, version)"
        />
        <Fact
          :label="deal.lines.length ? 'Amount, net of the lines' : `Amount, ${deal.currency}`"
          field="amountMinor"
          :value="amountText(deal.amountMinor, deal.currency) || null"
          :stored="deal.amountMinor"
          :format="(value) => money(Number(value), deal?.currency ?? '')"
          :shown="money(deal.amountMinor, deal.currency)"
          :save="
            deal.lines.length
              ? undefined
              : (value, version) => put({ amountMinor: minorOf(value, deal?.currency ?? '') }, version)
          "
        />
        <Fact
          label="Currency"
          field="currency"
          :value="deal.currency"
          :save="
            deal.lines.length
              ? undefined
              : (value, version) => put({ currency: value.toUpperCase() }, version)
          "
        />
        <div class="stage">
          <span class="cap">Stage</span>
          <v-select
            class="on-card"
            aria-label="Stage"
            :model-value="deal.stageId"
            :items="stageItems"
            @update:model-value="change({ stageId: $event })"
          />
          <span class="cap"
            >since {{ day(deal.stageSince) }}, typical {{ counted(deal.stage.usualDays, 'day') }}</span
          >
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
              ? `Win probability, set by hand (usual ${deal.stage.usualChance}%, leave empty to follow it)`
              : 'Win probability, usual for the stage'
          "
          field="probability"
          :value="`${deal.probability}%`"
          :stored="deal.probability"
          :format="(value) => `${String(value)}%`"
          :save="(value, version) => put({ probability: percentOf(value) }, version)"
        />
        <div class="stage">
          <span class="cap">Owner</span>
          <v-select
            class="on-card"
            :model-value="deal.owner.id"
            aria-label="Owner"
            :items="team"
            item-value="id"
            item-title="name"
            @update:model-value="change({ ownerId: $event })"
          />
        </div>
        <p v-if="deal.winChance !== null" class="soft learnt">
          Leads like this one are won {{ percent(deal.winChance) }} of the time from this stage. The forecast
          can use either figure.
        </p>
        <Fact
          v-if="!isOpen"
          :label="deal.stage.kind === 'won' ? 'Why it was won' : 'Why it was lost'"
          field="closeReason"
          :value="deal.closeReason"
          placeholder="No reason given"
          :save="(value, version) => put({ closeReason: value || null }, version)"
        />
        <RecordFields :id="id" :key="id" record="deal" />
        <TagField
          class="on-card tags"
          :model-value="deal.tags"
          @update:model-value="change({ tags: $event })"
        />
      </template>
      <template #side
        ><SideColumn :dossier="side" :people="[]" people-title=""
          ><DealPeople :deal="deal" @changed="load" /><AfterDeals
            :key="id"
            :about="{ dealId: id }" /></SideColumn
      ></template>
    </CardFrame>
    <ActionLine>
      <v-btn class="word" :aria-expanded="linesAre" @click="linesAre = !linesAre">{{
        linesAre ? 'Hide products and quotes' : 'Products and quotes'
      }}</v-btn>
      <span class="soft num"
        >{{ counted(deal.lines.length, 'line')
        }}<template v-if="deal.lines.length"
          >, net {{ money(deal.totals.netMinor, deal.currency) }}, with tax
          {{ money(deal.totals.grossMinor, deal.currency) }}</template
        ></span
      >
      <RouterLink
        class="word"
        :to="{ query: newMeeting($route.query, { deal: { id: deal.id, name: deal.title } }) }"
        >New meeting</RouterLink
      >
      <WriteButton :letter="{ about: { dealId: id } }" />
      <NewLinks :begun="begun" :kinds="['task']" />
      <v-btn v-if="deal.stage.kind === 'won'" class="word" @click="isProject = true">Make a project</v-btn>
      <CloneButton :id="id" kind="deal" />
      <MakeFromDeal v-if="isProject" :deal-id="id" @close="isProject = false" />
      <template v-if="deal.notKnown.length && !after" #meter>
        <span class="late"
          >{{ deal.stage.name }} needs: {{ deal.notKnown.map((ask) => DEAL_ASKS[ask]).join(', ') }}</span
        >
      </template>
    </ActionLine>
    <section v-if="linesWere" v-show="linesAre" class="buys" aria-label="Products and quotes">
      <DealLines :key="id" :deal="deal" @changed="load" />
      <Quotes :key="id" :deal-id="id" :has-lines="deal.lines.length > 0" />
    </section>
    <AfterMove
      v-if="after"
      :deal="deal"
      :kind="after.kind"
      :not-known="after.notKnown"
      class="after"
      @done="after = null"
    />
    <LedgerView :key="id" :about="{ dealId: id }" />
    <Composer :about="{ dealId: id }" />
  </div>
  <div v-if="!deal || isWaiting" class="page">
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
.v-input.tags {
  padding: 21px 0 5px;
  border-top: 1px solid var(--rule2);
}
.buys {
  padding: 8px 24px 10px;
  border-bottom: 1px solid var(--rule2);
}
.after {
  margin-top: 8px;
}
@media (max-width: 700px) {
  .buys {
    padding-left: 14px;
    padding-right: 14px;
  }
}
</style>
