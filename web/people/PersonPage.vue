<script setup lang="ts">
import AddContact from './AddContact.vue';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import Submissions from '../forms/Submissions.vue';
import SidePanel from '../kit/SidePanel.vue';
import TagField from '../kit/TagField.vue';
import ActionLine from '../dossier/ActionLine.vue';
import CardFrame from '../dossier/CardFrame.vue';
import CardWord from '../dossier/CardWord.vue';
import Composer from '../dossier/Composer.vue';
import PlaceLink from '../dossier/PlaceLink.vue';
import Fact from '../dossier/Fact.vue';
import LedgerView from '../dossier/LedgerView.vue';
import SideColumn from '../dossier/SideColumn.vue';
import OwnFields from '../fields/OwnFields.vue';
import LettersHere from '../letters/LettersHere.vue';
import GapsLine from '../lookups/GapsLine.vue';
import SourceMark from '../kit/SourceMark.vue';
import { noteRecent } from '../find/recent';
import { api } from '../shell/api';
import { fieldName, shortDay, yearlyDay } from '../shell/format';
import { gatherFetches, useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { provideVersion } from '../shell/useDraft';
import ConsentPanel from '../consent/ConsentPanel.vue';
import ReachMark from '../consent/ReachMark.vue';
import { consentLine } from '../consent/words';
import RhythmLine from '../round/RhythmLine.vue';
import AfterDeals from '../projects/AfterDeals.vue';
import Relations from '../relations/Relations.vue';
import HistoryLink from '../history/HistoryLink.vue';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import StandingCell from './StandingCell.vue';
import VisibilityLine from '../visibility/VisibilityLine.vue';
import PersonalPanel from './PersonalPanel.vue';
import PersonWays from './PersonWays.vue';

const props = defineProps<{ id: string }>();
const present = usePresence(() => props.id, 'people.change');
const undo = useUndo();
/** The parts of the page read for themselves; it is shown when all are there, so that nothing in it moves. */
const isWaiting = gatherFetches();
const router = useRouter();
const {
  data: person,
  error,
  load,
} = useFetched(
  () => api('GET /api/people/:id', { params: { id: props.id } }),
  [
    'people',
    'companies',
    'contact_points',
    'consents',
    'claims',
    'tasks',
    'leads',
    'deals',
    'deal_roles',
    'ledger_links',
    'kept_apart',
  ],
  () => [props.id],
);
const isForms = ref(false);
const isPersonal = ref(false);
const isConsent = ref(false);
/** What is known of it, in a line. */
const personalWords = computed(() =>
  [
    person.value?.birthday ? `born ${yearlyDay(person.value.birthday)}` : '',
    ...(person.value?.custom ?? [])
      .filter((field) => field.isPersonal && field.value)
      .map(({ value }) => value),
  ]
    .filter(Boolean)
    .join(', '),
);
const role = computed(() => person.value?.jobTitle.value ?? '');

provideVersion(() => person.value?.version);
const put =
  (field: 'fullName' | 'jobTitle' | 'address' | 'timeZone' | 'background' | 'birthday') =>
  async (value: string, version: number): Promise<void> => {
    const { eventId } = await api('PATCH /api/people/:id', {
      params: { id: props.id },
      body: { version, [field]: value || null },
    });
    undo.tell({ text: `${fieldName(field)} changed.`, eventId });
    await load();
  };

const putCustom =
  (key: string) =>
  async (value: string, version: number): Promise<void> => {
    const { eventId } = await api('PATCH /api/people/:id', {
      params: { id: props.id },
      body: { version, custom: { [key]: value } },
    });
    undo.tell({ text: 'Field changed.', eventId });
    await load();
  };

async function putTags(tags: string[]): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/people/:id', {
      params: { id: props.id },
      body: { version: person.value?.version ?? 1, tags },
    });
    undo.tell({ text: 'Tags changed.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
}

// An old link leads to the record this one became a part of.
watch(person, (now) => {
  if (now && now.id !== props.id) void router.replace(`/people/${now.id}`);
});

const putContact =
  (id: string) =>
  async (value: string, version: number): Promise<void> => {
    const { eventId } = value
      ? await api('PATCH /api/contacts/:id', { params: { id }, body: { version, value } })
      : await api('DELETE /api/contacts/:id', { params: { id } });
    undo.tell({ text: value ? 'Changed.' : 'Removed.', eventId });
    await load();
  };

watch(person, (now) => {
  if (now)
    noteRecent({
      kind: 'person',
      id: now.id,
      label: now.fullName.value ?? '',
      hint: now.company?.name ?? '',
    });
});
</script>

<template>
  <div v-if="person" v-show="!isWaiting" class="whole-page">
    <CardFrame
      kind="person"
      :name="person.fullName.value ?? ''"
      :paper="`/api/people/${person.id}/summary.pdf`"
    >
      <template #role>
        <span>
          {{ role
          }}<template v-if="person.company"
            >{{ role ? ' at ' : ''
            }}<RouterLink :to="`/companies/${person.company.id}`" class="quiet-link">{{
              person.company.name
            }}</RouterLink></template
          ><SourceMark :claim="person.companyClaim" />
        </span>
        <span>
          <StandingCell :person="person" @failed="load" />
          <template v-if="person.inactiveSince"
            >Inactive since {{ shortDay(person.inactiveSince) }} ·</template
          >
          since {{ shortDay(person.since)
          }}<template v-if="person.owner"> · {{ person.owner.name }}</template>
        </span>
        <VisibilityLine :id="person.id" kind="people" /> · <HistoryLink :id="id" />
        <PresenceLine :others="present" />
      </template>
      <template #facts>
        <Fact
          v-for="one in person.contacts"
          :key="one.id"
          :label="fieldName(one.kind, one.type)"
          field="value"
          :value="one.value"
          :claim="one.claim"
          :version="one.version"
          :save="putContact(one.id)"
          ><ReachMark :reach="one.reach"
        /></Fact>
        <Fact
          label="Name"
          field="fullName"
          :value="person.fullName.value"
          :claim="person.fullName.claim"
          :suggestion="person.fullName.suggestion"
          :save="put('fullName')"
        />
        <Fact
          label="Job title"
          field="jobTitle"
          :value="person.jobTitle.value"
          :claim="person.jobTitle.claim"
          :suggestion="person.jobTitle.suggestion"
          :save="put('jobTitle')"
        />
        <Fact
          label="Address"
          field="address"
          :value="person.address.value"
          :claim="person.address.claim"
          :suggestion="person.address.suggestion"
          :save="put('address')"
        >
          <PlaceLink :place="person.place" :address="person.address.value" />
        </Fact>
        <CardWord
          label="Consent"
          :words="consentLine(person.consents)"
          :is-open="isConsent"
          @press="isConsent = !isConsent"
        />
        <Fact
          label="Time zone"
          field="timeZone"
          :value="person.timeZone"
          :claim="person.timeZoneClaim"
          placeholder="Not known"
          :save="put('timeZone')"
        />
        <OwnFields
          :id="id"
          :key="id"
          record="person"
          :items="person.custom.filter(({ isPersonal }) => !isPersonal)"
          :save="putCustom"
        />
        <Fact
          label="Background"
          field="background"
          :value="person.background.value"
          :claim="person.background.claim"
          kind="long"
          placeholder="What to know about them"
          :save="put('background')"
        />
        <CardWord
          label="Personal"
          :words="personalWords || 'Add personal facts'"
          :is-open="isPersonal"
          @press="isPersonal = !isPersonal"
        />
        <TagField class="on-card tags" :model-value="person.tags" @update:model-value="putTags" />
        <AddContact :key="id" :person-id="id" @added="load" />
      </template>
      <template #side
        ><SideColumn :dossier="person" :people="person.colleagues" people-title="At the same company"
          ><LettersHere :key="id" :about="{ personId: id }" /><AfterDeals
            :key="id"
            :about="{ personId: id }" /><RhythmLine
            kind="person"
            :record="person"
            @changed="load" /><Relations
            :key="id"
            :person-id="person.id"
            :version="person.version"
            @changed="load"
        /></SideColumn>
      </template>
    </CardFrame>
    <ActionLine>
      <PersonWays :person="person" @changed="load" @forms="isForms = true" />
      <template #meter>
        <GapsLine :key="id" :person-id="person.id" :name="person.fullName.value ?? ''" @changed="load" />
      </template>
    </ActionLine>
    <PersonalPanel
      v-if="isPersonal"
      :key="id"
      :person="person"
      :put-birthday="put('birthday')"
      :put-custom="putCustom"
      @close="isPersonal = false"
    />
    <ConsentPanel
      v-else-if="isConsent"
      :id="person.id"
      :key="id"
      :name="person.fullName.value ?? ''"
      @close="isConsent = false"
    />
    <SidePanel v-else-if="isForms" :key="id" label="Forms they filled in" @close="isForms = false">
      <Submissions :about="{ personId: id }" empty="They have not filled in a form." />
    </SidePanel>
    <LedgerView :key="id" :about="{ personId: id }" />
    <Composer :about="{ personId: id }" />
  </div>
  <div v-if="!person || isWaiting" class="page">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-else
      ><span class="ghost" style="width: 30%; height: 24px"></span><span class="ghost"></span
      ><span class="ghost"></span
    ></template>
  </div>
</template>

<style scoped>
.v-input.tags {
  padding: 21px 0 5px;
  border-top: 1px solid var(--rule2);
}
</style>
