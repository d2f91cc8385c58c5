<script setup lang="ts">
import { getDocument, GlobalWorkerOptions, type PDFDocumentProxy } from 'pdfjs-dist';
import workerUrl from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import { counted } from '../shell/format';

/** The pages of a PDF, drawn one after the other; nothing in it is run. */
const props = defineProps<{ url: string; name: string }>();
GlobalWorkerOptions.workerSrc = workerUrl;
const AT_ONCE = 3;
const root = useTemplateRef('root');
const error = ref('');
const count = ref(0);
const drawn = ref(0);
const isDrawing = ref(true);
const task = getDocument({ url: props.url, isEvalSupported: false, withCredentials: true });
let pdf: PDFDocumentProxy | null = null;
let isGone = false;
let busy = Promise.resolve();

async function draw(number: number): Promise<void> {
  if (!pdf || !root.value) return;
  const page = await pdf.getPage(number);
  const width = root.value.clientWidth;
  const scale = (width / page.getViewport({ scale: 1 }).width) * Math.min(devicePixelRatio, 2);
  const viewport = page.getViewport({ scale });
  const canvas = document.createElement('canvas');
  canvas.width = viewport.width;
  canvas.height = viewport.height;
  canvas.setAttribute('role', 'img');
  canvas.setAttribute('aria-label', `Page ${number} of ${props.name}`);
  root.value.append(canvas);
  await page.render({ canvasContext: canvas.getContext('2d') as CanvasRenderingContext2D, viewport }).promise;
}
async function drawMore(): Promise<void> {
  isDrawing.value = true;
  try {
    const until = Math.min(drawn.value + AT_ONCE, count.value);
    while (!isGone && drawn.value < until) await draw(++drawn.value);
  } catch {
    error.value = 'This PDF cannot be shown. Save a copy to open it.';
  }
  isDrawing.value = false;
}
async function open(): Promise<void> {
  try {
    pdf = await task.promise;
    count.value = pdf.numPages;
  } catch {
    error.value = 'This PDF cannot be shown. Save a copy to open it.';
    isDrawing.value = false;
    return;
  }
  await drawMore();
}
const run = (work: () => Promise<void>): void => {
  busy = work();
};
onMounted(() => run(open));
onBeforeUnmount(() => {
  isGone = true;
  // A worker that is ended while it still opens the document calls that an error of its own.
  void busy.finally(() => void task.destroy());
});
</script>

<template>
  <div>
    <p v-if="error" class="soft says">{{ error }}</p>
    <div ref="root" class="pages"></div>
    <span v-if="isDrawing && !drawn" class="ghost"></span>
    <v-btn v-else-if="!isDrawing && drawn < count" class="quiet" @click="run(drawMore)"
      >Show more of {{ counted(count, 'page') }}</v-btn
    >
  </div>
</template>

<style scoped>
.says {
  padding: 8px 12px;
  margin: 0;
}
.pages :deep(canvas) {
  display: block;
  width: 100%;
  border-bottom: 1px solid var(--rule);
}
</style>
