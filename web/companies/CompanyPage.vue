<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import RecordFields from '../fields/RecordFields.vue';
import PhoneButton from '../calls/PhoneButton.vue';
import HistoryLink from '../history/HistoryLink.vue';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import VisibilityLine from '../visibility/VisibilityLine.vue';
import AssignMenu from '../dossier/AssignMenu.vue';
import ActionLine from '../dossier/ActionLine.vue';
import WriteButton from '../letters/WriteButton.vue';
import NewLinks from '../make/NewLinks.vue';
import EditCell from '../kit/EditCell.vue';
import CardFrame from '../dossier/CardFrame.vue';
import Composer from '../dossier/Composer.vue';
import PlaceLink from '../dossier/PlaceLink.vue';
import Fact from '../dossier/Fact.vue';
import LedgerView from '../dossier/LedgerView.vue';
import SideColumn from '../dossier/SideColumn.vue';
import GapsLine from '../lookups/GapsLine.vue';
import RhythmLine from '../round/RhythmLine.vue';
import MergedHere from '../lookalikes/MergedHere.vue';
import { noteRecent } from '../find/recent';
import { api } from '../shell/api';
import { counted, shortDay } from '../shell/format';
import AfterDeals from '../projects/AfterDeals.vue';
import { gatherFetches, useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { useTerms } from '../terms/useTerms';
import { provideVersion } from '../shell/useDraft';

const OrgChart = defineAsyncComponent(() => import('../relations/OrgChart.vue'));
const props = defineProps<{ id: string }>();
const session = useSession();
const present = usePresence(() => props.id, 'companies.change');
const undo = useUndo();
/** The parts of the page read for themselves; it is shown when all are there, so that nothing in it moves. */
const isWaiting = gatherFetches();
const router = useRouter();
const {
  data: company,
  error,
  load,
} = useFetched(
  () => api('GET /api/companies/:id', { params: { id: props.id } }),
  ['companies', 'people', 'claims', 'tasks', 'leads', 'deals', 'ledger_links', 'kept_apart'],
  () => [props.id],
);
const FACTS = [
  { field: 'name', label: 'Name', claim: 'companyName' },
  { field: 'domain', label: 'Domain', claim: 'domain' },
  { field: 'url', label: 'Web', claim: 'url' },
  { field: 'phone', label: 'Switchboard', claim: 'phone' },
  { field: 'address', label: 'Address', claim: 'address' },
  { field: 'industry', label: 'Industry', claim: 'industry' },
  { field: 'employees', label: 'Employees', claim: 'employees' },
  { field: 'technologies', label: 'Technology', claim: 'technologies' },
  { field: 'country', label: 'Country', claim: 'country' },
  { field: 'timeZone', label: 'Time zone', claim: 'timeZone' },
  { field: 'legalName', label: 'Legal name', claim: 'legalName' },
] as const;

const claimOf = (field: Claim['field'] | null): Claim | null =>
  company.value?.claims.find((claim) => claim.field === field) ?? null;
const { nameOf, optionsOf } = useTerms();
async function putKind(kind: string): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/companies/:id', {
      params: { id: props.id },
      body: { version: company.value?.version ?? 1, kind },
    });
    undo.tell({ text: `Kind: ${nameOf(kind)}.`, eventId, about: { companyId: props.id } });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}
// An old link leads to the record this one became a part of.
watch(company, (now) => {
  if (now && now.id !== props.id) void router.replace(`/companies/${now.id}`);
});
type Field = (typeof FACTS)[number]['field'];
/** A fact as it is edited, in one line. */
function lineOf(field: Field): string | null {
  const value = company.value?.[field] ?? null;
  if (Array.isArray(value)) return value.join(', ') || null;
  return value === null ? null : String(value);
}
/** What a line of it means; a number or a country that is none is refused by the server in words. */
function parsed(field: Field, line: string): unknown {
  if (field === 'technologies')
    return line
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
  if (field === 'employees' && line) return Number(line.replace(/[\s.,']/g, ''));
  return (field === 'country' ? line.toUpperCase() : line) || null;
}
const isMerging = ref(false);
const isCopying = ref(false);
const CloneDialog = defineAsyncComponent(() => import('../cloning/CloneDialog.vue'));
const isChart = ref(false);
provideVersion(() => company.value?.version);
const put =
  (field: Field) =>
  async (value: string, version: number): Promise<void> => {
    const { eventId } = await api('PATCH /api/companies/:id', {
      params: { id: props.id },
      body: { version, [field]: parsed(field, value) },
    });
    undo.tell({ text: 'Changed.', eventId });
    await load();
  };
watch(company, (now) => {
  if (now) noteRecent({ kind: 'company', id: now.id, label: now.name, hint: '' });
});
/** Of a company only what is set on it; its people have what the nearest rule says. */
const rhythm = computed(() => ({
  days: company.value?.rhythmDays ?? null,
  from: company.value?.rhythmDays ? ('person' as const) : null,
  quietAt: null,
  proposed: null,
}));
</script>

<template>
  <div v-if="company" v-show="!isWaiting" class="whole-page">
    <CardFrame kind="company" :name="company.name" :paper="`/api/companies/${company.id}/summary.pdf`">
      <template #role
        ><span
          ><EditCell
            :value="company.kindTerm ?? company.kind"
            :shown="nameOf(company.kindTerm ?? company.kind)"
            kind="choice"
            :options="optionsOf('companyKind', company.kindTerm ?? company.kind)"
            label="Kind"
            field="kind"
            :save="putKind"
          />
          · {{ counted(company.people.length, 'person', 'people') }} · since {{ shortDay(company.since)
          }}<template v-if="company.owner"> · {{ company.owner.name }}</template
          ><template v-if="company.parent">
            · a branch of
            <RouterLink class="quiet-link" :to="`/companies/${company.parent.id}`">{{
              company.parent.name
            }}</RouterLink></template
          ><template v-if="company.branches.length">
            · branches:
            <template v-for="(one, index) in company.branches" :key="one.id"
              >{{ index ? ', ' : ''
              }}<RouterLink class="quiet-link" :to="`/companies/${one.id}`">{{
                one.name
              }}</RouterLink></template
            ></template
          ></span
        ><VisibilityLine :id="company.id" kind="companies" /> · <HistoryLink :id="id" />
        <PresenceLine :others="present"
      /></template>
      <template #facts
        ><Fact
          v-for="one in FACTS"
          :key="one.field"
          :label="one.label"
          :field="one.field"
          :value="lineOf(one.field)"
          :claim="claimOf(one.claim)"
          :save="put(one.field)"
          ><PlaceLink
            v-if="one.field === 'address'"
            :place="company.place"
            :address="company.address" /></Fact
        ><RecordFields :id="id" :key="id" record="company"
      /></template>
      <template #side
        ><SideColumn :dossier="company" :people="company.people" people-title="People"
          ><AfterDeals :key="id" :about="{ companyId: id }" /><RhythmLine
            kind="company"
            :record="{ ...company, rhythm }"
            @changed="load"
        /></SideColumn>
      </template>
    </CardFrame>
    <ActionLine>
      <PhoneButton v-if="company.phone" :number="company.phone" :shown="`Call ${company.phone}`" />
      <WriteButton :letter="{ about: { companyId: company.id } }" />
      <NewLinks
        :begun="{ company: { id: company.id, label: company.name } }"
        :kinds="['deal', 'lead', 'case', 'project']"
      />
      <AssignMenu v-if="session.may('companies.change')" kind="company" :record="company" @changed="load" />
      <v-btn class="word" :aria-expanded="isChart" @click="isChart = !isChart">Org chart</v-btn>
      <v-menu>
        <template #activator="{ props: activator }">
          <v-btn class="word" v-bind="activator">More…</v-btn>
        </template>
        <v-list>
          <v-list-item title="Same as another company…" @click="isMerging = true" />
          <v-list-item title="Make a copy…" @click="isCopying = true" />
        </v-list>
      </v-menu>
      <CloneDialog v-if="isCopying" :id="company.id" kind="company" @close="isCopying = false" />
      <MergedHere
        :id="company.id"
        :key="company.id"
        v-model:is-picking="isMerging"
        kind="company"
        :merged="company.merged"
        :told-apart="company.toldApart"
        @changed="load"
      />
      <template #meter>
        <GapsLine :key="id" :company-id="company.id" :name="company.name" @changed="load" />
      </template>
    </ActionLine>
    <OrgChart v-if="isChart" :key="id" :company-id="company.id" @close="isChart = false" />
    <LedgerView :key="id" :about="{ companyId: id }" />
    <Composer :about="{ companyId: id }" />
  </div>
  <div v-if="!company || isWaiting" class="page">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-else
      ><span class="ghost" style="width: 30%; height: 24px"></span><span class="ghost"></span
      ><span class="ghost"></span
    ></template>
  </div>
</template>
