<script setup lang="ts">
import type { Letter } from '@emporikon/contract/letters';
import { ref } from 'vue';
import FileButton from '../kit/FileButton.vue';
import { api } from '../shell/api';
import { fileSize } from '../shell/format';
import { useUndo } from '../shell/undo';

/** The files that go out with a letter. */
const props = defineProps<{ letter: Letter; disabled: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
const isBusy = ref(false);

async function run(work: () => Promise<unknown>): Promise<void> {
  isBusy.value = true;
  try {
    await work();
    emit('changed');
  } catch (problem) {
    undo.fail(problem);
  } finally {
    isBusy.value = false;
  }
}
const add = (file: File): Promise<void> =>
  run(() =>
    api('POST /api/letters/:id/files', {
      params: { id: props.letter.id },
      query: { name: file.name },
      raw: { data: file, type: 'application/octet-stream' },
    }),
  );
const remove = (id: string): Promise<void> =>
  run(() => api('DELETE /api/letter-files/:id', { params: { id } }));
</script>

<template>
  <div>
    <span class="cap">Files</span>
    <ul v-if="letter.files.length">
      <li v-for="file in letter.files" :key="file.id">
        <span class="name">{{ file.name }}</span> <span class="soft num">{{ fileSize(file.size) }}</span>
        <v-btn v-if="!disabled" class="word" :aria-label="`Remove ${file.name}`" @click="remove(file.id)"
          >Remove</v-btn
        >
      </li>
    </ul>
    <FileButton v-if="!disabled" label="Attach a file" :busy="isBusy" @take="add">Attach a file</FileButton>
    <span v-else-if="!letter.files.length" class="soft">None</span>
  </div>
</template>

<style scoped>
.cap {
  display: block;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.name {
  overflow-wrap: anywhere;
}
</style>
