<script setup lang="ts">
import type { About } from '@emporikon/contract/ledger';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import FilesPanel from './FilesPanel.vue';
import UploadLines from './UploadLines.vue';
import { useFileDrag } from './useFileDrag';
import type { Target } from './upload';
import { useUploads } from './useUploads';

/** The files of a record: opened beside its page, and added by dropping them anywhere on it. */
const props = defineProps<{ about: About }>();
const route = useRoute();
const router = useRouter();
const isOpen = ref(false);
const { uploads, take, dismiss } = useUploads(() => props.about as Target);
/** What is dropped on an open panel is meant for what the panel shows. */
const isFree = computed(() => !isOpen.value && !route.query.task && !route.query.file);
const { isOver } = useFileDrag(isFree, take);
function open(): void {
  void router.push({ query: { ...route.query, file: undefined, task: undefined } });
  isOpen.value = true;
}
</script>

<template>
  <v-btn class="word" :aria-expanded="isOpen" @click="isOpen ? (isOpen = false) : open()">Files</v-btn>
  <UploadLines :uploads="uploads" class="wide" @dismiss="dismiss" />
  <FilesPanel v-if="isOpen && !route.query.file" :about="about" @close="isOpen = false" @take="take" />
  <div v-if="isOver" class="target" aria-hidden="true"><span>Drop to add to this record</span></div>
</template>

<style scoped>
.wide {
  flex: 1 0 100%;
}
.target {
  position: fixed;
  inset: 0;
  z-index: 30;
  display: grid;
  place-content: center;
  pointer-events: none;
  background: color-mix(in srgb, var(--ground) 80%, transparent);
  outline: 2px dashed var(--ours);
  outline-offset: -10px;
}
.target span {
  font: 600 20px/1.2 var(--head);
}
</style>
