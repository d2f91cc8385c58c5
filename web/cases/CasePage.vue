<script setup lang="ts">
import type { CaseDetail } from '@emporikon/contract/cases';
import { computed, ref, watch } from 'vue';
import RecordFields from '../fields/RecordFields.vue';
import ActionLine from '../dossier/ActionLine.vue';
import CardFrame from '../dossier/CardFrame.vue';
import Composer from '../dossier/Composer.vue';
import Fact from '../dossier/Fact.vue';
import LedgerView from '../dossier/LedgerView.vue';
import SideColumn from '../dossier/SideColumn.vue';
import { noteRecent } from '../find/recent';
import HistoryLink from '../history/HistoryLink.vue';
import CloneButton from '../cloning/CloneButton.vue';
import WriteButton from '../letters/WriteButton.vue';
import NewLinks from '../make/NewLinks.vue';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { gatherFetches, useFetched } from '../shell/live';
import { provideVersion } from '../shell/useDraft';
import { useTeam } from '../shell/useTeam';
import { useUndo } from '../shell/undo';
import { CAME_BY, promiseWords, stateWord, URGENCIES, urgencyWord } from './words';

/** Somebody's trouble: what happened, what was promised, and all that was said about it. */
const props = defineProps<{ id: string }>();
const present = usePresence(() => props.id, 'projects.change');
const isWaiting = gatherFetches();
const undo = useUndo();
const team = useTeam();
const {
  data: found,
  error,
  load,
} = useFetched(
  () => api('GET /api/cases/:id', { params: { id: props.id } }),
  ['cases', 'ledger_links', 'ledger_entries', 'tasks', 'people', 'companies'],
  () => [props.id],
);
provideVersion(() => found.value?.version);
watch(found, (now) => {
  if (now)
    noteRecent({
      kind: 'case',
      id: now.id,
      label: now.title,
      hint: now.person?.name ?? now.company?.name ?? '',
    });
});
const side = computed(() => (found.value ? { moves: found.value.moves, deals: [], leads: [] } : null));
const isSolving = ref(false);
const solution = ref('');

type Patch = {
  title?: string;
  words?: string;
  urgency?: CaseDetail['urgency'];
  ownerId?: string;
  solved?: boolean;
  solution?: string;
};
async function put(patch: Patch, version?: number, text = 'Changed.'): Promise<void> {
  const { eventId } = await api('PATCH /api/cases/:id', {
    params: { id: props.id },
    body: { version: version ?? found.value?.version ?? 1, ...patch },
  });
  undo.tell({ text, eventId });
  await load();
}
async function change(patch: Patch, text?: string): Promise<boolean> {
  try {
    await put(patch, undefined, text);
    return true;
  } catch (problem) {
    undo.fail(problem);
    await load();
    return false;
  }
}
async function solve(): Promise<void> {
  const how = solution.value.trim();
  if (
    await change({ solved: true, ...(how ? { solution: how } : {}) }, `Solved: ${found.value?.title ?? ''}.`)
  ) {
    isSolving.value = false;
    solution.value = '';
  }
}
</script>

<template>
  <div v-if="found && side" v-show="!isWaiting" class="whole-page">
    <CardFrame kind="case" :name="found.title">
      <template #role>
        <RouterLink v-if="found.person" :to="`/people/${found.person.id}`" class="quiet-link">{{
          found.person.name
        }}</RouterLink>
        <RouterLink v-if="found.company" :to="`/companies/${found.company.id}`" class="quiet-link">{{
          found.company.name
        }}</RouterLink>
        <b :class="found.state">{{ stateWord(found.state) }}</b>
        <span :class="{ late: found.late && found.state !== 'solved' }">{{ promiseWords(found) }}</span>
        · <HistoryLink :id="id" />
        <PresenceLine :others="present" />
      </template>
      <template #facts>
        <Fact
          label="What happened"
          field="words"
          kind="long"
          :value="found.words"
          placeholder="In their words"
          :save="(value, version) => put({ words: value }, version)"
        />
        <Fact
          label="Urgency"
          field="urgency"
          kind="choice"
          :options="[...URGENCIES]"
          :value="found.urgency"
          :shown="urgencyWord(found.urgency)"
          :save="(value, version) => put({ urgency: value as CaseDetail['urgency'] }, version)"
        />
        <div class="chosen">
          <span class="cap">Owner</span>
          <v-select
            class="on-card"
            :model-value="found.owner.id"
            aria-label="Owner"
            :items="team"
            item-value="id"
            item-title="name"
            @update:model-value="change({ ownerId: $event })"
          />
        </div>
        <Fact
          label="First answer"
          field="answeredAt"
          :value="found.answeredAt"
          :shown="
            found.answeredAt
              ? `${when(found.answeredAt)}${found.answeredAt > found.answerBy ? ', later than promised' : ''}`
              : undefined
          "
          :placeholder="`Promised by ${when(found.answerBy)}`"
        />
        <Fact
          :label="found.solvedAt ? 'Solved' : 'To be solved by'"
          field="solveBy"
          :value="found.solvedAt ?? found.solveBy"
          :shown="when(found.solvedAt ?? found.solveBy)"
        />
        <Fact
          label="Opened"
          field="openedAt"
          :value="found.openedAt"
          :shown="`${when(found.openedAt)}, ${CAME_BY[found.cameBy]}`"
        />
        <Fact
          label="Title"
          field="title"
          :value="found.title"
          :save="(value, version) => put({ title: value }, version)"
        />
        <Fact
          v-if="found.solvedAt || found.solution"
          label="How it was solved"
          field="solution"
          kind="long"
          :value="found.solution"
          placeholder="Not said"
          :save="(value, version) => put({ solution: value }, version)"
        />
        <RecordFields :id="id" :key="id" record="case" />
      </template>
      <template #side
        ><SideColumn :dossier="side" :people="[]" people-title=""
          ><RouterLink v-if="found.captureId" :to="`/arrivals/${found.captureId}`" class="quiet-link"
            >Open the message</RouterLink
          ><RouterLink v-if="found.deal" :to="`/deals/${found.deal.id}`" class="quiet-link">{{
            found.deal.name
          }}</RouterLink></SideColumn
        ></template
      >
    </CardFrame>
    <ActionLine>
      <v-btn v-if="found.solvedAt" class="line" @click="change({ solved: false }, 'Open again.')"
        >Open again</v-btn
      >
      <form v-else-if="isSolving" class="solving" @submit.prevent="solve">
        <v-text-field
          v-model="solution"
          class="inline-edit"
          aria-label="How it was solved"
          placeholder="How it was solved, for next time"
          maxlength="2000"
          autofocus
          @keydown.esc.stop="isSolving = false"
        />
        <v-btn class="fill" type="submit">Solved</v-btn>
        <v-btn class="word" @click="isSolving = false">Cancel</v-btn>
      </form>
      <v-btn v-else class="fill" @click="isSolving = true">Solved…</v-btn>
      <WriteButton :letter="{ about: { caseId: id } }" />
      <NewLinks :begun="{ case: { id, label: found.title } }" :kinds="['task']" />
      <CloneButton :id="id" kind="case" />
    </ActionLine>
    <LedgerView :key="id" :about="{ caseId: id }" />
    <Composer :about="{ caseId: id }" />
  </div>
  <div v-if="!found || isWaiting" class="page">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-else
      ><span class="ghost" style="width: 30%; height: 24px"></span><span class="ghost"></span
      ><span class="ghost"></span
    ></template>
  </div>
</template>

<style scoped>
.chosen {
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
}
.chosen .cap {
  display: block;
  line-height: 1.2;
}
.new,
.ours {
  color: var(--ours);
}
.theirs {
  color: var(--theirs);
}
.solving {
  display: flex;
  flex: 1;
  gap: 10px;
  align-items: center;
  max-width: 640px;
}
</style>
