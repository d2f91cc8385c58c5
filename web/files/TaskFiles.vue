<script setup lang="ts">
import FileDrop from '../kit/FileDrop.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { watch } from 'vue';
import FileLines from './FileLines.vue';
import UploadLines from './UploadLines.vue';
import { useUploads } from './useUploads';

/** The files of a task. */
const props = defineProps<{ taskId: string }>();
const { data, error, load } = useFetched(
  () => api('GET /api/files', { query: { taskId: props.taskId, limit: 100 } }),
  ['files', 'file_versions'],
  () => [props.taskId],
);
watch(() => props.taskId, load);
const { uploads, take, dismiss } = useUploads(() => ({ taskId: props.taskId }));
</script>

<template>
  <h3>Files</h3>
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <FileLines v-if="data?.items.length" :files="data.items" />
  <UploadLines :uploads="uploads" @dismiss="dismiss" />
  <FileDrop accept="" multiple hint="Any file but programs" @take="take">
    Drop files here, or <u>choose them</u>
  </FileDrop>
</template>

<style scoped>
h3 {
  margin: 18px 0 2px;
}
</style>
