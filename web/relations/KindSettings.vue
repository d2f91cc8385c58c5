<script setup lang="ts">
import { ref } from 'vue';
import { useSave, type Saved } from '../pipelines/useSave';
import { api } from '../shell/api';
import EditCell from '../shell/EditCell.vue';
import { useFetched } from '../shell/live';

/** What people can be to each other, and what that is called from the other end. */
defineProps<{ mayEdit: boolean }>();
const { data, load } = useFetched(() => api('GET /api/relation-kinds'), ['relation_kinds']);
const save = useSave(load);
const draft = ref({ name: '', reverse: '' });
type Patch = { name?: string; reverse?: string; isLine?: boolean; active?: boolean };
const put = (id: string, version: number, patch: Patch): Promise<Saved> =>
  save('Changed.', () =>
    api('PATCH /api/relation-kinds/:id', { params: { id }, body: { version, ...patch } }),
  );

async function add(): Promise<void> {
  if ((await save('Added.', () => api('POST /api/relation-kinds', { body: draft.value }))) === true)
    draft.value = { name: '', reverse: '' };
}
</script>

<template>
  <section>
    <h2>Relations</h2>
    <p class="soft">What people can be to each other, and what it is called from the other end.</p>
    <div v-for="one in data?.items ?? []" :key="one.id" class="kind" :class="{ soft: !one.active }">
      <EditCell
        :value="one.name"
        :disabled="!mayEdit"
        maxlength="60"
        :label="`Name of the relation ${one.name}`"
        :version="one.version"
        field="name"
        :save="(text, version) => put(one.id, version, { name: text })"
      />
      <EditCell
        :value="one.reverse"
        :disabled="!mayEdit"
        maxlength="60"
        :label="`${one.name} from the other end`"
        :version="one.version"
        field="reverse"
        :save="(text, version) => put(one.id, version, { reverse: text })"
      />
      <label
        ><input
          type="checkbox"
          :checked="one.isLine"
          :disabled="!mayEdit"
          @change="put(one.id, one.version, { isLine: !one.isLine })"
        />
        in the chart</label
      >
      <button
        v-if="mayEdit"
        class="word"
        :aria-label="`${one.active ? 'Retire' : 'Take up'} ${one.name}`"
        @click="put(one.id, one.version, { active: !one.active })"
      >
        {{ one.active ? 'retire' : 'take up' }}
      </button>
    </div>
    <form v-if="mayEdit" class="kind" @submit.prevent="add">
      <input
        v-model="draft.name"
        class="inline-edit"
        required
        maxlength="60"
        placeholder="mentor of"
        aria-label="A new relation"
      />
      <input
        v-model="draft.reverse"
        class="inline-edit"
        required
        maxlength="60"
        placeholder="mentored by"
        aria-label="The new relation from the other end"
      />
      <button class="word" type="submit">Add</button>
    </form>
  </section>
</template>

<style scoped>
.kind {
  display: grid;
  grid-template-columns: 1fr 1fr auto auto;
  gap: 8px;
  align-items: center;
  padding: 2px 0;
}
label {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  min-height: 24px;
  font-size: 13px;
}
p {
  margin: 4px 0 8px;
}
</style>
