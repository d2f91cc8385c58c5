<script setup lang="ts">
import RetireButton from '../kit/RetireButton.vue';
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import NumberField from '../kit/NumberField.vue';
import type { Reply } from '@emporikon/contract';
import { ref } from 'vue';
import { useSave, type Saved } from '../pipelines/useSave';
import { api } from '../shell/api';
import EditCell from '../kit/EditCell.vue';
import { useFetched } from '../shell/live';

/** What is done first with a new prospect: the plans that triage offers, a key each. */
type Plan = Reply<'GET /api/plans'>['items'][number];

const session = useSession();
const { data, load } = useFetched(() => api('GET /api/plans'), ['plans']);
const save = useSave(load);
const KINDS = [
  { value: 'call', title: 'Call' },
  { value: 'mail', title: 'Mail' },
  { value: 'meeting', title: 'Meeting' },
  { value: 'task', title: 'Task' },
] as const;
const draft = ref({ name: '', kind: 'call' as Plan['kind'], title: '', days: 1 });
type Patch = { name?: string; kind?: Plan['kind']; title?: string; days?: number; active?: boolean };
const put = (one: Plan, patch: Patch, version = one.version): Promise<Saved> =>
  save(`Changed ${one.name}.`, () =>
    api('PATCH /api/plans/:id', { params: { id: one.id }, body: { version, ...patch } }),
  );

async function add(): Promise<void> {
  if (
    (await save(`Added ${draft.value.name}.`, () => api('POST /api/plans', { body: draft.value }))) === true
  )
    draft.value = { name: '', kind: 'call', title: '', days: 1 };
}
</script>

<template>
  <PageHead
    title="Plans for prospects"
    help="What happens first with a new prospect. Triage offers each plan in use under a key: its first move, due so many working days later."
  />
  <template v-if="!data"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <div v-else class="scroll" tabindex="0" role="region" aria-label="Plans">
    <v-table class="book">
      <thead>
        <tr>
          <th>Plan</th>
          <th>Begins with</th>
          <th>First move</th>
          <th class="num">Working days later</th>
          <th><span class="visually-hidden">In use</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data?.items ?? []" :key="one.id" :class="{ soft: !one.active }">
          <td>
            <EditCell
              :value="one.name"
              :disabled="!session.may('settings.scoring')"
              :label="`Name of the plan ${one.name}`"
              :version="one.version"
              field="name"
              :save="(text, version) => put(one, { name: text }, version)"
            />
          </td>
          <td>
            <EditCell
              :value="one.kind"
              kind="choice"
              :options="KINDS"
              :shown="KINDS.find(({ value }) => value === one.kind)?.title"
              :disabled="!session.may('settings.scoring')"
              :label="`What ${one.name} begins with`"
              :version="one.version"
              field="kind"
              :save="(text, version) => put(one, { kind: text as Plan['kind'] }, version)"
            />
          </td>
          <td>
            <EditCell
              :value="one.title"
              :disabled="!session.may('settings.scoring')"
              :label="`First move of ${one.name}`"
              :version="one.version"
              field="title"
              :save="(text, version) => put(one, { title: text }, version)"
            />
          </td>
          <td class="num">
            <EditCell
              kind="number"
              :value="one.days"
              :disabled="!session.may('settings.scoring')"
              :label="`Working days until ${one.name}`"
              :version="one.version"
              field="days"
              :save="(text, version) => put(one, { days: Number(text) }, version)"
            />
          </td>
          <td>
            <RetireButton
              v-if="session.may('settings.scoring')"
              :name="one.name"
              :active="one.active"
              @turn="put(one, { active: $event })"
            />
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
  <form v-if="data && session.may('settings.scoring')" class="add" @submit.prevent="add">
    <v-text-field v-model="draft.name" label="New plan" required maxlength="60" />
    <v-select v-model="draft.kind" label="Begins with" :items="KINDS" />
    <v-text-field v-model="draft.title" label="First move" required maxlength="200" />
    <NumberField v-model="draft.days" label="Working days later" :min="0" :max="365" />
    <v-btn class="fill" type="submit">Add a plan</v-btn>
  </form>
</template>

<style scoped>
.add {
  display: grid;
  grid-template-columns: 1fr 130px 1.6fr 130px auto;
  gap: 10px;
  align-items: end;
  padding-top: 14px;
}
@media (max-width: 900px) {
  .add {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
