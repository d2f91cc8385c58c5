<script setup lang="ts">
import type { FollowUp } from '@emporikon/contract/letters';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import RichText from '../kit/RichText.vue';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import FollowUpLine from './FollowUpLine.vue';
import LetterFiles from './LetterFiles.vue';
import LetterPreview from './LetterPreview.vue';
import LetterTo from './LetterTo.vue';
import type { Recipient, Way } from './recipients';
import SendPart from './SendPart.vue';
import TemplateList from './TemplateList.vue';
import { recordPath } from './paths';
import { useLetter } from './useLetter';

/** A letter to somebody: whom it goes to, what it says, when it goes out; once it went out, what became of it. */
const props = defineProps<{ id: string }>();
const router = useRouter();
const undo = useUndo();
const session = useSession();
const { letter, error, isOvertaken, isSaving, put, flush, show, load } = useLetter(props.id);
const isBusy = ref(false);
const view = ref<'write' | 'preview' | 'plain'>('write');
const text = useTemplateRef('text');
const sending = useTemplateRef('sending');
const isDraft = computed(() => letter.value?.state === 'draft' || letter.value?.state === 'failed');
/** One begins to write at once; a template brings its subject along. */
watch(
  () => text.value !== null && letter.value !== null,
  (isReady, was) => isReady && !was && text.value?.focusOwn(),
  { flush: 'post' },
);
const { data: templates } = useFetched(() => api('GET /api/letter-templates'), ['letter_templates']);
const known = computed(() => templates.value?.items ?? []);
const suggest = (word: string): { id: string; name: string } | null =>
  known.value.find(({ shortcut }) => shortcut?.toLowerCase() === word.toLowerCase()) ?? null;

const preview = ref<{ from: string; subject: string; html: string; text: string } | null>(null);
async function look(at: 'write' | 'preview' | 'plain'): Promise<void> {
  view.value = at;
  if (at === 'write') return;
  await run(async () => {
    if (isDraft.value) await flush();
    preview.value = await api('GET /api/letters/:id/preview', { params: { id: props.id } });
  });
}

async function run(work: () => Promise<void>): Promise<boolean> {
  if (isBusy.value) return false;
  isBusy.value = true;
  try {
    await work();
    return true;
  } catch (problem) {
    undo.fail(problem);
    return false;
  } finally {
    isBusy.value = false;
  }
}

function write(patch: { subject?: string; html?: string }): void {
  if (!letter.value || !isDraft.value) return;
  letter.value = { ...letter.value, ...patch };
  put(patch);
}
function putRecipients(recipients: (Recipient & { way: Way })[]): void {
  put({ recipients });
  void flush().catch(() => undefined);
}
/** Only the files are read anew: what is being written stays. */
async function showFiles(): Promise<void> {
  const now = await api('GET /api/letters/:id', { params: { id: props.id } }).catch(undo.fail);
  if (now && letter.value) letter.value = { ...letter.value, files: now.files };
}
function putFollowUp(followUp: FollowUp | null): void {
  put({ followUp });
  void flush().catch(() => undefined);
}
const take = (templateId: string): Promise<boolean> =>
  run(async () => {
    const { version } = await flush();
    const { letter: filled } = await api('POST /api/letters/:id/template', {
      params: { id: props.id },
      body: { version, templateId },
    });
    show(filled);
    view.value = 'write';
    text.value?.focusOwn();
  });

async function send(at: string | undefined, anyway: boolean): Promise<void> {
  await run(async () => {
    const { version } = await flush();
    const { eventId, letter: sent } = await api('POST /api/letters/:id/sending', {
      params: { id: props.id },
      body: { version, anyway, ...(at ? { at } : {}) },
    });
    show(sent);
    const leaves = sent.leavesAt ?? '';
    undo.tell({
      text: at ? `Goes out ${day(leaves)} ${clock(leaves)}.` : 'Going out in ten seconds.',
      eventId,
      links: [{ text: 'Open the letter', to: `/letters/${props.id}` }],
    });
    await router.push(recordPath(sent.about));
  });
}
const takeBack = (): Promise<boolean> =>
  run(async () => {
    const { letter: draft, eventId } = await api('DELETE /api/letters/:id/sending', {
      params: { id: props.id },
    });
    show(draft);
    undo.tell({ text: 'Taken back. It is a draft again.', eventId });
  });
const discard = (): Promise<boolean> =>
  run(async () => {
    const { eventId } = await api('DELETE /api/letters/:id', { params: { id: props.id } });
    undo.tell({
      text: 'Letter discarded.',
      eventId,
      links: [{ text: 'My letters', to: '/mailings/letters' }],
    });
    letter.value = null;
    await router.push('/mailings/letters');
  });

const { data: sent } = useFetched(
  () => api('GET /api/letters/:id', { params: { id: props.id } }),
  ['letters', 'letter_recipients'],
  () => [props.id],
);
// What goes on with it meanwhile is shown; what is being written is not touched.
watch(sent, (now) => {
  if (now && letter.value && now.state !== letter.value.state) show(now);
  else if (now && !isDraft.value) show(now);
});

watch(
  () => (letter.value ? isDraft.value : null),
  (is) => void (is === null || look(is ? 'write' : 'preview')),
);

const status = computed(() => {
  const now = letter.value;
  if (!now) return '';
  if (now.state === 'waiting') return `Goes out ${day(now.leavesAt ?? '')} ${clock(now.leavesAt ?? '')}`;
  if (now.state === 'sent') return `Sent ${day(now.sentAt ?? '')} ${clock(now.sentAt ?? '')}`;
  if (isSaving.value) return 'Saving…';
  return now.state === 'failed' ? 'Not sent' : `Draft, saved ${clock(now.updatedAt)}`;
});
</script>

<template>
  <div
    class="letter"
    @keydown.ctrl.enter.prevent="sending?.send()"
    @keydown.meta.enter.prevent="sending?.send()"
  >
    <p v-if="error && !letter" class="wrong page" role="alert">{{ error }}</p>
    <template v-if="letter">
      <section class="left" aria-label="Whom it is to">
        <h1>{{ letter.answersId ? 'Reply' : 'Letter' }}</h1>
        <p class="cap" role="status">{{ status }} · from {{ session.me?.name }}</p>
        <LetterTo :letter="letter" :is-draft="isDraft" @put="putRecipients" />
        <p v-if="letter.about.person" class="about">
          <span class="cap">In the history of</span>
          <RouterLink :to="`/people/${letter.about.person.id}`" class="quiet-link">{{
            letter.about.person.name
          }}</RouterLink>
        </p>
        <LetterFiles :letter="letter" :disabled="!isDraft" @changed="showFiles" />
        <FollowUpLine
          v-if="isDraft || letter.followUp"
          :letter="letter"
          :disabled="!isDraft"
          @put="putFollowUp"
        />
      </section>
      <section class="middle" aria-label="The letter">
        <div class="head">
          <span class="views" role="group" aria-label="How it is shown">
            <v-btn v-if="isDraft" class="word" :aria-pressed="view === 'write'" @click="look('write')"
              >Write</v-btn
            >
            <v-btn class="word" :aria-pressed="view === 'preview'" @click="look('preview')">Preview</v-btn>
            <v-btn class="word" :aria-pressed="view === 'plain'" @click="look('plain')">Plain text</v-btn>
          </span>
        </div>
        <div v-if="isOvertaken" class="wrong overtaken" role="alert">
          This letter was changed elsewhere, perhaps in another tab. What you typed since is not saved.
          <v-btn class="word" @click="load">Show what was saved</v-btn>
        </div>
        <p v-else-if="error" class="wrong" role="alert">{{ error }}</p>
        <template v-if="view === 'write' && isDraft">
          <v-text-field
            :model-value="letter.subject"
            label="Subject"
            maxlength="300"
            autocomplete="off"
            @update:model-value="write({ subject: $event })"
          />
          <RichText
            ref="text"
            :model-value="letter.html"
            label="The letter"
            placeholder="Write here"
            :suggest="suggest"
            @update:model-value="write({ html: $event })"
            @take="take"
          />
        </template>
        <LetterPreview v-else-if="preview" :preview="preview" :is-plain="view === 'plain'" />
      </section>
      <section class="right" aria-label="Sending">
        <SendPart
          v-if="letter.state !== 'sent'"
          ref="sending"
          :letter="letter"
          :is-busy="isBusy"
          @send="send"
          @take-back="takeBack"
          @discard="discard"
        />
        <TemplateList v-if="isDraft" :templates="known" :disabled="isBusy" @take="take" />
        <p v-if="letter.state === 'sent'" class="soft">
          It stands in the history of everybody it is to. What mail servers and they answer is shown on the
          left.
        </p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.letter {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr) 300px;
  min-height: calc(100vh - 124px);
}
.left,
.right {
  display: grid;
  align-content: start;
  gap: 12px;
  padding: 16px 20px;
}
.middle {
  display: grid;
  align-content: start;
  gap: 10px;
  padding: 14px 24px 32px;
  background: var(--sheet);
  border-inline: 1px solid var(--rule);
}
h1,
h2,
.left p,
.right p {
  margin: 0;
}
.head {
  display: flex;
  justify-content: flex-end;
  border-bottom: 1px solid var(--rule);
}
.views {
  display: flex;
  gap: 14px;
}
.views [aria-pressed='true'] {
  font-weight: 700;
}
.about .cap {
  display: block;
}
.overtaken {
  padding: 6px 10px;
  border: 1px solid currentColor;
  border-radius: 3px;
}
@media (max-width: 1100px) {
  .letter {
    grid-template-columns: 260px minmax(0, 1fr);
  }
  .right {
    grid-column: 1 / -1;
    border-top: 1px solid var(--rule);
  }
}
@media (max-width: 760px) {
  .letter {
    grid-template-columns: minmax(0, 1fr);
  }
  .left,
  .middle,
  .right {
    padding: 12px 14px;
    border-inline: 0;
  }
}
</style>
