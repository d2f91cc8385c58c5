<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import { ref } from 'vue';
import { useSave, type Saved } from '../pipelines/useSave';
import { api } from '../shell/api';
import EditCell from '../shell/EditCell.vue';
import { useFetched } from '../shell/live';

/** What is done first with a new prospect: the plans that triage offers, a key each. */
defineProps<{ mayEdit: boolean }>();
type Plan = Reply<'GET /api/plans'>['items'][number];
const { data, load } = useFetched(() => api('GET /api/plans'), ['plans']);
const save = useSave(load);
const KINDS = ['call', 'mail', 'meeting', 'task'] as const;
const draft = ref({ name: '', kind: 'call' as Plan['kind'], title: '', days: 1 });
type Patch = { name?: string; kind?: Plan['kind']; title?: string; days?: number; active?: boolean };
const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value;
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
  <section>
    <h2>Plans for prospects</h2>
    <p class="soft">Triage offers those in use, a key each: the first move, so many working days on.</p>
    <div v-for="one in data?.items ?? []" :key="one.id" class="plan" :class="{ soft: !one.active }">
      <EditCell
        :value="one.name"
        :disabled="!mayEdit"
        maxlength="60"
        :label="`Name of the plan ${one.name}`"
        :version="one.version"
        field="name"
        :save="(text, version) => put(one, { name: text }, version)"
      />
      <select
        class="inline-edit"
        :value="one.kind"
        :disabled="!mayEdit"
        :aria-label="`What ${one.name} begins with`"
        @change="put(one, { kind: valueOf($event) as Plan['kind'] })"
      >
        <option v-for="kind in KINDS" :key="kind">{{ kind }}</option>
      </select>
      <EditCell
        type="number"
        min="0"
        max="365"
        :value="one.days"
        :disabled="!mayEdit"
        :label="`Working days until ${one.name}`"
        :version="one.version"
        field="days"
        :save="(text, version) => put(one, { days: Number(text) }, version)"
      />
      <button
        v-if="mayEdit"
        class="word"
        :aria-label="`${one.active ? 'Retire' : 'Take up'} ${one.name}`"
        @click="put(one, { active: !one.active })"
      >
        {{ one.active ? 'retire' : 'take up' }}
      </button>
      <EditCell
        class="title"
        :value="one.title"
        :disabled="!mayEdit"
        maxlength="200"
        :label="`First move of ${one.name}`"
        :version="one.version"
        field="title"
        :save="(text, version) => put(one, { title: text }, version)"
      />
    </div>
    <form v-if="mayEdit" class="plan" @submit.prevent="add">
      <input
        v-model="draft.name"
        class="inline-edit"
        required
        maxlength="60"
        placeholder="a new plan"
        aria-label="Name of a new plan"
      />
      <select v-model="draft.kind" class="inline-edit" aria-label="What the new plan begins with">
        <option v-for="kind in KINDS" :key="kind">{{ kind }}</option>
      </select>
      <input
        v-model.number="draft.days"
        class="inline-edit"
        type="number"
        min="0"
        max="365"
        aria-label="Working days until the new plan begins"
      />
      <button class="word" type="submit">Add</button>
      <input
        v-model="draft.title"
        class="inline-edit title"
        required
        maxlength="200"
        placeholder="the first move"
        aria-label="First move of the new plan"
      />
    </form>
  </section>
</template>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 96px 64px 64px;
  gap: 4px 8px;
  align-items: center;
  padding: 4px 0;
  border-top: 1px solid var(--rule2);
}
.title {
  grid-column: 1 / -1;
}
p {
  margin: 4px 0 8px;
}
</style>
