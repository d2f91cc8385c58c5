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
  <div v-if="teams && people.length" class="halves">
    <section>
      <h2>Teams</h2>
      <v-table v-if="teams.items.length" class="book">
        <thead>
          <tr>
            <th>Team</th>
            <th>Managers</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in teams.items" :key="one.id">
            <td>
              <b>{{ one.name }}</b><br /><span class="soft">{{
                one.members.map((member) => member.name).join(', ') || 'No members yet'
              }}</span>
            </td>
            <td>
              <v-autocomplete
                class="inline-edit"
                :model-value="one.managers.map(({ id }) => id)"
                :items="people"
                item-title="name"
                item-value="id"
                :aria-label="`Managers of ${one.name}`"
                multiple
                chips
                :disabled="!session.mayManage"
                @update:model-value="setManagers(one, $event)"
              />
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-else class="empty">No teams yet.</p>
      <form v-if="session.mayManage" class="add" @submit.prevent="add">
        <v-text-field v-model="name" label="New team" maxlength="60" />
        <v-btn class="fill" type="submit">Add a team</v-btn>
      </form>
    </section>
    <section>
      <h2>Members</h2>
      <v-table class="book">
        <thead>
          <tr>
            <th>Name</th>
            <th>Team</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in people" :key="one.id">
            <td>{{ one.name }}</td>
            <td>
              <v-select
                v-if="teams.items.length"
                class="inline-edit"
                :model-value="teamOf(one.id)"
                :items="teams.items.map((team) => team.name)"
                :aria-label="`Team of ${one.name}`"
                :disabled="!session.mayManage"
                placeholder="None"
                persistent-placeholder
                clearable
                @update:model-value="setTeam(one.id, one.name, $event)"
              />
              <span v-else class="soft">None</span>
            </td>
          </tr>
        </tbody>
      </v-table>
    </section>
  </div>
  <template v-else><span v-for="n in 6" :key="n" class="ghost"></span></template>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 20px 40px;
  align-items: start;
}
.add {
  display: grid;
  grid-template-columns: minmax(0, 300px) auto;
  gap: 8px;
  justify-content: start;
  align-items: end;
  padding-top: 14px;
}
.empty {
  padding: 10px 0;
}
</style>
