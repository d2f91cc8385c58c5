<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import EditCell from '../kit/EditCell.vue';
import FileDrop from '../kit/FileDrop.vue';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { fileSize, when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useTaskAction } from '../tasks/useTaskAction';
import UploadLines from './UploadLines.vue';
import { useUploads } from './useUploads';
import { contentOf, stateWords } from './words';

/** A file beside the page: what is in it, where it belongs, and what it was before. */
const props = defineProps<{ id: string }>();
const emit = defineEmits<{ close: [] }>();
const PdfPages = defineAsyncComponent(() => import('./PdfPages.vue'));
const run = useTaskAction();
const {
  data: file,
  error,
  isGone,
  load,
} = useFetched(
  () => api('GET /api/files/:id', { params: { id: props.id } }),
  ['files', 'file_versions'],
  () => [props.id],
);
watch(() => props.id, load);
watch(isGone, (gone) => gone && emit('close'));
const { uploads, take, dismiss } = useUploads(() => ({ fileId: props.id }));

/** The version that is looked at; the newest unless another is chosen. */
const chosen = ref<number | null>(null);
watch([() => props.id, () => file.value?.number], () => (chosen.value = null));
const shown = computed(
  () => file.value?.versions.find(({ number }) => number === chosen.value) ?? file.value?.versions[0],
);
const isOpenable = computed(() => shown.value && !stateWords(shown.value));
const isNewest = computed(() => shown.value?.number === file.value?.number);
const places = computed(() => [
  ...(file.value?.people ?? []).map(({ id, name }) => ({ name, to: `/people/${id}` })),
  ...(file.value?.companies ?? []).map(({ id, name }) => ({ name, to: `/companies/${id}` })),
  ...(file.value?.deals ?? []).map(({ id, name }) => ({ name, to: `/deals/${id}` })),
]);

const rename = async (name: string, version: number): Promise<{ eventId: string | null }> =>
  api('PATCH /api/files/:id', { params: { id: props.id }, body: { version, name } });
async function remove(): Promise<void> {
  const name = file.value?.name ?? '';
  if (await run(`Removed ${name}.`, () => api('DELETE /api/files/:id', { params: { id: props.id } })))
    emit('close');
}
</script>

<template>
  <SidePanel label="File" @close="emit('close')">
    <div class="file" @keydown.esc="emit('close')">
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="file && shown">
        <h2>
          <EditCell :value="file.name" label="Name" :save="rename" :version="file.version" field="name" />
        </h2>
        <p class="soft">
          {{ fileSize(shown.size) }} · {{ when(shown.at) }} · {{ shown.by ?? 'came by email' }}
          <template v-if="file.versions.length > 1"> · version {{ shown.number }}</template>
        </p>
        <p v-if="stateWords(shown)" class="late" role="status">{{ stateWords(shown) }}.</p>
        <p v-if="isOpenable" class="ways">
          <v-btn class="fill" :href="contentOf(id, shown.number)" download>Save a copy</v-btn>
        </p>
        <div v-if="isOpenable" class="look">
          <img
            v-if="shown.preview === 'image'"
            :src="contentOf(id, shown.number, true)"
            :alt="`The picture ${shown.name}`"
          />
          <PdfPages
            v-else-if="shown.preview === 'pdf'"
            :key="shown.number"
            :url="contentOf(id, shown.number, true)"
            :name="shown.name"
          />
          <pre
            v-else-if="shown.preview === 'text' && isNewest && file.text"
            tabindex="0"
            aria-label="What it says"
            >{{ file.text }}</pre>
          <p v-else-if="shown.preview === 'text'" class="soft">
            {{ isNewest ? 'The preview is not made yet.' : 'Save a copy to read this version.' }}
          </p>
          <p v-else class="soft">No preview for this kind of file.</p>
        </div>
        <template v-if="places.length || file.task">
          <h3>Belongs to</h3>
          <ul class="rows">
            <li v-for="place in places" :key="place.to">
              <RouterLink :to="place.to" class="quiet-link">{{ place.name }}</RouterLink>
            </li>
            <li v-if="file.task">
              <RouterLink :to="{ query: { task: file.task.id } }" class="quiet-link">{{
                file.task.name
              }}</RouterLink>
            </li>
          </ul>
        </template>
        <h3>Versions</h3>
        <ol v-if="file.versions.length > 1" class="rows" aria-label="Versions">
          <li v-for="one in file.versions" :key="one.number">
            <v-btn class="word" :aria-pressed="one.number === shown.number" @click="chosen = one.number"
              >Version {{ one.number }}</v-btn
            >
            <span class="soft"
              >{{ one.name }} · {{ fileSize(one.size) }} · {{ when(one.at) }} ·
              {{ one.by ?? 'by email' }}</span
            >
          </li>
        </ol>
        <FileDrop accept="" hint="The earlier ones are kept" @take="take">
          Drop a newer version here, or <u>choose one</u>
        </FileDrop>
        <UploadLines :uploads="uploads" @dismiss="dismiss" />
        <p v-if="file.isMine" class="last">
          <v-btn class="word" @click="remove">Remove</v-btn>
        </p>
      </template>
      <template v-else-if="!error"><span v-for="n in 6" :key="n" class="ghost"></span></template>
    </div>
  </SidePanel>
</template>

<style scoped>
.file {
  padding: 10px 24px 24px;
  overflow-wrap: anywhere;
}
.look {
  margin: 10px 0;
  border: 1px solid var(--rule);
  background: var(--sheet);
}
.look > p {
  padding: 8px 12px;
  margin: 0;
}
.look img {
  display: block;
  max-width: 100%;
  margin: 0 auto;
}
.look pre {
  margin: 0;
  padding: 10px 12px;
  max-height: 420px;
  overflow: auto;
  white-space: pre-wrap;
  font-size: 12.5px;
}
h3 {
  margin: 18px 0 2px;
}
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
}
.rows li {
  border-top: 1px solid var(--rule);
  padding: 4px 0;
}
.last {
  margin-top: 16px;
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
@media (max-width: 700px) {
  .file {
    padding: 8px 14px 20px;
  }
}
</style>
