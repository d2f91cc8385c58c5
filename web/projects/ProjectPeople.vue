<script setup lang="ts">
import type { ProjectDetail } from '@emporikon/contract/projects';
import EditCell from '../kit/EditCell.vue';
import RecordPicker from '../kit/RecordPicker.vue';
import { api } from '../shell/api';
import { useTaskAction } from '../tasks/useTaskAction';

/** Who is on a project, and what each does on it. */
const props = defineProps<{ project: ProjectDetail }>();
const emit = defineEmits<{ changed: [] }>();
const run = useTaskAction();
const paramsOf = (personId: string): { id: string; personId: string } => ({
  id: props.project.id,
  personId,
});
const put = (personId: string, role: string): Promise<{ eventId: string | null }> =>
  api('PUT /api/projects/:id/people/:personId', { params: paramsOf(personId), body: { role } });
async function add(personId: string): Promise<void> {
  await run('Added to the project.', () => put(personId, ''));
  emit('changed');
}
async function remove(personId: string, name: string): Promise<void> {
  await run(`${name} is off the project.`, () =>
    api('DELETE /api/projects/:id/people/:personId', { params: paramsOf(personId) }),
  );
  emit('changed');
}
</script>

<template>
  <div class="people">
    <span class="cap">People on this project</span>
    <div v-for="one in project.people" :key="one.rowId" class="person">
      <RouterLink :to="`/people/${one.id}`" class="quiet-link name" :title="one.jobTitle ?? undefined">{{
        one.name
      }}</RouterLink>
      <EditCell
        :value="one.role"
        :label="`What ${one.name} does`"
        placeholder="Role"
        :version="1"
        :save="(role) => put(one.id, role)"
      />
      <v-btn
        class="word"
        :aria-label="`Remove ${one.name} from the project`"
        @click="remove(one.id, one.name)"
        >×</v-btn
      >
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
.word {
  padding: 0;
}
</style>
