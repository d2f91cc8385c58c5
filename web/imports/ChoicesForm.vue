<script setup lang="ts">
import type { ImportChoices } from '@emporikon/contract/imports';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import TagField from '../kit/TagField.vue';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';

const choices = defineModel<ImportChoices>({ required: true });
const undo = useUndo();
const team = useTeam();
const { data: lists, load } = useFetched(() => api('GET /api/lists'), ['lists']);
const { data: offered } = useFetched(() => api('GET /api/purposes'), ['purposes']);
const purposes = computed(() => (offered.value?.items ?? []).filter(({ kind }) => kind === 'mail'));
const newList = ref('');

async function addList(): Promise<void> {
  if (!newList.value.trim()) return;
  try {
    const { list } = await api('POST /api/lists', { body: { name: newList.value.trim() } });
    newList.value = '';
    await load();
    choices.value.listId = list.id;
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <div class="grid">
    <v-select
      v-model="choices.known"
      class="field"
      label="People already in your records"
      :items="[
        { value: 'fill blanks', title: 'Fill empty fields' },
        { value: 'overwrite', title: 'Overwrite' },
        { value: 'skip', title: 'Leave unchanged' },
      ]"
    />
    <v-select
      v-model="choices.maybe"
      class="field"
      label="People who may be in your records"
      :items="[
        { value: 'skip', title: 'Leave out' },
        { value: 'as new', title: 'Add as new people' },
      ]"
    />
    <v-select
      v-model="choices.consent"
      class="field"
      label="May you write to them?"
      :items="[
        { value: null, title: 'Not known' },
        { value: 'unconfirmed', title: 'Asked, not confirmed' },
        { value: 'agreed', title: 'They agreed' },
      ]"
    />
    <v-select
      v-if="choices.consent"
      v-model="choices.purposeIds"
      class="field"
      label="What they agreed to"
      multiple
      :placeholder="
        purposes
          .filter((one) => one.isDefault)
          .map((one) => one.name)
          .join(', ')
      "
      :items="purposes.map((one) => ({ value: one.id, title: one.name }))"
    />
    <v-select
      v-model="choices.ownerId"
      class="field"
      label="Owner"
      :items="[{ value: null, title: 'Me' }, ...team.map((one) => ({ value: one.id, title: one.name }))]"
    />
    <v-select
      v-model="choices.listId"
      class="field"
      label="List"
      :items="[
        { value: null, title: 'None' },
        ...(lists?.items ?? []).map((one) => ({ value: one.id, title: one.name })),
      ]"
    />
    <v-text-field
      v-model="newList"
      class="field"
      label="Or a new list"
      placeholder="Name"
      @change="addList"
    />
    <TagField v-model="choices.tags" />
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 8px 20px;
  padding: 12px 0;
}
</style>
