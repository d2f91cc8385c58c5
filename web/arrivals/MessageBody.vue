<script setup lang="ts">
import type { CaptureDetail } from '@emporikon/contract/captures';
import { computed, ref, watch } from 'vue';
import letters from '@fontsource-variable/commissioner/files/commissioner-latin-wght-normal.woff2?url';
import { useLooks } from '../shell/theme';
import { cutText, type Stretch } from './stretches';

const props = defineProps<{
  capture: Pick<
    CaptureDetail,
    'id' | 'body' | 'text' | 'sender' | 'subject' | 'claims' | 'intents' | 'attachments' | 'notices'
  >;
}>();
const lit = defineModel<string | null>('lit', { default: null });
const { name: theme } = useLooks();
const frame = ref<HTMLIFrameElement | null>(null);
const height = ref(420);

const marks = computed(() => [
  ...props.capture.claims
    .filter((claim) => claim.fate !== 'rejected')
    .map(({ id, span }) => ({ id, span, kind: 'claim' as const })),
  ...props.capture.intents
    .filter((intent) => intent.fate !== 'rejected')
    .map(({ id, span }) => ({ id, span, kind: 'intent' as const })),
]);
const sender = computed(() => {
  const from = props.capture.sender;
  return from?.name && from.address ? `${from.name} <${from.address}>` : from?.name || from?.address || '';
});
const fromLine = computed(() => cutText(sender.value, marks.value, 'from'));
const lines = computed(() => cutText(props.capture.text, marks.value, 'text'));

const isLit = (stretch: Stretch): boolean => lit.value !== null && stretch.ids.includes(lit.value);

function light(): void {
  const page = frame.value?.contentDocument;
  if (!page?.body) return;
  page.body.classList.toggle('lamplight', theme.value === 'lamplight');
  for (const mark of page.querySelectorAll<HTMLElement>('mark[data-read]')) {
    mark.classList.toggle('lit', mark.dataset.read === lit.value);
    mark.classList.toggle(
      'intent',
      props.capture.intents.some((intent) => intent.id === mark.dataset.read),
    );
  }
}

/** The frame runs no script of its own; what happens in it is heard from here. */
function listen(): void {
  const page = frame.value?.contentDocument;
  if (!page?.body) return;
  page.fonts.add(new FontFace('Commissioner Variable', `url(${letters})`, { weight: '100 900' }));
  height.value = Math.min(Math.max(page.documentElement.scrollHeight + 8, 160), 6000);
  const point = (event: Event): void => {
    const mark = (event.target as HTMLElement).closest<HTMLElement>('mark[data-read]');
    lit.value = mark?.dataset.read ?? null;
  };
  for (const kind of ['mouseover', 'focusin']) page.addEventListener(kind, point);
  for (const kind of ['mouseleave', 'focusout']) page.addEventListener(kind, () => (lit.value = null));
  light();
}
watch([lit, theme], light);
watch(lit, (id) => {
  if (id) document.querySelector(`[data-stretch~="${CSS.escape(id)}"]`)?.scrollIntoView({ block: 'nearest' });
});
</script>

<template>
  <h2 class="subject">{{ capture.subject }}</h2>
  <div v-if="sender" class="soft from">
    <component
      :is="stretch.ids.length ? 'mark' : 'span'"
      v-for="(stretch, index) in fromLine"
      :key="index"
      :class="[stretch.kind, { lit: isLit(stretch) }]"
      :tabindex="stretch.ids.length ? 0 : undefined"
      @mouseenter="lit = stretch.ids[0] ?? null"
      @mouseleave="lit = null"
      @focus="lit = stretch.ids[0] ?? null"
      @blur="lit = null"
      >{{ stretch.text }}</component
    >
  </div>
  <p v-for="notice in capture.notices" :key="notice" class="cap notice">{{ notice }}</p>
  <iframe
    v-if="capture.body === 'html'"
    ref="frame"
    title="The message"
    :src="`/api/captures/${capture.id}/message`"
    sandbox="allow-same-origin"
    referrerpolicy="no-referrer"
    :style="{ height: `${height}px` }"
    @load="listen"
  ></iframe>
  <div v-else class="text">
    <component
      :is="stretch.ids.length ? 'mark' : 'span'"
      v-for="(stretch, index) in lines"
      :key="index"
      :data-stretch="stretch.ids.join(' ') || undefined"
      :class="[stretch.kind, { lit: isLit(stretch) }]"
      :tabindex="stretch.opens ? 0 : undefined"
      @mouseenter="lit = stretch.ids[0] ?? null"
      @mouseleave="lit = null"
      @focus="lit = stretch.ids[0] ?? null"
      @blur="lit = null"
      >{{ stretch.text }}</component
    >
  </div>
  <p v-if="capture.attachments.length" class="cap notice">
    Attachments:
    <template v-for="(one, index) in capture.attachments" :key="one.href"
      >{{ index ? ', ' : '' }}<a :href="one.href" class="quiet-link" download>{{ one.name }}</a></template
    >
  </p>
</template>

<style scoped>
.subject {
  margin: 4px 0 2px;
  overflow-wrap: anywhere;
}
.from {
  overflow-wrap: anywhere;
}
.text {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  margin-top: 12px;
  max-width: 78ch;
}
.notice {
  margin: 6px 0 0;
}
mark {
  background: none;
  color: inherit;
  text-decoration: underline var(--theirs) 2px;
  text-underline-offset: 3px;
}
mark.intent {
  text-decoration: underline wavy var(--wait-line) 1px;
}
mark.lit {
  background: var(--lit);
}
iframe {
  width: 100%;
  border: 0;
  margin-top: 10px;
  background: var(--sheet);
}
</style>
