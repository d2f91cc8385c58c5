<script setup lang="ts">
import type { EntryDetail } from '@emporikon/contract/ledger';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import type { Begun } from '../make/around';
import EditCell from '../kit/EditCell.vue';
import SidePanel from '../kit/SidePanel.vue';
import { CHANNELS } from '../kit/icons';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import PresenceLine from '../presence/PresenceLine.vue';
import { usePresence } from '../presence/usePresence';
import VisibilityDialog from '../visibility/VisibilityDialog.vue';
import { isBad, outcomeWords } from '../letters/outcomes';
import WriteButton from '../letters/WriteButton.vue';
import FileLink from '../files/FileLink.vue';
import EntryRecords from './EntryRecords.vue';
import ProposedTasks from './ProposedTasks.vue';

/** One entry of a ledger with all that was said, what it belongs to, and what somebody wrote beside it for themselves. */
const props = defineProps<{ id: string }>();
const emit = defineEmits<{ close: [] }>();
const undo = useUndo();
const present = usePresence(() => props.id, 'ledger.change');
const isSightOpen = ref(false);
const {
  data: entry,
  error,
  isGone,
  load,
} = useFetched(
  () => api('GET /api/ledger/:id', { params: { id: props.id } }),
  ['ledger_entries', 'ledger_links', 'annotations', 'letter_recipients'],
  () => [props.id],
);

/** What they told us may be trouble; it is a case of theirs then. */
const TOLD: readonly EntryDetail['kind'][] = ['mail', 'call', 'meeting', 'visit', 'form'];
const MakeDialog = defineAsyncComponent(() => import('../make/MakeDialog.vue'));
const isCase = ref(false);
const begunCase = computed((): Begun | null => {
  const told = entry.value;
  if (!told || told.cases.length || !TOLD.includes(told.kind)) return null;
  const [person, company] = [told.people[0], told.companies[0]];
  return person || company
    ? {
        entry: { id: told.id, label: told.headline },
        name: told.headline,
        ...(person ? { person: { id: person.id, label: person.name } } : {}),
        ...(company ? { company: { id: company.id, label: company.name } } : {}),
      }
    : null;
});

watch(isGone, (gone) => gone && emit('close'));

const WRITTEN = ['note', 'call', 'mail', 'meeting', 'visit'] as const;
const OUTCOMES = [
  { value: 'spoke', title: 'Spoke' },
  { value: 'no answer', title: 'No answer' },
  { value: 'voicemail', title: 'Voicemail' },
  { value: 'moved', title: 'Moved' },
];
const isEditable = computed(
  () =>
    entry.value?.isMine === true &&
    !entry.value.captureId &&
    WRITTEN.some((kind) => kind === entry.value?.kind),
);
/** Of a change that one made one can say why. */
const isReason = computed(() => entry.value?.isMine === true && entry.value.kind === 'change');
const hasOutcome = computed(() => ['call', 'meeting', 'visit'].includes(entry.value?.kind ?? ''));
const outcomeWord = computed(
  () => OUTCOMES.find((one) => one.value === entry.value?.outcome)?.title ?? 'Not said',
);

/** A day as the entry has it, and with a new day its own time. */
const dayOf = ({ at }: EntryDetail): string => {
  const local = new Date(at);
  return [local.getFullYear(), local.getMonth() + 1, local.getDate()]
    .map((part) => String(part).padStart(2, '0'))
    .join('-');
};
function atDay(day: string): string {
  const local = new Date(entry.value?.at ?? '');
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  local.setFullYear(year, month - 1, date);
  return new Date(Math.min(local.getTime(), Date.now())).toISOString();
}

const change = (body: Record<string, unknown>) => async (version: number) => {
  const { eventId } = await api('PATCH /api/ledger/:id', {
    params: { id: props.id },
    body: { version, ...body },
  });
  undo.tell({ text: 'Changed the entry.', eventId });
};
const saver = (field: string, of: (text: string) => unknown = (text) => text) =>
  isEditable.value ? (text: string, version: number) => change({ [field]: of(text) })(version) : undefined;

async function run(text: string, command: () => Promise<{ eventId: string | null }>): Promise<boolean> {
  try {
    const { eventId } = await command();
    undo.tell({ text, eventId });
    return true;
  } catch (problem) {
    undo.fail(problem);
    return false;
  }
}
const pin = (isPinned: boolean): Promise<boolean> =>
  run(isPinned ? 'Pinned.' : 'No longer pinned.', () =>
    api('PATCH /api/ledger/:id', { params: { id: props.id }, body: { isPinned } }),
  );
async function remove(): Promise<void> {
  if (await run('Removed the entry.', () => api('DELETE /api/ledger/:id', { params: { id: props.id } })))
    emit('close');
}
const annotate = (words: string): Promise<{ eventId: string | null }> =>
  api('PUT /api/ledger/:id/annotation', { params: { id: props.id }, body: { words } });
const share = (): Promise<boolean> =>
  run('Shared as a note.', () => api('POST /api/ledger/:id/annotation/share', { params: { id: props.id } }));
</script>

<template>
  <SidePanel label="Entry" @close="emit('close')">
    <div class="entry">
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="entry">
        <p class="cap">
          {{ CHANNELS[entry.kind].word }} · {{ when(entry.at)
          }}<template v-if="entry.actor"> · {{ entry.actor }}</template>
          <PresenceLine :others="present" />
        </p>
        <h2 v-if="!isEditable">{{ entry.headline }}</h2>
        <dl v-else class="facts">
          <dt class="cap">What happened</dt>
          <dd>
            <EditCell
              :value="entry.headline"
              label="What happened"
              :save="saver('headline')"
              :version="entry.version"
              field="headline"
            />
          </dd>
          <dt class="cap">More about it</dt>
          <dd>
            <EditCell
              :value="entry.body"
              label="More about it"
              kind="long"
              :save="saver('body')"
              :version="entry.version"
              field="body"
            />
          </dd>
          <dt class="cap">Day</dt>
          <dd>
            <EditCell
              :value="dayOf(entry)"
              :shown="when(entry.at)"
              label="Day"
              kind="date"
              :save="saver('at', atDay)"
              :version="entry.version"
              field="at"
            />
          </dd>
          <template v-if="hasOutcome">
            <dt class="cap">How it went</dt>
            <dd>
              <EditCell
                :value="entry.outcome"
                :shown="outcomeWord"
                label="How it went"
                kind="choice"
                :options="OUTCOMES"
                :save="saver('outcome')"
                :version="entry.version"
                field="outcome"
              />
            </dd>
          </template>
        </dl>
        <dl v-if="isReason" class="facts">
          <dt class="cap">Why</dt>
          <dd>
            <EditCell
              :value="entry.body"
              label="Why"
              placeholder="Say why, for your colleagues"
              :save="(text, version) => change({ body: text })(version)"
              :version="entry.version"
              field="body"
            />
          </dd>
        </dl>
        <p v-else-if="!isEditable" class="whole">{{ entry.said }}</p>
        <RouterLink v-if="entry.captureId" :to="`/arrivals/${entry.captureId}`" class="quiet-link"
          >Open the message</RouterLink
        >
        <p v-if="entry.captureId && entry.kind === 'mail'" class="ways">
          <WriteButton :letter="{ answers: { captureId: entry.captureId, how: 'reply' } }">Reply</WriteButton>
          <WriteButton :letter="{ answers: { captureId: entry.captureId, how: 'reply all' } }"
            >Reply to all</WriteButton
          >
          <WriteButton :letter="{ answers: { captureId: entry.captureId, how: 'forward' } }"
            >Forward</WriteButton
          >
        </p>
        <ul v-if="entry.letter.length" class="revisions" aria-label="What became of it">
          <li v-for="one in entry.letter" :key="one.address">
            {{ one.name || one.address }}:
            <span :class="{ wrong: isBad(one) }">{{ outcomeWords(one) }}</span>
            <span v-if="one.words" class="soft"> {{ one.words }}</span>
          </li>
        </ul>
        <p v-if="entry.files.length" class="ways">
          <FileLink v-for="file in entry.files" :key="file.id" :file="file" />
        </p>
        <ProposedTasks :entry="entry" @taken="load" />
        <EntryRecords :entry="entry" />
        <h3>Private note</h3>
        <p class="soft">Only you see this.</p>
        <EditCell
          :value="entry.annotation"
          label="Private note"
          kind="long"
          placeholder="Add a private note"
          :save="annotate"
          :version="1"
        />
        <v-btn v-if="entry.annotation" class="word" @click="share">Share as a note</v-btn>
        <template v-if="entry.revisions.length">
          <h3>What it said before</h3>
          <ol class="revisions">
            <li v-for="revision in entry.revisions" :key="revision.until">
              <span class="cap">until {{ when(revision.until) }}</span>
              {{ revision.headline }}
              <span v-if="revision.body" class="soft">{{ revision.body }}</span>
              <span v-if="revision.at !== entry.at" class="soft">({{ when(revision.at) }})</span>
            </li>
          </ol>
        </template>
        <div class="ways last">
          <v-btn class="word" @click="pin(!entry.isPinned)">{{ entry.isPinned ? 'Unpin' : 'Pin' }}</v-btn>
          <v-btn v-if="begunCase" class="word" @click="isCase = true">Open a case</v-btn>
          <v-btn class="word" @click="isSightOpen = true">Who can see it</v-btn>
          <v-btn v-if="isEditable" class="word" @click="remove">Remove</v-btn>
        </div>
      </template>
    </div>
    <MakeDialog v-if="isCase && begunCase" what="case" :begun="begunCase" @close="isCase = false" />
    <VisibilityDialog v-if="isSightOpen" :id="id" kind="ledger" @close="isSightOpen = false" />
  </SidePanel>
</template>

<style scoped>
.entry {
  padding: 14px 24px 24px;
}
.whole {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  max-width: 70ch;
}
h3 {
  margin: 18px 0 2px;
}
.facts {
  margin: 8px 0 0;
}
.facts dt {
  border-top: 1px solid var(--rule);
  padding-top: 4px;
}
.facts dd {
  margin: 0 0 6px;
}
.revisions {
  list-style: none;
  margin: 0;
  padding: 0;
}
.revisions li {
  border-top: 1px solid var(--rule);
  padding: 4px 0;
}
.revisions .cap {
  display: block;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
}
.last {
  margin-top: 20px;
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
@media (max-width: 700px) {
  .entry {
    padding: 12px 14px 20px;
  }
}
</style>
