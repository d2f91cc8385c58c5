<script setup lang="ts">
import RetireButton from '../kit/RetireButton.vue';
import type { Question } from '@emporikon/contract/settings';
import { ref } from 'vue';
import EditCell from '../kit/EditCell.vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

const session = useSession();
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/questions'), ['questions']);
const label = ref('');

type Patch = { label?: string; help?: string; active?: boolean };
async function put(question: Question, patch: Patch, version = question.version): Promise<void> {
  const { eventId } = await api('PATCH /api/questions/:id', {
    params: { id: question.id },
    body: { version, ...patch },
  });
  undo.tell({ text: 'Changed.', eventId });
  await load();
}
const retire = (question: Question): void =>
  void put(question, { active: !question.active }).catch(undo.fail);

async function add(): Promise<void> {
  try {
    const { eventId } = await api('POST /api/questions', { body: { label: label.value } });
    label.value = '';
    undo.tell({ text: 'Added.', eventId });
    await load();
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <PageHead
    title="Qualifying questions"
    help="What you want to know about every lead. They stand on the lead’s page."
  />
  <template v-if="!data"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <v-table v-else class="book">
    <thead>
      <tr>
        <th>Question</th>
        <th>What to find out</th>
        <th><span class="visually-hidden">In use</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in data?.items ?? []" :key="one.id" :class="{ soft: !one.active }">
        <td>
          <EditCell
            label="Question"
            :version="one.version"
            field="label"
            :value="one.label"
            :disabled="!session.may('settings.scoring')"
            :save="(value, version) => put(one, { label: value }, version)"
          />
        </td>
        <td>
          <EditCell
            label="What to find out"
            :version="one.version"
            field="help"
            :value="one.help"
            :disabled="!session.may('settings.scoring')"
            :save="(value, version) => put(one, { help: value }, version)"
          />
        </td>
        <td>
          <RetireButton
            v-if="session.may('settings.scoring')"
            :name="one.label"
            :active="one.active"
            @turn="retire(one)"
          />
        </td>
      </tr>
    </tbody>
  </v-table>
  <form v-if="data && session.may('settings.scoring')" class="make" @submit.prevent="add">
    <v-text-field v-model="label" label="Another question" required maxlength="120" />
    <v-btn class="fill" type="submit">Add a question</v-btn>
  </form>
</template>

<style scoped>
.make {
  display: flex;
  gap: 10px;
  align-items: end;
  max-width: 560px;
  padding-top: 14px;
}
</style>
