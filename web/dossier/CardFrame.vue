<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue';
import { useMedia, useStored } from '../shell/browser';
import CardOrder from './CardOrder.vue';

defineProps<{
  name: string;
  /** Where the record is as one sheet of paper. */
  paper?: string;
  /** Which kind of record it is, by which everybody arranges cards for themselves. */
  kind: string;
}>();
const facts = ref<HTMLElement | null>(null);
/** Folded to one line, the card leaves the whole page to the ledger. */
const isKeptFolded = useStored('emporikon.card.folded', false);
/** A phone that lies on its side has room for the card or for the ledger. */
const isShort = useMedia('(max-height: 500px)');
const isUnfolded = ref(false);
const isFolded = computed({
  get: () => isKeptFolded.value || (isShort.value && !isUnfolded.value),
  set(fold) {
    isUnfolded.value = !fold;
    if (!fold || !isShort.value) isKeptFolded.value = fold;
  },
});
/** A full card shows what fits above the ledger; the rest comes when asked for. */
const isWhole = ref(false);
const isPhone = useMedia('(max-width: 700px)');
const isMore = ref(false);
const body = ref<HTMLElement | null>(null);
/** What would be cut through is left out, so that nothing is pressed of which only a part is seen. */
function leaveOutCut(shown: HTMLElement): void {
  const bottom = isWhole.value ? Infinity : shown.getBoundingClientRect().bottom + 1;
  for (const part of shown.querySelectorAll('.fact, a, button, .v-input'))
    part.toggleAttribute('data-cut', part.getBoundingClientRect().bottom > bottom);
}
function fit(): void {
  const shown = body.value;
  if (!shown) return;
  if (!isWhole.value) {
    const hidesEmpty = isPhone.value && shown.querySelector('[data-empty]') !== null;
    isMore.value = hidesEmpty || shown.scrollHeight > shown.clientHeight + 4;
    // What somebody opens in the card is seen.
    if (isMore.value && !hidesEmpty && shown.contains(document.activeElement)) isWhole.value = true;
  }
  leaveOutCut(shown);
}
const watcher = new ResizeObserver(fit);
watch(isWhole, () => void nextTick(fit));
watch(body, (now) => {
  watcher.disconnect();
  if (!now) return;
  watcher.observe(now);
  for (const part of now.children) watcher.observe(part);
});
onBeforeUnmount(() => watcher.disconnect());
</script>

<template>
  <section class="card" :class="{ folded: isFolded }" aria-label="Card">
    <header>
      <h1>{{ name }}</h1>
      <slot name="role"></slot>
      <span class="fold">
        <v-btn
          v-if="!isFolded && (isMore || isWhole)"
          class="word"
          :aria-expanded="isWhole"
          @click="isWhole = !isWhole"
        >
          {{ isWhole ? 'Show less' : 'Show all' }}
        </v-btn>
        <CardOrder
          v-if="!isFolded"
          :kind="kind"
          :facts="facts"
          :is-offered="isWhole || !isMore"
          @arranged="fit"
        />
        <v-btn v-if="!isFolded && paper" class="word" :href="paper" download>One-page PDF</v-btn>
        <v-btn class="word" :aria-expanded="!isFolded" @click="isFolded = !isFolded">
          {{ isFolded ? 'Unfold' : 'Fold' }}
        </v-btn>
      </span>
    </header>
    <div v-if="!isFolded" ref="body" class="body" :class="{ whole: isWhole }">
      <div ref="facts" class="facts"><slot name="facts"></slot></div>
      <slot name="side"></slot>
    </div>
  </section>
</template>

<style scoped>
.card {
  background: var(--sheet);
  border-bottom: 1px solid var(--rule);
  padding: 8px 24px 4px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 4px 14px;
  flex-wrap: wrap;
  margin-bottom: 2px;
  color: var(--soft);
}
header h1 {
  color: var(--ink);
}
.fold {
  margin-left: auto;
  display: flex;
  gap: 14px;
}
.folded header {
  margin: 0;
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr);
  gap: 2px 28px;
  align-items: start;
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 0 24px;
  align-content: start;
  min-width: 0;
}
/* The ledger below has nearly half of the page, however full the card is. */
@media (min-width: 701px) {
  .body:not(.whole) {
    max-height: max(198px, calc(100vh - 602px));
    /* Not hidden: what is clipped cannot be scrolled, so nothing moves under a press. */
    overflow: clip;
  }
  .body :deep([data-cut]) {
    visibility: hidden;
  }
}
@media (max-width: 1000px) {
  .body {
    grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  }
}
@media (max-width: 700px) {
  .card {
    padding: 12px 14px;
  }
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
  .facts {
    grid-template-columns: 1fr 1fr;
    gap: 0 14px;
  }
  /* What is not known yet is added when all is asked for; on a phone it would push away what comes next. */
  .body:not(.whole) :deep(.fact[data-empty]) {
    display: none;
  }
}
</style>
