<script setup lang="ts">
import type { CasePromise } from '@emporikon/contract/cases';
import type { ProjectStage } from '@emporikon/contract/projects';
import { ref } from 'vue';
import { urgencyWord } from '../cases/words';
import EditCell from '../kit/EditCell.vue';
import NumberField from '../kit/NumberField.vue';
import PageHead from '../kit/PageHead.vue';
import RetireButton from '../kit/RetireButton.vue';
import { api } from '../shell/api';
import { counted } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useTaskAction } from '../tasks/useTaskAction';

/** The stages of projects, and within how many working hours cases are answered and solved. */
const session = useSession();
const run = useTaskAction();
const { data: stages, load: loadStages } = useFetched(
  () => api('GET /api/project-stages'),
  ['project_stages', 'projects'],
);
const { data: promises, load: loadPromises } = useFetched(
  () => api('GET /api/case-promises'),
  ['case_promises'],
);
const KINDS = [
  { value: 'open', title: 'Open' },
  { value: 'done', title: 'Done' },
  { value: 'stopped', title: 'Stopped' },
] as const;
const name = ref('');
const kind = ref<ProjectStage['kind']>('open');

type Patch = { name?: string; position?: number; active?: boolean };
const putStage = (
  stage: ProjectStage,
  patch: Patch,
  version = stage.version,
): Promise<{ eventId: string | null }> =>
  api('PATCH /api/project-stages/:id', { params: { id: stage.id }, body: { version, ...patch } });
async function change(stage: ProjectStage, patch: Patch): Promise<void> {
  await run(`Changed the stage ${stage.name}.`, () => putStage(stage, patch));
  await loadStages();
}
async function add(): Promise<void> {
  const body = { name: name.value.trim(), kind: kind.value };
  if (await run(`Added the stage ${body.name}.`, () => api('POST /api/project-stages', { body })))
    name.value = '';
  await loadStages();
}
async function promise(
  one: CasePromise,
  patch: { answerHours?: number; solveHours?: number },
): Promise<void> {
  await run('Changed what is promised.', () =>
    api('PATCH /api/case-promises/:id', { params: { id: one.id }, body: { version: one.version, ...patch } }),
  );
  await loadPromises();
}
</script>

<template>
  <PageHead
    title="Projects and cases"
    help="What comes after the deal. A project is what you deliver; a case is somebody’s trouble, with a promise of when it is answered and solved."
  />
  <template v-if="!stages || !promises"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <section v-if="stages && promises">
    <h2>Stages of projects</h2>
    <v-table class="book">
      <thead>
        <tr>
          <th>Stage</th>
          <th>A project in it is</th>
          <th class="num">Order</th>
          <th>In it now</th>
          <th><span class="visually-hidden">In use</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in stages.items" :key="one.id" :class="{ soft: !one.active }">
          <td>
            <EditCell
              label="Stage"
              :version="one.version"
              field="name"
              :value="one.name"
              :disabled="!session.may('settings.organisation')"
              :save="(value, version) => putStage(one, { name: value }, version)"
            />
          </td>
          <td>{{ KINDS.find(({ value }) => value === one.kind)?.title }}</td>
          <td class="num">
            <NumberField
              :model-value="one.position"
              :min="1"
              :max="100"
              :aria-label="`Order of ${one.name}`"
              :disabled="!session.may('settings.organisation')"
              @change="change(one, { position: $event })"
            />
          </td>
          <td>{{ counted(one.projects, 'project') }}</td>
          <td>
            <RetireButton
              v-if="session.may('settings.organisation')"
              :name="one.name"
              :active="one.active"
              @turn="change(one, { active: !one.active })"
            />
          </td>
        </tr>
      </tbody>
    </v-table>
    <form v-if="session.may('settings.organisation')" class="make" @submit.prevent="add">
      <v-text-field
        v-model="name"
        label="Another stage"
        required
        maxlength="60"
        placeholder="Waiting for parts"
      />
      <v-select v-model="kind" label="A project in it is" :items="KINDS" />
      <v-btn class="fill" type="submit" :disabled="!name.trim()">Add a stage</v-btn>
    </form>
  </section>
  <section v-if="stages && promises">
    <h2>What is promised for cases</h2>
    <p class="soft">
      In working hours of whoever looks after the case. Open cases keep what they were promised.
    </p>
    <v-table class="book promises">
      <thead>
        <tr>
          <th>Urgency</th>
          <th class="num">First answer within, hours</th>
          <th class="num">Solved within, hours</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in promises.items" :key="one.id">
          <td>{{ urgencyWord(one.urgency) }}</td>
          <td class="num">
            <NumberField
              :model-value="one.answerHours"
              :min="1"
              :max="1000"
              :aria-label="`First answer, ${urgencyWord(one.urgency)}, hours`"
              :disabled="!session.may('settings.organisation')"
              @change="promise(one, { answerHours: $event })"
            />
          </td>
          <td class="num">
            <NumberField
              :model-value="one.solveHours"
              :min="1"
              :max="2000"
              :aria-label="`Solved, ${urgencyWord(one.urgency)}, hours`"
              :disabled="!session.may('settings.organisation')"
              @change="promise(one, { solveHours: $event })"
            />
          </td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>

<style scoped>
section {
  padding-bottom: 22px;
}
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 640px;
  padding-top: 14px;
}
.promises {
  max-width: 560px;
}
</style>
