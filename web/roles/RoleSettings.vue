<script setup lang="ts">
import type { OwnRole } from '@emporikon/contract/roles';
import { RIGHTS_OF, type Right } from '@emporikon/core/rights/rights';
import { computed, ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api, wordsOf } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import RightsTable from './RightsTable.vue';
import { BUILT_IN } from './words';

/** What people with each role may do; those of the organisation's own are made here. */
const undo = useUndo();
const { data, error, load } = useFetched(() => api('GET /api/roles'), ['roles', 'users']);

interface Draft {
  /** The role that is changed; null for a new one. */
  role: OwnRole | null;
  name: string;
  basedOn: OwnRole['basedOn'];
  rights: readonly Right[];
}
const shown = ref<string>('rep');
const draft = ref<Draft | null>(null);
const wrong = ref('');
const isBusy = ref(false);
const fixed = computed(() => BUILT_IN.find(({ role }) => role === shown.value) ?? null);
const all = computed(() => [
  ...BUILT_IN.map(({ role, name }) => ({ id: role as string, name })),
  ...(data.value?.items ?? []),
]);
const BASES = [
  { value: 'rep', title: 'Rep' },
  { value: 'manager', title: 'Manager' },
];

function open(key: string): void {
  const role = data.value?.items.find(({ id }) => id === key) ?? null;
  shown.value = key;
  wrong.value = '';
  draft.value = role
    ? { role, name: role.name, basedOn: role.basedOn, rights: role.rights }
    : key === 'new'
      ? { role: null, name: '', basedOn: 'rep', rights: [...RIGHTS_OF.rep] }
      : null;
}
const isChanged = computed(() => {
  if (!draft.value) return false;
  const { role, name, basedOn, rights } = draft.value;
  return !role || name !== role.name || basedOn !== role.basedOn || rights.join() !== role.rights.join();
});

async function act(
  work: () => Promise<{ eventId: string | null; id?: string }>,
  text: string,
): Promise<void> {
  isBusy.value = true;
  wrong.value = '';
  const key = shown.value;
  try {
    const { eventId, id } = await work();
    undo.tell({ text, eventId });
    await load();
    open(id ?? (key !== 'new' && data.value?.items.some((one) => one.id === key) ? key : 'rep'));
  } catch (problem) {
    wrong.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
function save(): Promise<void> {
  if (!draft.value) return Promise.resolve();
  const { role, name, basedOn, rights } = draft.value;
  const body = { name: name.trim(), basedOn, rights: [...rights] };
  return role
    ? act(
        () =>
          api('PATCH /api/roles/:id', { params: { id: role.id }, body: { version: role.version, ...body } }),
        `Saved ${body.name}. It counts at once for everybody who has it.`,
      )
    : act(() => api('POST /api/roles', { body }), `Added ${body.name}. Give it to people under Accounts.`);
}
const remove = (role: OwnRole): Promise<void> =>
  act(() => api('DELETE /api/roles/:id', { params: { id: role.id } }), `Removed ${role.name}.`);
</script>

<template>
  <PageHead
    title="Roles"
    help="What people with each role may do. Add roles of your own where rep, manager and admin do not fit."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <template v-else-if="data">
    <nav class="roles" aria-label="Roles">
      <v-btn
        v-for="one in all"
        :key="one.id"
        class="word"
        :class="{ on: shown === one.id }"
        :aria-pressed="shown === one.id"
        @click="open(one.id)"
        >{{ one.name }}</v-btn
      >
      <v-btn class="line" :aria-pressed="shown === 'new'" @click="open('new')">Add a role</v-btn>
    </nav>
    <template v-if="fixed">
      <p class="soft says">{{ fixed.says }} This role is always there and cannot be changed.</p>
      <RightsTable :model-value="[...RIGHTS_OF[fixed.role]]" is-fixed />
    </template>
    <form v-else-if="draft" @submit.prevent="save">
      <div class="top">
        <v-text-field v-model="draft.name" label="Name" required maxlength="60" />
        <v-select
          v-model="draft.basedOn"
          label="Based on"
          :items="BASES"
          hint="A manager also sees what only an owner and their managers see."
          persistent-hint
        />
        <div class="do">
          <v-btn class="fill" type="submit" :disabled="!isChanged || !draft.name.trim()" :loading="isBusy">{{
            draft.role ? 'Save' : 'Add the role'
          }}</v-btn>
          <v-btn v-if="isChanged" class="quiet" @click="open(draft.role?.id ?? 'rep')">Cancel</v-btn>
          <v-btn v-if="draft.role && !draft.role.users.length" class="word" @click="remove(draft.role)"
            >Remove this role</v-btn
          >
        </div>
      </div>
      <p class="soft who">
        {{
          draft.role
            ? draft.role.users.length
              ? `Held by ${draft.role.users.join(', ')}`
              : 'Nobody has this role yet'
            : 'Begins with what a rep may do'
        }}
      </p>
      <RightsTable v-model="draft.rights" :is-fixed="false" />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </form>
  </template>
  <template v-else><span v-for="n in 8" :key="n" class="ghost"></span></template>
</template>

<style scoped>
.roles {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  padding: 4px 0 10px;
}
.roles .on {
  font-weight: 600;
}
.says {
  margin: 0 0 8px;
}
.top {
  display: grid;
  grid-template-columns: minmax(0, 260px) minmax(0, 320px) 1fr;
  gap: 16px;
  align-items: start;
  padding-bottom: 8px;
}
.who {
  margin: 0 0 6px;
}
.do {
  display: flex;
  gap: 12px;
  align-items: center;
  padding-top: 20px;
}
@media (max-width: 800px) {
  .top {
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
  .who {
    margin: 0;
  }
}
</style>
