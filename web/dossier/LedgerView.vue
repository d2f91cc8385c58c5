<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { About, Entry } from '@emporikon/contract/ledger';
import { ref, watch } from 'vue';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import ChannelIcon from '../kit/ChannelIcon.vue';
import { CHANNELS } from '../kit/icons';
import { usePaged } from '../shell/usePaged';
import VisibilityDialog from '../visibility/VisibilityDialog.vue';
import TurnWords from './TurnWords.vue';

const props = defineProps<{ about: About }>();
const KINDS = [
  { value: 'all', name: 'All' },
  { value: 'mail', name: 'Email' },
  { value: 'call', name: 'Calls' },
  { value: 'meeting', name: 'Meetings' },
  { value: 'note', name: 'Notes' },
] as const;
/** The entry of which it is asked who can see it. */
const sightOf = ref<string | null>(null);
const kind = ref<(typeof KINDS)[number]['value']>('all');
const { items, first, hasMore, more, error, reload } = usePaged<Entry, Reply<'GET /api/ledger'>>(
  (cursor) =>
    api('GET /api/ledger', {
      query: { ...props.about, kind: kind.value === 'all' ? undefined : kind.value, cursor },
    }),
  ['ledger_entries', 'ledger_links', 'people'],
  () => Object.values(props.about),
);
watch(kind, reload);
</script>

<template>
  <section class="ledger" aria-label="What happened">
    <div class="head">
      <h2>What happened</h2>
      <TurnWords v-if="first" :turn="first.turn" />
      <span class="kinds"
        ><v-btn
          v-for="one in KINDS"
          :key="one.value"
          class="word"
          :aria-pressed="kind === one.value"
          @click="kind = one.value"
        >
          {{ one.name }}
        </v-btn></span
      >
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <p v-else-if="items && !items.length" class="empty">
      {{
        kind !== 'all'
          ? 'Nothing of this kind yet.'
          : 'Nothing logged yet. Write what happened in the line below.'
      }}
    </p>
    <ol class="spine">
      <li v-for="entry in items ?? []" :key="entry.id" :class="entry.side" data-entry>
        <div v-if="entry.side === 'within'" class="note">
          <ChannelIcon :channel="entry.kind" is-beside-word />
          <b v-if="entry.kind !== 'quote'">Note</b> {{ entry.headline }}
          <span class="soft">{{ entry.actor?.split(' ')[0] }}, {{ day(entry.at) }}</span>
          <v-btn class="word sight" @click="sightOf = entry.id">Who can see it</v-btn>
        </div>
        <template v-else>
          <time class="when" :datetime="entry.at">{{ day(entry.at) }}<br />{{ clock(entry.at) }}</time>
          <div class="said">
            <b>{{ entry.headline }}</b>
            <div v-if="entry.body" class="soft body">{{ entry.body }}</div>
            <div class="cap">
              <ChannelIcon :channel="entry.kind" is-beside-word /> {{ CHANNELS[entry.kind].word
              }}{{ entry.outcome && entry.outcome !== 'spoke' ? `, ${entry.outcome}` : ''
              }}<template v-if="entry.actor"> · {{ entry.actor }}</template
              ><template v-else-if="entry.side === 'ours'"> · us</template
              ><template v-else-if="entry.people.length">
                · {{ entry.people.map((one) => one.name).join(', ') }}</template
              >
              <template v-if="entry.captureId">
                ·
                <RouterLink :to="`/arrivals/${entry.captureId}`" class="quiet-link"
                  >Open the message</RouterLink
                ></template
              >
              <v-btn class="word sight" @click="sightOf = entry.id">Who can see it</v-btn>
            </div>
          </div>
        </template>
      </li>
    </ol>
    <v-btn v-if="hasMore" class="quiet" @click="more">Show earlier</v-btn>
    <VisibilityDialog v-if="sightOf" :id="sightOf" kind="ledger" @close="sightOf = null" />
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
.kinds {
  margin-left: auto;
  display: flex;
  gap: 10px;
}
.spine {
  flex: 1;
  position: relative;
  list-style: none;
  margin: 0;
  padding: 0;
}
.spine::before {
  content: '';
  position: absolute;
  left: 50%;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--rule);
}
li {
  display: grid;
  grid-template-columns: 1fr 92px 1fr;
  margin-bottom: 12px;
}
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
.theirs .said {
  grid-column: 1;
  text-align: right;
  border-right: 2px solid var(--theirs);
  padding: 0 14px 0 60px;
}
.ours .said {
  grid-column: 3;
  border-left: 2px solid var(--ours);
  padding: 0 60px 0 14px;
}
.body {
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
}
/* Said where somebody looks at the entry; always where nothing can be pointed at without being pressed. */
.sight {
  margin-left: 8px;
}
@media (hover: hover) {
  li {
    position: relative;
  }
  .sight {
    position: absolute;
    top: 0;
    right: 0;
    margin: 0;
  }
  .theirs .sight {
    right: auto;
    left: 0;
  }
  li:not(:hover, :focus-within) .sight {
    opacity: 0;
  }
}
@media (max-width: 700px) {
  .ledger {
    padding: 10px 14px 16px;
  }
  .spine::before {
    left: 33px;
  }
  li {
    grid-template-columns: 68px 1fr;
  }
  .when {
    grid-column: 1;
  }
  .theirs .said,
  .ours .said {
    grid-column: 2;
    text-align: left;
    padding: 0 0 0 10px;
    border-right: 0;
  }
  .theirs .said {
    border-left: 2px solid var(--theirs);
  }
}
</style>
