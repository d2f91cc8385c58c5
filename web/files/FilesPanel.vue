<script setup lang="ts">
import type { File } from '@emporikon/contract/files';
import type { About } from '@emporikon/contract/ledger';
import { ref } from 'vue';
import FileDrop from '../kit/FileDrop.vue';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { reloadOn, usePaged } from '../shell/usePaged';
import FileLines from './FileLines.vue';

/** The files of a record beside its page, found by their names and by what they say. */
const props = defineProps<{ about: About }>();
const emit = defineEmits<{ close: []; take: [files: FileList | null | undefined] }>();
const q = ref('');
const { items, hasMore, more, error, reload } = usePaged<File>(
  (cursor) => api('GET /api/files', { query: { ...props.about, q: q.value, cursor, limit: 50 } }),
  ['files', 'file_versions'],
);
reloadOn(() => q.value, reload);
</script>

<template>
  <SidePanel label="Files" @close="emit('close')">
    <div class="record-files" @keydown.esc="emit('close')">
      <v-text-field
        v-model="q"
        label="Find a file"
        placeholder="By its name, or what it says"
        clearable
        @click:clear="q = ''"
      />
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <FileLines v-if="items?.length" :files="items" :says-whose="!about.personId" />
      <p v-else-if="items" class="empty">{{ q ? 'Nothing here matches.' : 'No files yet.' }}</p>
      <template v-else-if="!error"><span v-for="n in 4" :key="n" class="ghost"></span></template>
      <v-btn v-if="hasMore" class="quiet" @click="more">Show earlier</v-btn>
      <FileDrop accept="" multiple hint="Any file but programs" @take="emit('take', $event)">
        Drop files here, or <u>choose them</u>
      </FileDrop>
    </div>
  </SidePanel>
</template>

<style scoped>
.record-files {
  display: grid;
  gap: 10px;
  padding: 14px 24px 24px;
}
@media (max-width: 700px) {
  .record-files {
    padding: 10px 14px 20px;
  }
}
</style>
