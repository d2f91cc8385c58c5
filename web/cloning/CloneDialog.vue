<script setup lang="ts">
import type { CloneKind, ClonePart } from '@emporikon/contract/cloning';
import { ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { vFocus } from '../kit/focus';
import { api, wordsOf } from '../shell/api';
import { useUndo } from '../shell/undo';
import { pathOf, wordsOfPart } from './words';

/** Copies a record under another name, with what is ticked. */
const props = defineProps<{ kind: CloneKind; id: string }>();
const emit = defineEmits<{ close: [] }>();
const undo = useUndo();
const router = useRouter();
const parts = shallowRef<{ part: ClonePart; count: number }[] | null>(null);
const chosen = ref<ClonePart[]>([]);
const name = ref('');
const old = ref('');
const error = ref('');
const isBusy = ref(false);
/** What is seldom wanted twice is not ticked from the beginning. */
const NOT_FROM_THE_BEGINNING = new Set<ClonePart>(['tasks', 'lists', 'answers']);

async function read(): Promise<void> {
  try {
    const found = await api('GET /api/clones/:kind/:id', { params: { kind: props.kind, id: props.id } });
    old.value = found.name;
    name.value = props.kind === 'person' ? '' : `${found.name} (copy)`.slice(0, 200);
    parts.value = found.parts;
    chosen.value = found.parts.map(({ part }) => part).filter((part) => !NOT_FROM_THE_BEGINNING.has(part));
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void read();

async function copy(): Promise<void> {
  if (!name.value.trim() || isBusy.value) return;
  isBusy.value = true;
  error.value = '';
  try {
    const { id, eventId } = await api('POST /api/clones/:kind/:id', {
      params: { kind: props.kind, id: props.id },
      body: { name: name.value, with: chosen.value },
    });
    emit('close');
    await router.push(pathOf(props.kind, id));
    undo.tell({ text: `Copied ${old.value}.`, eventId });
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog :model-value="true" :aria-label="`Copy ${old}`" width="460" @update:model-value="emit('close')">
    <form class="sheet" novalidate @submit.prevent="copy">
      <h2>Copy {{ old }}</h2>
      <template v-if="parts">
        <v-text-field
          v-model="name"
          v-focus="true"
          :label="kind === 'person' ? 'Name of the new person' : 'Name of the copy'"
          maxlength="200"
        />
        <div v-if="parts.length" role="group" aria-label="What comes along">
          <span class="cap">What comes along</span>
          <v-checkbox
            v-for="{ part, count } in parts"
            :key="part"
            v-model="chosen"
            :value="part"
            :label="wordsOfPart(kind, part, count)"
          />
        </div>
        <p class="soft">What was said and done stays with {{ old }}. The copy is yours and starts today.</p>
      </template>
      <span v-for="n in 3" v-else-if="!error" :key="n" class="ghost"></span>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div class="do">
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="!parts || !name.trim()"
          >Make the copy</v-btn
        >
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 12px;
  padding: 18px 22px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
p {
  margin: 0;
}
.do {
  display: flex;
  gap: 10px;
}
</style>
