<script setup lang="ts">
import type { Entry } from '@emporikon/contract/ledger';
import { computed } from 'vue';
import ChannelIcon from '../kit/ChannelIcon.vue';
import { CHANNELS } from '../kit/icons';
import { isBad, lettersOutcome } from '../letters/outcomes';
import FileLink from '../files/FileLink.vue';
import { answerTo } from './answering';
import { clock, counted, day, nameList, plainNumber } from '../shell/format';

/** One entry of a ledger: theirs on the left of the spine, ours on the right, what is between us on the spine itself. */
const props = defineProps<{
  entry: Entry;
  /** Its exchange is unfolded below it. */
  isUnfolded?: boolean;
}>();
const emit = defineEmits<{ open: []; unfold: [] }>();

const who = computed(() => {
  const { actor, side, people } = props.entry;
  if (actor) return actor;
  if (side === 'ours') return 'us';
  return nameList(people.map((person) => person.name));
});
/** The word of the kind, with how it went where that is not as one expects. */
const kind = computed(() => {
  const { kind, outcome } = props.entry;
  const { word } = CHANNELS[kind];
  return outcome && outcome !== 'spoke' ? `${word}, ${outcome}` : word;
});
/** What became of a letter that was sent from here. */
const came = computed(() => lettersOutcome(props.entry.letter));
const marks = computed(() => [
  ...(props.entry.tone && props.entry.tone !== 'neutral' ? [`sounds ${props.entry.tone}`] : []),
  ...(props.entry.isPinned ? ['Pinned'] : []),
  ...(props.entry.editedAt ? ['Edited'] : []),
  ...(props.entry.isAnnotated ? ['Your private note'] : []),
]);
</script>

<template>
  <div v-if="entry.side === 'within'" class="note" :class="[entry.kind, { fresh: entry.isNew }]">
    <span v-if="entry.isNew" class="new">New</span>
    <ChannelIcon :channel="entry.kind" is-beside-word />
    <b v-if="entry.kind === 'note'">Note</b>
    <template v-if="!entry.files.length"> {{ entry.headline }}</template>
    <template v-for="file in entry.files" :key="file.id">
      <FileLink :file="file" /><span v-if="file.number > 1">, version {{ plainNumber(file.number) }}</span>
    </template>
    <span v-if="entry.body" class="soft clamp">{{ entry.body }}</span>
    <span class="soft"
      >{{ entry.actor?.split(' ')[0] ?? 'Automatically' }}, {{ day(entry.at)
      }}<template v-for="mark in marks" :key="mark"> · {{ mark }}</template></span
    >
    <v-btn
      v-if="entry.kind === 'note' && entry.actor && !entry.isMine"
      class="word"
      :aria-label="`Answer ${entry.actor}: ${entry.headline}`"
      @click="answerTo(entry.actor)"
      >Answer</v-btn
    >
    <v-btn class="word more" :aria-label="`Details: ${entry.headline}`" @click="emit('open')">Details</v-btn>
  </div>
  <template v-else>
    <time class="when" :datetime="entry.at">{{ day(entry.at) }}<br />{{ clock(entry.at) }}</time>
    <div class="said" :class="{ fresh: entry.isNew }">
      <b><span v-if="entry.isNew" class="new">New</span> {{ entry.headline }}</b>
      <div v-if="entry.body" class="soft clamp">{{ entry.body }}</div>
      <div v-if="entry.files.length" class="attached">
        <FileLink v-for="file in entry.files" :key="file.id" :file="file" />
      </div>
      <div class="cap">
        <ChannelIcon :channel="entry.kind" is-beside-word /> {{ kind
        }}<template v-if="who"> · {{ who }}</template
        ><template v-for="mark in marks" :key="mark"> · {{ mark }}</template>
        <template v-if="came">
          · <span :class="{ wrong: entry.letter.some(isBad) }">{{ came }}</span></template
        >
        <template v-if="entry.thread">
          ·
          <v-btn class="word" :aria-expanded="isUnfolded === true" @click="emit('unfold')">
            {{
              isUnfolded
                ? 'Fold the exchange'
                : `${plainNumber(entry.thread.count - 1)} earlier ${counted(entry.thread.count - 1, 'email').replace(/^\S+ /, '')}`
            }}
          </v-btn></template
        >
        <template v-if="entry.captureId">
          ·
          <RouterLink :to="`/arrivals/${entry.captureId}`" class="quiet-link"
            >Open the message</RouterLink
          ></template
        >
        <v-btn class="word more" :aria-label="`Details: ${entry.headline}`" @click="emit('open')"
          >Details</v-btn
        >
      </div>
    </div>
  </template>
</template>

<style scoped>
.when {
  grid-column: 2;
  grid-row: 1;
  text-align: center;
  font-size: 12px;
  color: var(--soft);
  background: var(--ground);
  align-self: start;
  z-index: 1;
}
.said {
  grid-row: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.clamp {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
}
.note {
  grid-column: 1 / 4;
  justify-self: center;
  background: var(--ground);
  border: 1px dashed var(--wait-line);
  border-radius: 3px;
  padding: 4px 14px;
  max-width: 560px;
  z-index: 1;
  font-size: 13px;
  overflow-wrap: anywhere;
}
/* What was changed is told on the spine, without a frame: it is read past. */
.note:is(.change, .task) {
  border-color: transparent;
  padding-block: 0;
}
.new {
  color: var(--wait);
  font: 600 12px/1 var(--ui);
  margin-right: 4px;
}
.more {
  margin-left: 8px;
}
.attached {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.theirs .attached {
  justify-content: flex-end;
}
@media (max-width: 700px) {
  .when {
    grid-column: 1;
  }
}
</style>
