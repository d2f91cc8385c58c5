<script setup lang="ts">
import RetireButton from '../kit/RetireButton.vue';
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import { ref } from 'vue';
import { useSave, type Saved } from '../pipelines/useSave';
import { api } from '../shell/api';
import EditCell from '../kit/EditCell.vue';
import { useFetched } from '../shell/live';

/** What people can be to each other, and what that is called from the other end. */

const session = useSession();
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
  <PageHead
    title="Relations"
    help="What people can be to each other, and what it is called from the other end. Those in the chart say who reports to whom."
  />
  <template v-if="!data"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <v-table v-else class="book">
    <thead>
      <tr>
        <th>Relation</th>
        <th>From the other end</th>
        <th>In the chart</th>
        <th><span class="visually-hidden">In use</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in data?.items ?? []" :key="one.id" :class="{ soft: !one.active }">
        <td>
          <EditCell
            :value="one.name"
            :disabled="!session.may('settings.fields')"
            :label="`Name of the relation ${one.name}`"
            :version="one.version"
            field="name"
            :save="(text, version) => put(one.id, version, { name: text })"
          />
        </td>
        <td>
          <EditCell
            :value="one.reverse"
            :disabled="!session.may('settings.fields')"
            :label="`${one.name} from the other end`"
            :version="one.version"
            field="reverse"
            :save="(text, version) => put(one.id, version, { reverse: text })"
          />
        </td>
        <td>
          <v-checkbox-btn
            :model-value="one.isLine"
            :disabled="!session.may('settings.fields')"
            :aria-label="`${one.name} in the chart`"
            @update:model-value="put(one.id, one.version, { isLine: !one.isLine })"
          />
        </td>
        <td>
          <RetireButton
            v-if="session.may('settings.fields')"
            :name="one.name"
            :active="one.active"
            @turn="put(one.id, one.version, { active: $event })"
          />
        </td>
      </tr>
    </tbody>
  </v-table>
  <form v-if="data && session.may('settings.fields')" class="add" @submit.prevent="add">
    <v-text-field v-model="draft.name" label="New relation" required maxlength="60" placeholder="Mentor of" />
    <v-text-field
      v-model="draft.reverse"
      label="From the other end"
      required
      maxlength="60"
      placeholder="Mentored by"
    />
    <v-btn class="fill" type="submit">Add a relation</v-btn>
  </form>
</template>

<style scoped>
.add {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 640px;
  padding-top: 14px;
}
.add > .v-input {
  flex: 1 1 180px;
}
</style>
