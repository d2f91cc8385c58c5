<script setup lang="ts">
import { LEAD_RATINGS, type LeadRating } from '@emporikon/core/lifecycle/statuses';
import { watch } from 'vue';
import RecordFields from '../fields/RecordFields.vue';
import Composer from '../dossier/Composer.vue';
import LedgerView from '../dossier/LedgerView.vue';
import OpenMoves from '../dossier/OpenMoves.vue';
import GapsLine from '../lookups/GapsLine.vue';
import JudgementLine from '../qualifying/JudgementLine.vue';
import EditCell from '../kit/EditCell.vue';
import { noteRecent } from '../find/recent';
import { api } from '../shell/api';
import { day } from '../shell/format';
import { gatherFetches, useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';
import CloneButton from '../cloning/CloneButton.vue';
import HistoryLink from '../history/HistoryLink.vue';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import VisibilityLine from '../visibility/VisibilityLine.vue';
import ConvertForm from './ConvertForm.vue';
import Questions from './Questions.vue';
import StatusLine from './StatusLine.vue';

const props = defineProps<{ id: string }>();
const present = usePresence(() => props.id, 'leads.change');
/** The parts of the page read for themselves; it is shown when all are there, so that nothing in it moves. */
const isWaiting = gatherFetches();
const {
  data: lead,
  error,
  load,
} = useFetched(
  () => api('GET /api/leads/:id', { params: { id: props.id } }),
  ['leads', 'lead_answers', 'questions', 'tasks', 'deals', 'people', 'companies', 'intents'],
  () => [props.id],
);
const team = useTeam();
const undo = useUndo();

async function put(
  patch: { ownerId?: string; source?: string; rating?: LeadRating | null },
  version: number,
): Promise<void> {
  const { eventId } = await api('PATCH /api/leads/:id', {
    params: { id: props.id },
    body: { version, ...patch },
  });
  const about = patch.ownerId ? { about: { leadId: props.id } } : {};
  undo.tell({ text: patch.ownerId ? 'Reassigned.' : 'Changed.', eventId, ...about });
  await load();
}
async function give(ownerId: string): Promise<void> {
  try {
    await put({ ownerId }, lead.value?.version ?? 1);
  } catch (problem) {
    undo.fail(problem);
    await load();
  }
}
watch(lead, (now) => {
  if (now) noteRecent({ kind: 'lead', id: now.id, label: now.title, hint: now.person.name });
});
</script>

<template>
  <div v-if="lead" v-show="!isWaiting" class="whole-page">
    <section class="card">
      <div class="who">
        <h1>{{ lead.title }}</h1>
        <p class="soft">
          <RouterLink :to="`/people/${lead.person.id}`" class="quiet-link">{{
            lead.person.name
          }}</RouterLink><template v-if="lead.company"
            >,
            <RouterLink :to="`/companies/${lead.company.id}`" class="quiet-link">{{
              lead.company.name
            }}</RouterLink></template
          >
          · <VisibilityLine :id="lead.id" :key="lead.id" kind="leads" /> · <HistoryLink :id="id" /> ·
          <CloneButton :id="id" kind="lead" />
          <PresenceLine :others="present" />
        </p>
        <dl class="facts">
          <div>
            <dt class="cap">Source</dt>
            <dd>
              <EditCell
                :value="lead.source"
                label="Source"
                :version="lead.version"
                field="source"
                :save="(source, version) => put({ source }, version)"
              />
            </dd>
          </div>
          <div>
            <dt class="cap">Rating</dt>
            <dd>
              <EditCell
                :value="lead.rating"
                kind="choice"
                :options="[
                  { value: '', title: 'None' },
                  ...LEAD_RATINGS.map((value) => ({ value, title: value })),
                ]"
                label="Rating"
                placeholder="none"
                :version="lead.version"
                field="rating"
                :save="(rating, version) => put({ rating: (rating || null) as LeadRating | null }, version)"
              />
            </dd>
          </div>
          <div>
            <dt class="cap">Owner</dt>
            <dd>
              <v-select
                class="on-card"
                aria-label="Owner"
                :model-value="lead.owner.id"
                :items="team"
                item-value="id"
                item-title="name"
                @update:model-value="give($event)"
              />
            </dd>
          </div>
          <div>
            <dt class="cap">Added</dt>
            <dd>{{ day(lead.createdAt) }}</dd>
          </div>
        </dl>
        <div class="own"><RecordFields :id="id" :key="id" record="lead" /></div>
        <StatusLine :lead="lead" @changed="load" />
        <OpenMoves :moves="lead.moves" />
      </div>
      <Questions :lead="lead" @changed="load" />
      <ConvertForm :lead="lead" @changed="load" />
    </section>
    <JudgementLine :key="id" :lead-id="id" />
    <GapsLine
      :key="lead.person.id"
      class="complete"
      :person-id="lead.person.id"
      :name="lead.person.name"
      @changed="load"
    />
    <LedgerView :key="id" :about="{ leadId: id }" />
    <Composer :about="{ leadId: id }" />
  </div>
  <div v-if="!lead || isWaiting" class="page">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-else
      ><span class="ghost" style="width: 30%; height: 24px"></span><span class="ghost"></span
      ><span class="ghost"></span
    ></template>
  </div>
</template>

<style scoped>
.complete {
  padding: 4px 24px;
}
.facts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 20px;
  margin: 0 0 10px;
  border-top: 1px solid var(--rule2);
  padding-top: 6px;
}
.own {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 20px;
}
.facts dd {
  margin: 0;
}
.card {
  background: var(--sheet);
  border-bottom: 1px solid var(--rule);
  padding: 14px 24px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr) 320px;
  gap: 12px 32px;
}
p {
  margin: 4px 0 10px;
}
@media (max-width: 1000px) {
  .card {
    grid-template-columns: 1fr 1fr;
  }
}
@media (max-width: 700px) {
  .card {
    grid-template-columns: 1fr;
    padding: 12px 14px;
  }
}
</style>
