<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import { computed, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { useUndo } from '../shell/undo';
import { goneLines, keptLines } from './words';

/** What somebody can ask for: everything that is known of them, and to be forgotten. */
const props = defineProps<{ id: string; name: string }>();
const emit = defineEmits<{ close: [] }>();
const undo = useUndo();
const router = useRouter();
const preview = shallowRef<Reply<'GET /api/people/:id/erasure'> | null>(null);
const error = ref('');
const isBusy = ref(false);
const note = ref('');
const typed = ref('');
const isSame = (a: string, b: string): boolean =>
  a.trim().localeCompare(b.trim(), undefined, { sensitivity: 'base' }) === 0;
const mayErase = computed(
  () => preview.value !== null && !preview.value.obstacles.length && isSame(typed.value, props.name),
);

async function read(): Promise<void> {
  try {
    preview.value = await api('GET /api/people/:id/erasure', { params: { id: props.id } });
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void read();

async function erase(): Promise<void> {
  if (!mayErase.value) return;
  isBusy.value = true;
  error.value = '';
  try {
    await api('POST /api/people/:id/erasure', { params: { id: props.id }, body: { note: note.value } });
    await router.push('/people');
    undo.tell({ text: 'Erased. Leads, deals and dates are kept without the person.', eventId: null });
    emit('close');
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="620"
    aria-labelledby="data-title"
    @update:model-value="emit('close')"
  >
    <v-card class="data">
      <h2 id="data-title">Data about {{ name }}</h2>
      <section>
        <h3>Everything in one file</h3>
        <p class="soft">
          For {{ name }}, if they ask what you know about them: every fact with its source, everything said,
          the original messages and files.
        </p>
        <v-btn class="quiet" :href="`/api/people/${id}/everything.zip`" download>Download everything</v-btn>
      </section>
      <form @submit.prevent="erase">
        <h3>Erase for good</h3>
        <div v-if="preview" class="sides">
          <div>
            <span class="cap">Goes</span>
            <ul>
              <li>Name, job title and all other fields</li>
              <li v-for="line in goneLines(preview.counts)" :key="line">{{ line }}</li>
            </ul>
          </div>
          <div>
            <span class="cap">Stays, without saying who it was</span>
            <ul>
              <li v-for="line in keptLines(preview.counts)" :key="line">{{ line }}</li>
              <li>A scrambled mark of their addresses, so that an import does not bring them back</li>
            </ul>
          </div>
        </div>
        <template v-else-if="!error"><span v-for="n in 3" :key="n" class="ghost"></span></template>
        <p class="soft">
          Also in the change history. Export files made so far are deleted, since they may hold {{ name }}.
          Backups keep them until they are replaced. This cannot be undone.
        </p>
        <p v-for="one in preview?.obstacles" :key="one" class="wrong">Not possible just now: {{ one }}.</p>
        <v-text-field v-model="note" label="Why (say nothing here that tells who it was)" maxlength="500" />
        <v-text-field v-model="typed" :label="`Type “${name}” to erase them`" autocomplete="off" />
        <p v-if="error" class="wrong" role="alert">{{ error }}</p>
        <div class="actions">
          <v-btn class="fill" type="submit" :disabled="!mayErase" :loading="isBusy">Erase for good</v-btn>
          <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.data {
  display: grid;
  gap: 18px;
  padding: 18px 22px;
  overflow-y: auto;
}
section,
form {
  display: grid;
  gap: 10px;
  justify-items: start;
}
form {
  justify-items: stretch;
  padding-top: 14px;
  border-top: 1px solid var(--rule);
}
.sides {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 8px 22px;
}
ul {
  margin: 2px 0 0;
  padding: 0;
  list-style: none;
}
p {
  margin: 0;
}
.actions {
  display: flex;
  gap: 10px;
}
</style>
