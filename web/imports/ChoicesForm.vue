<script setup lang="ts">
import type { ImportChoices } from '@emporikon/contract/imports';
import { ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import TagField from '../shell/TagField.vue';
import { useUndo } from '../shell/undo';

const choices = defineModel<ImportChoices>({ required: true });
const undo = useUndo();
const { data: team } = useFetched(() => api('GET /api/users'), []);
const { data: lists, load } = useFetched(() => api('GET /api/lists'), ['lists']);
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
    <label class="field"
      ><span class="cap">With people we know</span>
      <select v-model="choices.known">
        <option value="fill blanks">fill what is blank</option>
        <option value="overwrite">overwrite what is there</option>
        <option value="skip">leave them alone</option>
      </select></label
    >
    <label class="field"
      ><span class="cap">With those who may be known</span>
      <select v-model="choices.maybe">
        <option value="skip">leave them out</option>
        <option value="as new">take them as new people</option>
      </select></label
    >
    <label class="field"
      ><span class="cap">May we write to them?</span>
      <select v-model="choices.consent">
        <option :value="null">not known</option>
        <option value="unconfirmed">asked, not confirmed</option>
        <option value="agreed">agreed</option>
      </select></label
    >
    <label class="field"
      ><span class="cap">Owner</span>
      <select v-model="choices.ownerId">
        <option :value="null">me</option>
        <option v-for="one in team?.items ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select></label
    >
    <label class="field"
      ><span class="cap">List</span>
      <select v-model="choices.listId">
        <option :value="null">none</option>
        <option v-for="one in lists?.items ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select></label
    >
    <label class="field"
      ><span class="cap">or a new list</span
      ><input v-model="newList" placeholder="its name" @change="addList"
    /></label>
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
