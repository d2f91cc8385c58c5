<script setup lang="ts">
import type { Question } from '@emporikon/contract/settings';
import { ref } from 'vue';
import Fact from '../dossier/Fact.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

defineProps<{ mayEdit: boolean }>();
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
  <section>
    <h2>Qualifying questions</h2>
    <p class="soft">
      <RouterLink class="quiet-link" to="/qualifying">Fit, warmth and win chance</RouterLink> have a page of
      their own.
    </p>
    <p class="soft">Asked on every lead{{ mayEdit ? '' : '; a manager can change them' }}.</p>
    <div v-for="one in data?.items ?? []" :key="one.id" class="question">
      <Fact
        label="Question"
        :version="one.version"
        field="label"
        :value="one.label"
        :save="mayEdit ? (value, version) => put(one, { label: value }, version) : undefined"
      />
      <Fact
        label="What to find out"
        :version="one.version"
        field="help"
        :value="one.help"
        :save="mayEdit ? (value, version) => put(one, { help: value }, version) : undefined"
      />
      <button
        v-if="mayEdit"
        class="word"
        :aria-label="`${one.active ? 'Retire' : 'Ask again'}: ${one.label}`"
        @click="retire(one)"
      >
        {{ one.active ? 'retire' : 'ask again' }}
      </button>
    </div>
    <form v-if="mayEdit" class="make" @submit.prevent="add">
      <label class="field"
        ><span class="cap">Another question</span><input v-model="label" required maxlength="120"
      /></label>
      <v-btn class="quiet" type="submit">Add</v-btn>
    </form>
  </section>
</template>

<style scoped>
p {
  margin: 4px 0 8px;
}
.question {
  display: grid;
  grid-template-columns: 1fr 1.4fr auto;
  gap: 12px;
  align-items: start;
}
.make {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: end;
  padding-top: 8px;
}
</style>
