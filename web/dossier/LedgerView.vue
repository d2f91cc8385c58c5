<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { About, Entry } from '@emporikon/contract/ledger';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../shell/api';
import { counted, monthName } from '../shell/format';
import { reloadOn, usePaged } from '../shell/usePaged';
import { useUndo } from '../shell/undo';
import RecordFiles from '../files/RecordFiles.vue';
import EntryPanel from './EntryPanel.vue';
import LedgerEntry from './LedgerEntry.vue';
import LedgerFilters from './LedgerFilters.vue';
import { blankFilters, isNarrowed, queryOf } from './filters';
import TurnWords from './TurnWords.vue';

const props = defineProps<{ about: About }>();
const undo = useUndo();
const filters = ref(blankFilters());
/** The entry whose details stand beside the page. */
const opened = ref<string | null>(null);
/** When one looked here last: what colleagues entered since stands out until one leaves. */
const looked = api('POST /api/looks', { body: { recordId: Object.values(props.about)[0] ?? '' } }).then(
  ({ before }) => before ?? undefined,
  () => undefined,
);
const { items, first, hasMore, more, error, reload } = usePaged<Entry, Reply<'GET /api/ledger'>>(
  async (cursor) =>
    api('GET /api/ledger', {
      query: { ...props.about, ...queryOf(filters.value), newSince: await looked, cursor },
    }),
  ['ledger_entries', 'ledger_links', 'annotations', 'people', 'file_versions', 'letter_recipients'],
  () => Object.values(props.about),
);
reloadOn(() => filters.value, reload);

/** The exchanges that are unfolded, with their earlier mails. */
const unfolded = shallowRef<Record<string, Entry[]>>({});
watch(items, () => (unfolded.value = {}));
async function unfold({ id, thread }: Entry): Promise<void> {
  if (!thread) return;
  if (unfolded.value[id]) {
    unfolded.value = Object.fromEntries(Object.entries(unfolded.value).filter(([key]) => key !== id));
    return;
  }
  try {
    const page = await api('GET /api/ledger', { query: { ...props.about, thread: thread.id, limit: 200 } });
    unfolded.value = { ...unfolded.value, [id]: page.items.filter((one) => one.id !== id) };
  } catch (problem) {
    undo.fail(problem);
  }
}

interface Line {
  key: string;
  entry: Entry;
  /** The month that begins with it, where it is another than that of the entry above. */
  month: string | null;
  isEarlier: boolean;
}
const monthOf = ({ at }: Entry): string => monthName(new Date(at).toISOString().slice(0, 7));
const lines = computed((): Line[] => {
  let month = '';
  return (items.value ?? []).flatMap((entry) => {
    const now = monthOf(entry);
    const begins = now !== month && month !== '';
    month = now;
    return [
      { key: entry.id, entry, month: begins ? now : null, isEarlier: false },
      ...(unfolded.value[entry.id] ?? []).map((earlier) => ({
        key: `${entry.id} ${earlier.id}`,
        entry: earlier,
        month: null,
        isEarlier: true,
      })),
    ];
  });
});
const pinned = computed(() => (isNarrowed(filters.value) ? [] : (first.value?.pinned ?? [])));

async function markAnswered(): Promise<void> {
  try {
    const { eventId } = await api('POST /api/ledger/answered', { body: props.about });
    undo.tell({ text: 'Marked as answered.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <section class="ledger" aria-label="What happened">
    <div class="head">
      <h2>What happened</h2>
      <TurnWords v-if="first" :turn="first.turn" />
      <v-btn v-if="first?.turn.turn === 'ours'" class="word" @click="markAnswered">Not our turn</v-btn>
      <RecordFiles :about="about" />
      <LedgerFilters v-model="filters" :about="about" />
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <p v-else-if="items && !items.length" class="empty">
      {{
        isNarrowed(filters)
          ? 'Nothing here matches.'
          : 'Nothing logged yet. Write what happened in the line below.'
      }}
    </p>
    <section
      v-if="pinned.length"
      class="pinned"
      :aria-label="counted(pinned.length, 'pinned entry', 'pinned entries')"
    >
      <ol class="spine bare">
        <li v-for="entry in pinned" :key="entry.id" :class="entry.side">
          <LedgerEntry :entry="entry" @open="opened = entry.id" />
        </li>
      </ol>
    </section>
    <ol class="spine">
      <template v-for="line in lines" :key="line.key">
        <li v-if="line.month" class="month">
          <span class="cap">{{ line.month }}</span>
        </li>
        <li :class="[line.entry.side, { earlier: line.isEarlier }]" data-entry>
          <LedgerEntry
            :entry="line.entry"
            :is-unfolded="line.entry.id in unfolded"
            @open="opened = line.entry.id"
            @unfold="unfold(line.entry)"
          />
        </li>
      </template>
    </ol>
    <v-btn v-if="hasMore" v-intersect="(isSeen: boolean) => isSeen && more()" class="quiet" @click="more"
      >Show earlier</v-btn
    >
    <EntryPanel v-if="opened" :id="opened" :key="opened" @close="opened = null" />
  </section>
</template>

<style scoped>
.ledger {
  flex: 1;
  display: flex;
  flex-direction: column;
  padding: 10px 24px 16px;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 4px 16px;
  flex-wrap: wrap;
  padding-bottom: 8px;
  min-height: 38px;
}
.spine {
  flex: 1;
  position: relative;
  list-style: none;
  margin: 0;
  padding: 0;
}
.spine:not(.bare)::before {
  content: '';
  position: absolute;
  left: 50%;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--rule);
}
.pinned {
  border-bottom: 1px solid var(--rule);
  margin-bottom: 12px;
}
li {
  display: grid;
  grid-template-columns: 1fr 92px 1fr;
  margin-bottom: 12px;
  /* Of a long history only what is near is laid out. */
  content-visibility: auto;
  contain-intrinsic-size: auto 56px;
}
.month {
  justify-items: center;
  grid-template-columns: 1fr;
}
.month .cap {
  background: var(--ground);
  padding: 0 8px;
  z-index: 1;
}
.theirs :deep(.said) {
  grid-column: 1;
  text-align: right;
  border-right: 2px solid var(--theirs);
  padding: 0 14px 0 60px;
}
.ours :deep(.said) {
  grid-column: 3;
  border-left: 2px solid var(--ours);
  padding: 0 60px 0 14px;
}
.earlier :deep(.said) {
  border-style: dotted;
}
/* Said where somebody looks at the entry; always where nothing can be pointed at without being pressed. */
@media (hover: hover) {
  li {
    position: relative;
  }
  li :deep(.more) {
    position: absolute;
    top: 0;
    right: 0;
    margin: 0;
  }
  .theirs :deep(.more) {
    right: auto;
    left: 0;
  }
  li:not(:hover, :focus-within) :deep(.more) {
    opacity: 0;
    pointer-events: none;
  }
}
@media (max-width: 700px) {
  .ledger {
    padding: 10px 14px 16px;
  }
  .spine:not(.bare)::before {
    left: 33px;
  }
  li {
    grid-template-columns: 68px 1fr;
  }
  .month {
    grid-template-columns: 1fr;
    justify-items: start;
  }
  .theirs :deep(.said),
  .ours :deep(.said) {
    grid-column: 2;
    text-align: left;
    padding: 0 0 0 10px;
    border-right: 0;
  }
  .theirs :deep(.said) {
    border-left: 2px solid var(--theirs);
  }
}
</style>
