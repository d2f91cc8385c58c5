<script setup lang="ts">
import { computed, watch } from 'vue';
import RecordFields from '../fields/RecordFields.vue';
import ActionLine from '../dossier/ActionLine.vue';
import CardFrame from '../dossier/CardFrame.vue';
import Composer from '../dossier/Composer.vue';
import Fact from '../dossier/Fact.vue';
import LedgerView from '../dossier/LedgerView.vue';
import SideColumn from '../dossier/SideColumn.vue';
import { noteRecent } from '../find/recent';
import HistoryLink from '../history/HistoryLink.vue';
import Progress from '../kit/Progress.vue';
import CloneButton from '../cloning/CloneButton.vue';
import WriteButton from '../letters/WriteButton.vue';
import NewLinks from '../make/NewLinks.vue';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import { api } from '../shell/api';
import { calendarDay, day, percent } from '../shell/format';
import { gatherFetches, useFetched } from '../shell/live';
import { provideVersion } from '../shell/useDraft';
import { useTeam } from '../shell/useTeam';
import { useUndo } from '../shell/undo';
import ProjectPeople from './ProjectPeople.vue';

/** A project: where it stands, who is on it, what is to be done, and all that was said while it runs. */
const props = defineProps<{ id: string }>();
const present = usePresence(() => props.id, 'projects.change');
const isWaiting = gatherFetches();
const undo = useUndo();
const team = useTeam();
const {
  data: project,
  error,
  load,
} = useFetched(
  () => api('GET /api/projects/:id', { params: { id: props.id } }),
  ['projects', 'project_people', 'project_stages', 'tasks', 'people', 'companies'],
  () => [props.id],
);
const { data: stages } = useFetched(() => api('GET /api/project-stages'), ['project_stages']);
const stageItems = computed(() =>
  (stages.value?.items ?? [])
    .filter(({ id, active }) => active || id === project.value?.stage.id)
    .map(({ id, name }) => ({ value: id, title: name })),
);
provideVersion(() => project.value?.version);
watch(project, (now) => {
  if (now) noteRecent({ kind: 'project', id: now.id, label: now.title, hint: now.company?.name ?? '' });
});
const side = computed(() => (project.value ? { moves: project.value.moves, deals: [], leads: [] } : null));

type Patch = {
  title?: string;
  stageId?: string;
  ownerId?: string;
  startsOn?: string | null;
  dueOn?: string | null;
  progress?: number | null;
  notes?: string;
};
async function put(patch: Patch, version?: number): Promise<void> {
  const { eventId } = await api('PATCH /api/projects/:id', {
    params: { id: props.id },
    body: { version: version ?? project.value?.version ?? 1, ...patch },
  });
  undo.tell({ text: 'Changed.', eventId });
  await load();
}
async function change(patch: Patch): Promise<void> {
  try {
    await put(patch);
  } catch (problem) {
    undo.fail(problem);
    await load();
  }
}
/** A share of a hundred as it was typed; empty follows the tasks. */
function progressIn(text: string): number | null {
  const trimmed = text.replace('%', '').trim();
  if (!trimmed) return null;
  const value = Number(trimmed);
  if (!Number.isInteger(value) || value < 0 || value > 100)
    throw new Error('Type a whole number from 0 to 100, or nothing to follow the tasks.');
  return value;
}
</script>

<template>
  <div v-if="project && side" v-show="!isWaiting" class="whole-page">
    <CardFrame kind="project" :name="project.title">
      <template #role>
        <RouterLink v-if="project.company" :to="`/companies/${project.company.id}`" class="quiet-link">{{
          project.company.name
        }}</RouterLink>
        <RouterLink v-if="project.deal" :to="`/deals/${project.deal.id}`" class="quiet-link"
          >From the deal</RouterLink
        >
        <span v-if="project.isLate" class="late">Was due {{ calendarDay(project.dueOn ?? '') }}</span>
        <HistoryLink :id="id" />
        <PresenceLine :others="present" />
      </template>
      <template #facts>
        <Fact
          label="Title"
          field="title"
          :value="project.title"
          :save="(value, version) => put({ title: value }, version)"
        />
        <div class="chosen">
          <span class="cap">Stage</span>
          <v-select
            class="on-card"
            aria-label="Stage"
            :model-value="project.stage.id"
            :items="stageItems"
            @update:model-value="change({ stageId: $event })"
          />
          <span class="cap">since {{ day(project.stageSince) }}</span>
        </div>
        <div class="chosen">
          <span class="cap">Owner</span>
          <v-select
            class="on-card"
            :model-value="project.owner.id"
            aria-label="Owner"
            :items="team"
            item-value="id"
            item-title="name"
            @update:model-value="change({ ownerId: $event })"
          />
        </div>
        <Fact
          label="Starts"
          field="startsOn"
          kind="date"
          :value="project.startsOn"
          :shown="project.startsOn ? calendarDay(project.startsOn) : undefined"
          placeholder="Not set"
          :save="(value, version) => put({ startsOn: value || null }, version)"
        />
        <Fact
          label="Due"
          field="dueOn"
          kind="date"
          :value="project.dueOn"
          :shown="project.dueOn ? calendarDay(project.dueOn) : undefined"
          placeholder="Not set"
          :save="(value, version) => put({ dueOn: value || null }, version)"
        />
        <Fact
          :label="project.progressByHand ? 'Progress, set by hand' : 'Progress, by its tasks'"
          field="progress"
          :value="project.progress === null ? null : String(project.progress)"
          :shown="project.progress === null ? undefined : percent(project.progress / 100)"
          placeholder="No tasks yet"
          :save="(value, version) => put({ progress: progressIn(value) }, version)"
        />
        <Fact
          label="Notes"
          field="notes"
          kind="long"
          :value="project.notes"
          placeholder="What is to be delivered"
          :save="(value, version) => put({ notes: value }, version)"
        />
        <RecordFields :id="id" :key="id" record="project" />
      </template>
      <template #side
        ><SideColumn :dossier="side" :people="[]" people-title=""
          ><ProjectPeople :project="project" @changed="load" /></SideColumn
      ></template>
    </CardFrame>
    <ActionLine>
      <WriteButton :letter="{ about: { projectId: id } }" />
      <NewLinks :begun="{ project: { id, label: project.title } }" :kinds="['task']" />
      <CloneButton :id="id" kind="project" />
      <template v-if="project.progress !== null" #meter>
        <Progress :value="project.progress" :max="100" label="Progress">
          <span class="num"
            >{{ percent(project.progress / 100)
            }}<template v-if="project.tasks"
              >, {{ project.tasksDone }} of {{ project.tasks }} tasks done</template
            ></span
          >
        </Progress>
      </template>
    </ActionLine>
    <LedgerView :key="id" :about="{ projectId: id }" />
    <Composer :about="{ projectId: id }" />
  </div>
  <div v-if="!project || isWaiting" class="page">
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
</style>
