<script setup lang="ts">
import type { SightChoice, SightDefault, SightKind, Team } from '@emporikon/contract/visibility';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import ChoiceFields from './ChoiceFields.vue';
import { KINDS } from './words';

/** Teams with their managers, and who sees new records. */
const props = defineProps<{ mayEdit: boolean }>();
const session = useSession();
const undo = useUndo();
const { data: teams, load: loadTeams } = useFetched(() => api('GET /api/teams'), ['teams', 'users']);
const { data: kept, load } = useFetched(() => api('GET /api/visibility-defaults'), ['visibility_defaults']);
const team = ref('');
const source = ref('');
const draft = ref<SightDefault[]>([]);
const keyOf = (one: Pick<SightDefault, 'kind' | 'source'>): string => `${one.kind}/${one.source ?? ''}`;
/** A default for each kind, and for each source of leads that has one. */
watch(
  kept,
  (now) => {
    const said = now?.items ?? [];
    draft.value = KINDS.flatMap(({ value }) => [
      said.find((one) => one.kind === value && !one.source) ?? {
        kind: value,
        visibility: 'everybody' as const,
      },
      ...said.filter((one) => one.kind === value && one.source),
    ]);
  },
  { immediate: true },
);
const isChanged = computed(() => {
  const plain = (items: readonly SightDefault[]): string =>
    JSON.stringify(
      items
        .filter(({ visibility }) => visibility !== 'everybody')
        .map((item) => [keyOf(item), item.visibility, item.teamId, item.peopleIds])
        .sort(),
    );
  return plain(draft.value) !== plain(kept.value?.items ?? []);
});
const isWhole = computed(() =>
  draft.value.every(
    ({ visibility, teamId, peopleIds }) =>
      (visibility !== 'team' || teamId) && (visibility !== 'named' || peopleIds?.length),
  ),
);
const titleOf = (kind: SightKind, of?: string): string =>
  `${KINDS.find(({ value }) => value === kind)?.title ?? ''}${of ? ` from “${of}”` : ''}`;
const put = (at: number, choice: SightChoice): void => {
  const there = draft.value[at];
  if (there)
    draft.value[at] = { kind: there.kind, ...(there.source ? { source: there.source } : {}), ...choice };
};

async function act(work: () => Promise<{ eventId: string | null }>, text: string): Promise<boolean> {
  try {
    undo.tell({ text, eventId: (await work()).eventId });
    return true;
  } catch (error) {
    undo.fail(error);
    return false;
  } finally {
    await Promise.all([loadTeams(), load()]);
  }
}
const save = (): Promise<boolean> =>
  act(
    () => api('PUT /api/visibility-defaults', { body: { items: draft.value } }),
    'Saved who sees new records.',
  );
function addSource(): void {
  const name = source.value.trim();
  if (!name) return;
  const at = draft.value.findLastIndex(({ kind }) => kind === 'leads');
  if (!draft.value.some((one) => one.kind === 'leads' && one.source === name))
    draft.value.splice(at + 1, 0, { kind: 'leads', source: name, visibility: 'owner' });
  source.value = '';
}
async function addTeam(): Promise<void> {
  const name = team.value.trim();
  if (name && (await act(() => api('POST /api/teams', { body: { name } }), `Added the team ${name}.`)))
    team.value = '';
}
const setManagers = ({ id, version, name }: Team, managerIds: string[]): Promise<boolean> =>
  act(
    () => api('PATCH /api/teams/:id', { params: { id }, body: { version, managerIds } }),
    `Changed who manages ${name}.`,
  );
const setTeam = (id: string, name: string, to: string | null): Promise<boolean> =>
  act(
    () => api('PATCH /api/users/:id', { params: { id }, body: { team: to ?? '' } }),
    to ? `${name} is in ${to} now.` : `${name} is in no team now.`,
  );
const teamOf = (id: string): string | null =>
  teams.value?.items.find(({ members }) => members.some((member) => member.id === id))?.name ?? null;
</script>

<template>
  <section id="teams">
    <h2>Teams</h2>
    <p class="soft">A manager of a team sees what its members own.</p>
    <div v-for="one in teams?.items ?? []" :key="one.id" class="row">
      <v-autocomplete
        :model-value="one.managers.map(({ id }) => id)"
        :items="session.team"
        item-title="name"
        item-value="id"
        :label="`Managers of ${one.name}`"
        multiple
        chips
        :disabled="!props.mayEdit"
        variant="outlined"
        density="compact"
        hide-details
        @update:model-value="setManagers(one, $event)"
      />
      <span class="soft">{{ one.members.map(({ name }) => name).join(', ') || 'No members yet' }}</span>
    </div>
    <form v-if="props.mayEdit" class="add" @submit.prevent="addTeam">
      <v-text-field
        v-model="team"
        label="New team"
        maxlength="60"
        variant="outlined"
        density="compact"
        hide-details
      />
      <v-btn class="quiet" type="submit">Add a team</v-btn>
    </form>
    <template v-if="props.mayEdit && teams?.items.length">
      <v-select
        v-for="one in session.team"
        :key="one.id"
        class="row"
        :model-value="teamOf(one.id)"
        :items="teams.items.map(({ name }) => name)"
        :label="`Team of ${one.name}`"
        clearable
        variant="outlined"
        density="compact"
        hide-details
        @update:model-value="setTeam(one.id, one.name, $event)"
      />
    </template>
  </section>
  <section id="visibility">
    <h2>Who sees new records</h2>
    <p class="soft">
      You can change this on each record. What belongs to a record is never visible to more people than the
      record itself.
    </p>
    <ChoiceFields
      v-for="(one, at) in draft"
      :key="keyOf(one)"
      class="row"
      :model-value="one"
      :teams="teams?.items ?? []"
      :label="titleOf(one.kind, one.source)"
      :is-off="!props.mayEdit"
      @update:model-value="put(at, $event)"
    />
    <template v-if="props.mayEdit">
      <form class="add" @submit.prevent="addSource">
        <v-text-field
          v-model="source"
          label="Lead source"
          maxlength="120"
          variant="outlined"
          density="compact"
          hide-details
        />
        <v-btn class="quiet" type="submit">Add a source</v-btn>
      </form>
      <v-btn class="fill" :disabled="!isChanged || !isWhole" @click="save">Save</v-btn>
    </template>
  </section>
</template>

<style scoped>
.row {
  margin-bottom: 10px;
}
.add {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: center;
  margin: 10px 0;
}
</style>
