<script setup lang="ts">
import type { Team } from '@emporikon/contract/visibility';
import { ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';

/** Teams, their members and their managers. */
const session = useSession();
const people = useTeam();
const undo = useUndo();
const { data: teams, load } = useFetched(() => api('GET /api/teams'), ['teams', 'users']);
const name = ref('');

async function act(work: () => Promise<{ eventId: string | null }>, text: string): Promise<boolean> {
  try {
    undo.tell({ text, eventId: (await work()).eventId });
    return true;
  } catch (error) {
    undo.fail(error);
    return false;
  } finally {
    await load();
  }
}
async function add(): Promise<void> {
  const team = name.value.trim();
  if (team && (await act(() => api('POST /api/teams', { body: { name: team } }), `Added the team ${team}.`)))
    name.value = '';
}
const setManagers = ({ id, version, name: team }: Team, managerIds: string[]): Promise<boolean> =>
  act(
    () => api('PATCH /api/teams/:id', { params: { id }, body: { version, managerIds } }),
    `Changed who manages ${team}.`,
  );
const setTeam = (id: string, person: string, to: string | null): Promise<boolean> =>
  act(
    () => api('PATCH /api/users/:id', { params: { id }, body: { team: to ?? '' } }),
    to ? `${person} is now in ${to}.` : `${person} is now in no team.`,
  );
const teamOf = (id: string): string | null =>
  teams.value?.items.find(({ members }) => members.some((member) => member.id === id))?.name ?? null;
</script>

<template>
  <PageHead
    title="Teams"
    help="A manager of a team sees what its members own. The forecast and the lanes can be narrowed to a team."
  />
  <div class="halves">
    <section>
      <h2>Managers</h2>
      <div v-for="one in teams?.items ?? []" :key="one.id" class="row">
        <v-autocomplete
          :model-value="one.managers.map(({ id }) => id)"
          :items="people"
          item-title="name"
          item-value="id"
          :label="`Managers of ${one.name}`"
          :hint="one.members.map((member) => member.name).join(', ') || 'No members yet'"
          persistent-hint
          multiple
          chips
          :disabled="!session.mayManage"
          @update:model-value="setManagers(one, $event)"
        />
      </div>
      <form v-if="session.mayManage" class="add" @submit.prevent="add">
        <v-text-field v-model="name" label="New team" maxlength="60" />
        <v-btn class="quiet" type="submit">Add a team</v-btn>
      </form>
    </section>
    <section v-if="teams?.items.length">
      <h2>Members</h2>
      <v-select
        v-for="one in people"
        :key="one.id"
        class="row"
        :model-value="teamOf(one.id)"
        :items="teams.items.map((team) => team.name)"
        :label="`Team of ${one.name}`"
        :disabled="!session.mayManage"
        placeholder="None"
        persistent-placeholder
        clearable
        @update:model-value="setTeam(one.id, one.name, $event)"
      />
    </section>
  </div>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 20px 40px;
  max-width: 900px;
}
.row {
  margin: 8px 0;
}
.add {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
</style>
