<script setup lang="ts">
import type { About, ComposerReading } from '@emporikon/contract/ledger';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { api, wordsOf } from '../shell/api';
import { due, money } from '../shell/format';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { letterIn } from '@emporikon/core/ledger/letterLine';
import { useNewLetter } from '../letters/useNewLetter';
import { useTeam } from '../shell/useTeam';
import { answering } from './answering';
import { calledAt, type Called } from './calling';

const props = defineProps<{ about: About; placeholder?: string }>();
/** Which of several open deals a sum is meant for. */
const dealId = ref<string | null>(null);
const about = computed((): About => ({ ...props.about, ...(dealId.value ? { dealId: dealId.value } : {}) }));
const undo = useUndo();
const session = useSession();
const mayWrite = computed(() => session.may('ledger.add') || session.may('tasks.add'));
const line = ref('');
const reading = ref<ComposerReading | null>(null);
const leftOut = ref<('nextMove' | 'entry' | 'dealAmount')[]>([]);
const error = ref('');
const isBusy = ref(false);
const PAUSE_MS = 60;
let timer: ReturnType<typeof setTimeout> | undefined;

watch([line, dealId], ([text]) => {
  clearTimeout(timer);
  error.value = '';
  if (!text.trim()) {
    reading.value = null;
    leftOut.value = [];
    dealId.value = null;
    return;
  }
  timer = setTimeout(() => {
    api('POST /api/composer', { body: { line: text, about: about.value } }).then(
      (answer) => {
        if (line.value === text) reading.value = answer;
      },
      (problem: unknown) => (error.value = wordsOf(problem)),
    );
  }, PAUSE_MS);
});

const field = useTemplateRef<{ focus: () => void }>('field');
watch(answering, (answer) => {
  if (!answer) return;
  line.value = answer.words + line.value;
  field.value?.focus();
});

const team = useTeam();
const caret = ref(0);
const called = computed(() => calledAt(line.value, caret.value, team.value));
const form = useTemplateRef('form');
const input = (): HTMLInputElement | null => form.value?.querySelector('input') ?? null;
const noteCaret = (): void => void (caret.value = input()?.selectionStart ?? line.value.length);
/** Writes the name of a colleague in full, and goes on behind it. */
function call({ handle }: Called): void {
  const { start } = called.value;
  line.value = `${line.value.slice(0, start)}${handle} ${line.value.slice(caret.value)}`;
  caret.value = start + handle.length + 1;
  void nextTick(() => {
    input()?.focus();
    input()?.setSelectionRange(caret.value, caret.value);
  });
}
function complete(event: KeyboardEvent): void {
  const [first] = called.value.choices;
  if (!first || event.shiftKey) return;
  event.preventDefault();
  call(first);
}

/** The line cut where what was understood begins and ends, for the light behind the words. */
const stretches = computed(() => {
  const text = line.value;
  const pieces: { text: string; isLit: boolean }[] = [];
  let from = 0;
  for (const { start, end } of reading.value?.lit ?? []) {
    if (start < from || end > text.length) continue;
    pieces.push(
      { text: text.slice(from, start), isLit: false },
      { text: text.slice(start, end), isLit: true },
    );
    from = end;
  }
  return [...pieces, { text: text.slice(from), isLit: false }];
});
/** The input scrolls under its own words; the light goes along. */
const scrolled = ref(0);
const follow = (event: Event): void => {
  noteCaret();
  scrolled.value = (event.target as HTMLInputElement).scrollLeft;
};

/** A line that begins a letter: it is opened, not saved. */
const letter = computed(() => letterIn(line.value));
const { write } = useNewLetter();

const KIND_NAMES = { note: 'Note', call: 'Call', mail: 'Mail', meeting: 'Meeting', visit: 'Visit' } as const;
const parts = computed(() => {
  const { value } = reading;
  if (!value || letter.value) return [];
  const { nextMove, entry, dealAmount } = value;
  return [
    ...(nextMove
      ? [
          {
            key: 'nextMove' as const,
            name: 'Next move',
            words: `${nextMove.title}, ${due(nextMove)}${nextMove.assumedDate ? ' (no day given)' : ''}, ${nextMove.assignee.split(' ')[0] ?? ''}${nextMove.repeatWords ? `, ${nextMove.repeatWords}` : ''}${nextMove.isUrgent ? ', urgent' : ''}`,
          },
        ]
      : []),
    ...(entry
      ? [
          {
            key: 'entry' as const,
            name: entry.side === 'theirs' ? `${KIND_NAMES[entry.kind]} from them` : KIND_NAMES[entry.kind],
            words: [
              entry.headline,
              entry.outcome === 'spoke' ? null : entry.outcome,
              entry.at ? due({ dueAt: entry.at, allDay: false }) : null,
            ]
              .filter(Boolean)
              .join(', '),
          },
        ]
      : []),
    ...(dealAmount
      ? [
          {
            key: 'dealAmount' as const,
            name: 'Deal',
            words: `${money(dealAmount.minor, dealAmount.currency)} (was ${money(dealAmount.was, dealAmount.currency)})`,
          },
        ]
      : []),
  ];
});

function toggle(key: (typeof parts.value)[number]['key']): void {
  leftOut.value = leftOut.value.includes(key)
    ? leftOut.value.filter((one) => one !== key)
    : [...leftOut.value, key];
}

async function save(): Promise<void> {
  const text = line.value.trim();
  if (!text || isBusy.value) return;
  if (letter.value) {
    const { to, words } = letter.value;
    return write({ about: about.value, words, ...(to ? { toName: to } : {}) });
  }
  isBusy.value = true;
  try {
    const { saved, eventId } = await api('POST /api/ledger', {
      body: { line: text, about: about.value, leaveOut: leftOut.value },
    });
    line.value = '';
    undo.tell({ text: `Saved: ${saved.join(', ')}.`, eventId });
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <form v-if="mayWrite" ref="form" class="composer" @submit.prevent="save">
    <div class="line">
      <div class="light" aria-hidden="true">
        <div :style="{ transform: `translateX(${-scrolled}px)` }">
          <span v-for="(piece, index) in stretches" :key="index" :class="{ lit: piece.isLit }">{{
            piece.text
          }}</span>
        </div>
      </div>
      <v-text-field
        ref="field"
        v-model="line"
        aria-label="Write what happened or what comes next"
        aria-describedby="made"
        :placeholder="
          placeholder ?? 'Write a note, what happened or what comes next: call Thursday 11am about the quote'
        "
        maxlength="2000"
        autocomplete="off"
        @scroll="follow"
        @input="follow"
        @keyup="noteCaret"
        @click="noteCaret"
        @keydown.tab="complete"
      />
      <span class="key" aria-hidden="true">Enter saves</span>
    </div>
    <div id="made" class="made" aria-live="polite">
      <span v-if="error" class="wrong">{{ error }}</span>
      <span v-if="letter"
        ><b>Letter</b> {{ letter.to ? `to ${letter.to}` : '' }}: {{ letter.words }}
        <span class="hint">Enter opens it</span></span
      >
      <span v-if="called.choices.length" role="group" aria-label="Colleagues">
        <v-btn v-for="one in called.choices" :key="one.id" class="word" @click="call(one)">{{
          one.name
        }}</v-btn>
        <span class="hint">Tab takes the first</span>
      </span>
      <span v-if="reading?.dealChoices.length" role="group" aria-label="Which deal is the sum for?">
        <b>Which deal is the sum for?</b>
        <v-btn v-for="one in reading.dealChoices" :key="one.id" class="word" @click="dealId = one.id">
          {{ one.name }}
        </v-btn>
      </span>
      <span
        v-for="part in parts"
        :key="part.key"
        :class="{ out: leftOut.includes(part.key) }"
        :data-part="part.key"
      >
        <b>{{ part.name }}</b> {{ part.words }}
        <v-btn
          class="word"
          :aria-label="`${leftOut.includes(part.key) ? 'Keep' : 'Leave out'} ${part.name}`"
          @click="toggle(part.key)"
        >
          {{ leftOut.includes(part.key) ? 'Keep' : 'Leave out' }}
        </v-btn>
      </span>
    </div>
  </form>
</template>

<style scoped>
.composer {
  position: sticky;
  bottom: 0;
  z-index: 5;
  border-top: 1px solid var(--rule);
  background: var(--sheet);
  padding: 10px 24px 6px;
}
.line {
  position: relative;
  background: var(--ground);
}
.line :deep(.v-field) {
  background: transparent;
}
.line :deep(input) {
  min-height: 36px;
  font-size: 15px;
  padding: 0 110px 0 12px;
}
.light {
  position: absolute;
  inset: 0 110px 0 0;
  padding: 0 0 0 13px;
  font: 15px/38px var(--ui);
  white-space: pre;
  overflow: hidden;
  color: transparent;
}
.light .lit {
  background: var(--lit);
  border-radius: 2px;
  padding: 2px 0;
}
.key {
  position: absolute;
  right: 12px;
  top: 10px;
}
.made {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  font-size: 13px;
  min-height: 8px;
  align-items: baseline;
  color: var(--soft);
}
.made b {
  color: var(--ink);
}
.hint {
  margin-left: 10px;
}
.out {
  text-decoration: line-through;
}
@media (max-width: 700px) {
  .composer {
    bottom: 58px;
    padding: 8px 14px 4px;
  }
  .key {
    display: none;
  }
  .line :deep(input) {
    min-height: 44px;
    padding-right: 12px;
  }
  .light {
    right: 12px;
    line-height: 46px;
  }
}
</style>
