<script setup lang="ts">
import type { DealDetail } from '@emporikon/contract/deals';
import { DEAL_ROLES, type DealRole } from '@emporikon/core/lifecycle/conversion';
import { api } from '../shell/api';
import RecordPicker from '../kit/RecordPicker.vue';
import { useUndo } from '../shell/undo';

/** The people on a deal and the role of each. */
const props = defineProps<{ deal: DealDetail }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();

async function put(people: { personId: string; role: DealRole }[]): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/deals/:id/people', {
      params: { id: props.deal.id },
      body: { people },
    });
    if (eventId) undo.tell({ text: 'Changed who is on it.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  emit('changed');
}
const parts = (): { roleId: string; personId: string; role: DealRole }[] =>
  props.deal.people.map((person) => ({ roleId: person.roleId, personId: person.id, role: person.role }));
const bare = (all: ReturnType<typeof parts>): { personId: string; role: DealRole }[] =>
  all.map(({ personId, role }) => ({ personId, role }));
const setRole = (roleId: string, role: string): Promise<void> =>
  put(bare(parts().map((part) => (part.roleId === roleId ? { ...part, role: role as DealRole } : part))));
const drop = (roleId: string): Promise<void> => put(bare(parts().filter((part) => part.roleId !== roleId)));
const add = (personId: string): Promise<void> =>
  put([...bare(parts()), { personId, role: props.deal.people.length ? 'influences' : 'decides' }]);
</script>

<template>
  <div class="people">
    <span class="cap">People on this deal</span>
    <div v-for="one in deal.people" :key="one.roleId" class="person">
      <RouterLink :to="`/people/${one.id}`" class="quiet-link name" :title="one.jobTitle ?? undefined">{{
        one.name
      }}</RouterLink>
      <v-select
        class="role on-card"
        :aria-label="`Role of ${one.name}`"
        :model-value="one.role"
        :items="DEAL_ROLES"
        @update:model-value="setRole(one.roleId, $event)"
      />
      <v-btn class="word" :aria-label="`Remove ${one.name} from the deal`" @click="drop(one.roleId)">×</v-btn>
    </div>
    <RecordPicker
      kind="person"
      label="Add a person"
      class="on-card"
      placeholder="Add a person"
      @pick="add($event.id)"
    />
  </div>
</template>

<style scoped>
.cap {
  display: block;
}
.person {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 8px;
  align-items: center;
  min-height: 26px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.role {
  color: var(--soft);
}
.word {
  padding: 0;
}
</style>
